"""The rooms of the house, held against the registers: what is added by one file is kept apart by no list."""

from __future__ import annotations

import ast
from itertools import permutations
from pathlib import Path

import grimp
import pytest

import oak_square
from oak_square.formats.register import FORMATS
from oak_square.steps.step import STEPS

HOME = Path(oak_square.__file__).parent
GRAPH = grimp.build_graph("oak_square")


@pytest.mark.parametrize(
    ("room", "kinds", "deep"),
    [
        ("oak_square.steps", list(STEPS.values()), 3),
        ("oak_square.formats", [type(f) for f in FORMATS.values()], 3),
    ],
)
def test_what_is_registered_does_not_know_its_neighbours(room, kinds, deep):
    homes = {".".join(k.__module__.split(".")[:deep]) for k in kinds}
    assert len(homes) >= 8
    inside = {home: {home, *GRAPH.find_descendants(home)} for home in homes}
    for one, other in permutations(homes, 2):
        known = {m for module in inside[one] for m in GRAPH.find_modules_directly_imported_by(module)}
        assert not known & inside[other], f"{one} imports {known & inside[other]}"


def imported(path: Path) -> set[str]:
    found = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            found |= {a.name for a in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            found.add(node.module)
    return found


def test_the_session_knows_signals_and_no_widget():
    for path in (HOME / "app" / "session").glob("*.py"):
        own = {m for m in imported(path) if m.startswith("PySide6")}
        assert own <= {"PySide6.QtCore"}, path


def _listed(tree: ast.Module) -> list[str] | None:
    """Return what a module's `__all__` lists; None where it has none."""
    listed = None
    for node in tree.body:
        targets = node.targets if isinstance(node, ast.Assign) else [getattr(node, "target", None)]
        if any(isinstance(t, ast.Name) and t.id == "__all__" for t in targets):
            listed = (listed or []) + ast.literal_eval(node.value)
    return listed


def _names(tree: ast.Module) -> set[str]:
    found = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.FunctionDef | ast.ClassDef):
            found.add(node.name)
        elif isinstance(node, ast.Assign | ast.AnnAssign):
            targets = node.targets if isinstance(node, ast.Assign) else [node.target]
            found |= {n.id for t in targets for n in ast.walk(t) if isinstance(n, ast.Name)}
        elif isinstance(node, ast.Import | ast.ImportFrom):
            found |= {(a.asname or a.name).split(".")[0] for a in node.names}
    return found


def test_all_lists_what_there_is_and_all_that_others_take():
    trees = {_name_of(p): ast.parse(p.read_text()) for p in HOME.rglob("*.py")}
    taken: dict[str, set[str]] = {}
    for tree in trees.values():
        for node in ast.walk(tree):
            if isinstance(node, ast.ImportFrom) and node.module in trees:
                names = {a.name for a in node.names if f"{node.module}.{a.name}" not in trees}
                taken.setdefault(node.module, set()).update(names)
    wrong = {}
    for name, tree in trees.items():
        listed = _listed(tree)
        if listed is None:
            listed = [n for n in _names(tree) if not n.startswith("_")] if name.endswith(("oak_square", "cli")) else []
        theirs = {n for n in taken.get(name, set()) if not n.startswith("__")}
        missing = (set(listed) - _names(tree)) | (theirs - set(listed))
        if missing or len(listed) != len(set(listed)):
            wrong[name] = missing
    assert not wrong


def _name_of(path: Path) -> str:
    parts = path.relative_to(HOME).with_suffix("").parts
    return ".".join(("oak_square", *parts)).removesuffix(".__init__")


def test_small_numbers_stand_where_tolerances_are_named():
    strays = []
    for path in HOME.rglob("*.py"):
        if path.name == "tolerances.py" or "demo" in path.relative_to(HOME).parts:
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Constant) and isinstance(node.value, float) and 0 < abs(node.value) < 1e-4:
                strays.append(f"{path.relative_to(HOME)}:{node.lineno}: {node.value}")
    # Of a table of units, a micron is one.
    assert [s for s in strays if not s.startswith("formats/threemf/model.py")] == []


def test_one_class_has_one_name():
    homes: dict[str, list[str]] = {}
    for path in sorted(HOME.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.ClassDef):
                homes.setdefault(node.name, []).append(path.relative_to(HOME).as_posix())
    assert len(homes) > 400
    assert {name: there for name, there in homes.items() if len(there) > 1} == {}


def test_a_private_function_is_a_verb_and_its_object_and_few_share_a_name():
    homes: dict[str, list[str]] = {}
    for path in sorted(HOME.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            if not isinstance(node, ast.FunctionDef) or not node.name.startswith("_") or node.name.startswith("__"):
                continue
            if "property" not in ast.dump(ast.List(node.decorator_list)):  # a property is called as what it is
                homes.setdefault(node.name, []).append(path.relative_to(HOME).as_posix())
    assert len(homes) > 1000
    assert {name: there for name, there in homes.items() if len(there) > 3} == {}
    assert {name: there for name, there in homes.items() if name.count("_") == 1} == {}
