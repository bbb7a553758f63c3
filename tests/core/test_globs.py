"""Which files patterns name, held against the standard library's one by one."""

from __future__ import annotations

from fnmatch import fnmatchcase
from pathlib import PurePosixPath

from hypothesis import given
from hypothesis import strategies as st

from oak_square.core.globs import names_file

LETTERS = "ab*?[]!-./"
FILES = st.text("ab./[]", min_size=1, max_size=6).filter(lambda t: PurePosixPath(t).name)


@given(st.lists(st.text(LETTERS, max_size=5), max_size=4), FILES)
def test_several_patterns_name_what_one_of_them_does(globs, file):
    path = PurePosixPath(file)
    alone = any(fnmatchcase(form, glob) for glob in globs for form in (file, path.name, path.stem))
    assert names_file(globs, file) == alone


def test_a_path_a_name_and_a_stem_are_all_told():
    for glob in ("locks/gate.glb", "gate.glb", "gate", "locks/*", "g?te"):
        assert names_file([glob], "locks/gate.glb"), glob
    assert not names_file(["Gate", "ate", "locks"], "locks/gate.glb")
