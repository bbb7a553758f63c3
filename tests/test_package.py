"""What is shipped: the wheel and the source, and all that tells a desktop and a shell of it."""

from __future__ import annotations

import configparser
import os
import shutil
import subprocess
import sys
import tarfile
import venv
import zipfile
from pathlib import Path

import pytest
from lxml import etree
from scripts import from_commands

from oak_square.app.view.view_area import VIEWS
from oak_square.cli import COMMANDS, whole
from oak_square.version import __version__

ROOT = Path(__file__).parent.parent
SHARE = ROOT / "share"
NAME = "org.oaksquare.OakSquare"


@pytest.fixture(scope="module")
def shipped(tmp_path_factory):
    """The source and, made from that alone, the wheel."""
    place = tmp_path_factory.mktemp("shipped")
    copy = place / "tree"
    ignored = shutil.ignore_patterns(
        ".venv", ".git", "node_modules", "__pycache__", ".mypy_cache", ".hypothesis", "*.egg-info"
    )
    shutil.copytree(ROOT, copy, ignore=ignored)
    code = "from setuptools import build_meta as b; import sys; print(b.build_sdist(sys.argv[1]))"
    subprocess.run([sys.executable, "-c", code, str(place)], cwd=copy, check=True, capture_output=True)
    (source,) = place.glob("*.tar.gz")
    with tarfile.open(source) as packed:
        packed.extractall(place / "source", filter="data")
    (inner,) = (place / "source").iterdir()
    code = "from setuptools import build_meta as b; import sys; print(b.build_wheel(sys.argv[1]))"
    subprocess.run([sys.executable, "-c", code, str(place)], cwd=inner, check=True, capture_output=True)
    (wheel,) = place.glob("*.whl")
    return source, wheel


def test_the_wheel_holds_all_that_is_needed_and_what_a_desktop_looks_for(shipped):
    _, wheel = shipped
    names = zipfile.ZipFile(wheel).namelist()
    inside = {str(p.relative_to(ROOT / "src")) for p in (ROOT / "src").rglob("*") if p.is_file()}
    wanted = {n for n in inside if "__pycache__" not in n and ".egg-info" not in n}
    assert not sorted(wanted - set(names))
    data = {n.split(".data/data/")[1] for n in names if ".data/data/" in n}
    assert data >= {
        f"share/applications/{NAME}.desktop",
        f"share/metainfo/{NAME}.metainfo.xml",
        f"share/mime/packages/{NAME}.mime.xml",
        f"share/icons/hicolor/scalable/apps/{NAME}.svg",
        f"share/icons/hicolor/48x48/apps/{NAME}.png",
        "share/man/man1/oak-square.1",
        "share/bash-completion/completions/oak-square",
        "share/zsh/site-functions/_oak-square",
        "share/fish/vendor_completions.d/oak-square.fish",
    }
    assert {Path(n).name for n in names if "/licenses/" in n or "LICENSE" in n} >= {"LICENSE"}
    assert any(n.endswith("OFL.txt") for n in names)


def test_installed_from_the_wheel_it_runs_outside_of_the_tree(shipped, tmp_path):
    _, wheel = shipped
    venv.create(tmp_path / "venv", with_pip=True)
    there = Path(subprocess.run(
        [sys.executable, "-c", "import numpy, pathlib; print(pathlib.Path(numpy.__file__).parent.parent)"],
        check=True, capture_output=True, text=True,
    ).stdout.strip())  # fmt: skip
    python = tmp_path / "venv" / "bin" / "python"
    subprocess.run([python, "-m", "pip", "install", "-q", "--no-deps", "--no-index", wheel], check=True)
    # The packages it needs are those of here: nothing is fetched. Its own code is none of here.
    mine = [p for p in there.iterdir() if "oak_square" in p.name.lower()]
    (tmp_path / "needs").mkdir()
    for each in there.iterdir():
        if each not in mine:
            (tmp_path / "needs" / each.name).symlink_to(each)
    environment = {
        **os.environ,
        "PYTHONPATH": str(tmp_path / "needs"),
        "QT_QPA_PLATFORM": "offscreen",
        "HOME": str(tmp_path),
    }
    oak = tmp_path / "venv" / "bin" / "oak-square"

    def run(*words):
        return subprocess.run([oak, *words], cwd=tmp_path, env=environment, capture_output=True, text=True, check=False)

    assert run("--version").stdout == f"oak-square {__version__}\n"
    assert run("formats").returncode == 0
    shot = run("demo", "--shot", "shot.png")
    assert (shot.returncode, shot.stderr) == (0, "")
    assert (tmp_path / "shot.png").stat().st_size > 50_000
    assert (tmp_path / "venv" / "share" / "man" / "man1" / "oak-square.1").is_file()


def test_what_is_made_from_the_commands_is_as_they_are():
    for path, text in from_commands.written().items():
        assert path.read_text("utf-8") == text, f"{path.name}: python scripts/from_commands.py writes it anew"
    assert tuple(VIEWS) == from_commands.VIEWS


def test_the_list_of_commands_says_what_each_says_of_itself():
    group = whole()
    for name, (_, words) in COMMANDS.items():
        assert group.get_command(None, name).help.split("\n")[0] == words


@pytest.mark.parametrize(
    ("words", "offered"),
    [
        (["prep", "--dr"], "--dry-run"),
        (["demo", "--stage", "ba"], "bake"),
        (["sheet", "comp"], "compare"),
        (["sheet", "--sch"], "--schema"),
        (["sur"], "survey"),
    ],
)
def test_bash_completes_commands_options_and_values(words, offered):
    script = f"source '{SHARE}/completion/oak-square'; COMP_WORDS=(oak-square {' '.join(words)}); "
    script += f'COMP_CWORD={len(words)}; _oak_square; echo "${{COMPREPLY[@]}}"'
    done = subprocess.run(["bash", "-c", script], capture_output=True, text=True, check=True, cwd="/")
    assert offered in done.stdout.split()


def test_the_desktop_entry_names_what_there_is():
    entry = configparser.ConfigParser(interpolation=None)
    entry.optionxform = str
    entry.read(SHARE / f"{NAME}.desktop")
    said = entry["Desktop Entry"]
    assert said["Exec"].split()[:2] == ["oak-square", "open"]
    assert said["Icon"] == NAME
    types = said["MimeType"].strip(";").split(";")
    mime = etree.parse(SHARE / f"{NAME}.mime.xml")
    own = [e.get("type") for e in mime.iter("{*}mime-type")]
    assert set(own) <= set(types)
    assert [e.get("pattern") for e in mime.iter("{*}glob")] == ["*.prepsheet.yaml", "*.prepsheet.yml"]
    told = etree.parse(SHARE / f"{NAME}.metainfo.xml")
    assert told.findtext("id") == NAME
    assert told.find("releases/release").get("version") == __version__
    if shutil.which("desktop-file-validate"):
        subprocess.run(["desktop-file-validate", SHARE / f"{NAME}.desktop"], check=True)
    if shutil.which("appstreamcli"):
        subprocess.run(["appstreamcli", "validate", "--no-net", SHARE / f"{NAME}.metainfo.xml"], check=True)


@pytest.mark.skipif(shutil.which("update-mime-database") is None, reason="nothing here knows types of files")
def test_a_prep_sheet_is_known_by_its_name(tmp_path):
    (tmp_path / "packages").mkdir()
    shutil.copy(SHARE / f"{NAME}.mime.xml", tmp_path / "packages")
    done = subprocess.run(["update-mime-database", tmp_path], check=True, capture_output=True, text=True)
    assert "error" not in (done.stdout + done.stderr).lower()
    assert "*.prepsheet.yaml" in (tmp_path / "globs").read_text()


def test_open_with_opens_a_sheet_beside_models(monkeypatch, tmp_path):
    from oak_square.commands import window

    sheet = tmp_path / "a.prepsheet.yaml"
    seen = []
    monkeypatch.setattr(window, "open_window", lambda paths, sheet: seen.append((paths, sheet)))
    window.open_command([tmp_path / "a.glb", sheet])
    assert seen == [([tmp_path / "a.glb"], sheet)]
    with pytest.raises(window.BadUsage):
        window.open_command([sheet, tmp_path / "b.yaml"])


@pytest.mark.skipif(shutil.which("groff") is None, reason="nothing here sets manual pages")
def test_the_manual_page_is_set_without_complaint():
    done = subprocess.run(
        ["groff", "-man", "-Tutf8", "-ww", "-z", SHARE / "oak-square.1"], capture_output=True, check=True
    )
    assert done.stderr == b""
