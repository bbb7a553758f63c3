"""Laws every format keeps, run over the register: a new one is tested before a line is written for it."""

from __future__ import annotations

import shutil

import numpy as np
import pytest

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadFile
from oak_square.core.frames import Reading, translation
from oak_square.core.motion import carry_all, with_reading
from oak_square.delivery.batch import find_sources
from oak_square.delivery.proof import deviation
from oak_square.delivery.surveying import receive
from oak_square.demo import BATCH
from oak_square.formats.register import FORMATS, entry_of
from oak_square.formats.shared.crossing import cross
from tests.formats.test_collada import BRIDGE
from tests.formats.test_off import SIGN
from tests.formats.test_ply import made
from tests.formats.test_threemf import package
from tests.formats.test_usd import SIGN as USD
from tests.made import triangle_document, write_gltf

BY_HAND = {"3mf": package(), "usda": USD.encode(), "dae": BRIDGE.encode(), "off": SIGN, "ply": made("ascii")}
SOURCES = {s.file: s for s in find_sources([BATCH])}


def source_of(key, tmp_path):
    if key in {"usdc", "usdz"}:
        source = source_of("usda", tmp_path)
        out = FORMATS["usdc"].write(receive(source), receive(source).asset, receive(source).asset.reading)
        (tmp_path / "sign.usdc").write_bytes(b"".join(out.chunks))
        return find_sources([tmp_path / "sign.usdc"])[0]
    if key == "gltf":
        document, binary = triangle_document()
        return find_sources([write_gltf(tmp_path / "sign.gltf", document, binary)])[0]
    if key in BY_HAND:
        (tmp_path / f"sign.{key}").write_bytes(BY_HAND[key])
        return find_sources([tmp_path / f"sign.{key}"])[0]
    found = next((s for s in SOURCES.values() if entry_of(s.path).key == key), None)
    if found is None and not FORMATS.entry(key).is_made:
        pytest.fail(f"no file of '{key}' to try its laws on: add the bytes of a small one to BY_HAND in this file")
    return found or made_of_a_sign(key, tmp_path)


def made_of_a_sign(key, tmp_path):
    received, kind = receive(source_of("off", tmp_path)), FORMATS[key]
    out = cross(received, received.asset, kind, received.asset.reading)
    path = tmp_path / f"sign{kind.entry.suffixes[0]}"
    path.write_bytes(b"".join(out.chunks))
    return find_sources([path])[0]


def redelivered(received, asset, reading, folder, name):
    out = FORMATS[asset.format].write(received, asset, reading)
    folder.mkdir()
    for companion in out.companions:
        if companion.source is not None:
            shutil.copy(companion.source, folder)
    for path, pieces in [(name, out.chunks), *((c.path, c.chunks) for c in out.companions if c.source is None)]:
        with (folder / path).open("wb") as stream:
            for piece in pieces:
                stream.write(np.ascontiguousarray(piece) if isinstance(piece, np.ndarray) else piece)
    return FORMATS[asset.format].read(folder / name, name).asset


@pytest.mark.parametrize("key", sorted(FORMATS))
def test_a_moved_model_comes_back_where_it_was_moved(key, tmp_path):
    source = source_of(key, tmp_path)
    received = receive(source)
    kind = FORMATS[key]
    motion = translation(np.array([0.25, -0.5, 4.0]))
    motion[:3, :3] = [[0, 0, 1], [1, 0, 0], [0, 1, 0]]
    moved = carry_all(received.asset, motion)
    wanted = Reading(metres_per_unit=0.01, up="+Z", front="-Y", source="sheet")
    reading = kind.reading_out(wanted)
    assert (reading == wanted) != kind.declares
    again = redelivered(received, moved, reading, tmp_path / "out", source.path.name)
    again = with_reading(again, reading)
    assert deviation(moved, again) < 1e-6 * asset_box(moved).diagonal * 10


@pytest.mark.parametrize("key", sorted(FORMATS))
@pytest.mark.parametrize("rubbish", [b"", b"\0" * 300, b"rubbish " * 40, bytes(range(256)) * 8])
def test_rubbish_is_refused_or_read_as_nothing(key, rubbish, tmp_path):
    path = tmp_path / f"rubbish{FORMATS[key].suffixes[0]}"
    path.write_bytes(rubbish)
    try:
        asset = FORMATS[key].read(path, path.name).asset
    except BadFile as error:
        said = str(error)
    else:
        # Text without a statement is an OBJ of nothing; eighty zeros and a zero count an STL of nothing.
        assert asset.triangle_count == 0
        return
    assert said.startswith(path.name)


@pytest.mark.parametrize("key", sorted(FORMATS))
def test_a_file_that_is_not_there_says_so(key, tmp_path):
    with pytest.raises(BadFile, match="is not there"):
        FORMATS[key].read(tmp_path / f"none{FORMATS[key].suffixes[0]}", "none")
