"""Fixtures that many tests share."""

from __future__ import annotations

import os
import shutil
from pathlib import Path

import pytest
from hypothesis import HealthCheck, Phase, settings

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
# Several test processes share the cores: threads of their own in each make all of them wait.
os.environ.setdefault("LP_NUM_THREADS", "0")
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

# The window's language is settled before anything is imported that has words in it.
_LANGUAGE = os.environ.get("OAK_SQUARE_TEST_LANGUAGE", "en")
os.environ["OAK_SQUARE_LANGUAGE"] = "en"
if _LANGUAGE == "marked":
    from tests import marked

    marked.begin()
elif _LANGUAGE != "en":
    from oak_square import languages

    languages.speak_in(_LANGUAGE)

from benchmarks.stores.making import write_stores  # noqa: E402

from oak_square.delivery import guessing, pictures, proving, running, surveying  # noqa: E402
from oak_square.demo import BATCH  # noqa: E402

IS_LONG = "OAK_SQUARE_LONG" in os.environ
"""Whether more is tried than in a common run: `scripts/test.sh --long`."""

_PROCESSES = {"tests/delivery"}  # where processes are what it is about


_CORE = ("tests/core", "tests/steps", "tests/sheet", "tests/likely")


def pytest_collection_modifyitems(items):
    """Mark what needs no window, no process and no file format: `-m core`."""
    for item in items:
        if item.nodeid.startswith(_CORE):
            item.add_marker("core")


def worked_here(work, items, jobs=1, cancelled=None, *, niceness=0, abandoned=None):
    """Stand in for `in_processes`: the same work, one item after the other, in this process."""
    for item in items:
        if any(asked is not None and asked() for asked in (cancelled, abandoned)):
            return
        yield item, work(item), ""


@pytest.fixture(autouse=True)
def in_one_process(request, monkeypatch):
    """Deliver, survey and prove in this process: to start others takes longer than most of what they would do.

    Faults that scripts/mutation.sh puts in are in this one alone.
    """
    here = request.path.relative_to(Path(__file__).parent.parent).as_posix()
    is_about_them = request.node.get_closest_marker("apart") or any(here.startswith(p) for p in _PROCESSES)
    if not is_about_them or "MUTANT_UNDER_TEST" in os.environ:
        for module in (running, proving, guessing, surveying, pictures):
            monkeypatch.setattr(module, "in_processes", worked_here)


settings.register_profile(
    "here",
    deadline=None,
    max_examples=40 if IS_LONG else 10,
    suppress_health_check=[HealthCheck.too_slow],
    derandomize=True,
    # Shrinking a failure takes minutes on these assets; run it by hand where it is wanted.
    phases=[Phase.explicit, Phase.generate],
)
settings.load_profile("here")


SIX = (
    "gate_leaf.glb",
    "lamp_standard.obj",
    "lamp_standard.mtl",
    "milepost.glb",
    "mooring_bollards.glb",
    "narrowboat.glb",
    "windlass.stl",
)


@pytest.fixture
def batch(tmp_path: Path) -> Path:
    """A copy of six models of the demo batch, to be spoilt at will."""
    folder = tmp_path / "batch"
    folder.mkdir()
    for name in SIX:
        shutil.copy(BATCH / name, folder)
    return folder


@pytest.fixture(scope="session")
def stores(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The stores of Fenwick Lock, with the truth beside them; to be read, and copied from."""
    home = tmp_path_factory.mktemp("stores")
    assert write_stores(home) >= 60
    return home


@pytest.fixture
def joiner(stores: Path, tmp_path: Path) -> Path:
    """A copy of what one maker of the stores sent."""
    return Path(shutil.copytree(stores / "joiner", tmp_path / "joiner"))


@pytest.fixture
def lock(tmp_path: Path) -> Path:
    """A copy of the whole demo batch."""
    folder = tmp_path / "lock"
    shutil.copytree(BATCH, folder)
    return folder
