from __future__ import annotations

import re
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parent.parent
DOCS = [ROOT / "README.md", *sorted((ROOT / "docs").rglob("*.md"))]
HOMES = [ROOT, ROOT / "src" / "oak_square", ROOT / "docs"]


@pytest.mark.parametrize("doc", DOCS, ids=lambda d: d.name)
def test_paths_named_in_the_docs_exist(doc):
    text = doc.read_text()
    named = set(re.findall(r"`((?:[\w.]+/)+[\w.]*)`", text)) | set(re.findall(r"\]\((?!http)([^)#]+)\)", text))
    for name in named - {"models/", "delivery/"}:
        assert any((home / name).exists() for home in [doc.parent, *HOMES]), name


def test_every_picture_is_linked_from_the_readme_and_there_are_few():
    pictures = sorted((ROOT / "docs" / "screenshots").glob("*.png"))
    readme = (ROOT / "README.md").read_text()
    assert 0 < len(pictures) < 20
    for picture in pictures:
        assert f"docs/screenshots/{picture.name}" in readme
