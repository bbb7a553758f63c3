"""The set-out: the delivered models standing as one scene, written beside them and proved by reading it again."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path, PurePosixPath
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import BadReference, BadUsage, DataTrouble, Failed, one_line
from oak_square.core.likely.answers import Answer
from oak_square.core.motion import resize_all, with_reading
from oak_square.core.scene import Asset
from oak_square.core.tolerances import SAME_MATRIX
from oak_square.core.words import say
from oak_square.delivery.batch import Source, output_of
from oak_square.delivery.entries import ManifestEntry
from oak_square.delivery.files import sha256_of, write_chunks
from oak_square.delivery.named_sources import NamedSources
from oak_square.delivery.outbox import Outbox
from oak_square.delivery.surveying import receive
from oak_square.formats.register import FORMATS
from oak_square.formats.shared.crossing import losses_said
from oak_square.formats.shared.set_out_scenes import Placed, scene_kind
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.model import Sheet
from oak_square.sheet.references import named_assets, set_out_files
from oak_square.sheet.set_out import SetOut, Stood, berth_matrix
from oak_square.sheet.standings import Standings

__all__ = ["SetOutPlan", "blank_set_out", "checked_set_out", "plan_set_out", "scene_trouble", "write_set_out"]

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class SetOutPlan:
    """Which assets stand where: (file, berth) at berths, in the sheet's order, and those in rows, by path."""

    told: SetOut
    at: tuple[tuple[str, str], ...]
    row: tuple[str, ...]


def plan_set_out(sheet: Sheet, sources: Sequence[Source], out: Path, *, may_exist: bool) -> SetOutPlan | None:
    """Return what a sheet's set-out comes to for a batch; None where it has none.

    Raises
    ------
    BadReference
        If it names what no asset is called, or refers to what is not delivered as USD.
    BadUsage
        If its file would land on an output, or is there and may not be.
    """
    told = sheet.set_out
    if told is None:
        return None
    by_file = {s.file: s for s in sources}
    files = set_out_files(sheet, list(by_file))
    at = tuple((files[name], berth) for name, berth in told.berths())
    row = tuple(told.in_row(list(by_file), files))
    outputs = {file: output_of(by_file[file], sheet.deliver.format) for file in by_file}
    for file in dict.fromkeys((*(f for f, _ in at), *row)):
        suffix = PurePosixPath(outputs[file]).suffix.lower()
        if told.references and suffix not in (".usda", ".usdc", ".usd"):
            raise BadReference(
                say(
                    "set-out: '{file}' refers to USD files, and '{file_2}' is delivered as {suffix}",
                    file=told.file,
                    file_2=file,
                    suffix=suffix[1:],
                )
            )
    taken = {name.casefold() for name in outputs.values()} | {"delivery.json"}
    folders = {p.as_posix().casefold() for name in outputs.values() for p in PurePosixPath(name).parents}
    if told.file.casefold() in taken | folders:
        raise BadUsage(say("set-out: '{file}' is what an asset is delivered as: give it another name", file=told.file))
    if not may_exist and (out / told.file).exists():
        raise BadUsage(say("{out}: exists", out=one_line(str(out / told.file))))
    return SetOutPlan(told=told, at=at, row=row)


def blank_set_out() -> dict[str, Any]:
    """Return what a manifest says of a set-out that was not written."""
    return {"output": None, "sha256": None, "placed": []}


def write_set_out(
    plan: SetOutPlan,
    sheet: Sheet,
    sources: Mapping[str, Source],
    entries: Mapping[str, ManifestEntry],
    box: Outbox,
    answers: Mapping[str, Answer],
) -> tuple[dict[str, Any], list[str]]:
    """Write the scene of what was delivered, and read it again; return what the manifest says of it, and warnings.

    An asset that was not delivered is left out, with a warning.
    """
    wanted = list(dict.fromkeys((*(f for f, _ in plan.at), *plan.row)))
    there = [f for f in wanted if f in entries and entries[f].output is not None]
    warnings = [say("set-out: '{f}' was not delivered, and is left out", f=f) for f in wanted if f not in there]
    try:
        models = {f: _place_model(sources[f], sheet, entries[f], box.out, answers) for f in there}
        scale = sheet.deliver.scale
        # The models are as small as they were delivered, and their places those of life.
        assets = {f: _at_life_size(model.asset, scale) for f, model in models.items()}
        at, astray = _find_berths(plan, sheet, sources, assets, answers)
        warnings += astray
        stood = plan.told.stand(sheet.setting(), assets, at, plan.row)
        placed = [replace(models[file], matrix=_scale_place(matrix, scale)) for file, _, matrix in stood]
        kind = scene_kind(PurePosixPath(plan.told.file).suffix.lower())
        assert kind is not None  # the sheet takes no other suffix
        chunks = kind.write(placed, PurePosixPath(plan.told.file).stem)
        box.put(plan.told.file, lambda path: write_chunks(path, chunks))
    except (DataTrouble, OSError) as error:
        # The path in an OSError is that of the file aside, which is gone when this is read.
        why = (
            say("{file}: {strerror}", file=plan.told.file, strerror=error.strerror or error)
            if isinstance(error, OSError)
            else str(error)
        )
        return blank_set_out(), [*warnings, say("set-out: not written: {why}", why=one_line(why))]
    if not plan.told.references:
        lost = {f: losses_said(m.asset, FORMATS["glb"]) for f, m in models.items()}
        warnings += [say("set-out: {f}: {words}", f=f, words=words) for f, words in lost.items() if words]
    target = box.out / plan.told.file
    said = [
        {"asset": file, "berth": berth, "matrix": [float(v) + 0.0 for v in matrix.T.ravel()]}
        for file, berth, matrix in stood
    ]
    whole = {"output": plan.told.file, "sha256": sha256_of(target), "placed": said}
    trouble = scene_trouble(box.out, whole, scale)
    if trouble is not None:
        box.take_back(plan.told.file)
        return blank_set_out(), [*warnings, say("set-out: not written: read again, {trouble}", trouble=trouble)]
    return whole, warnings


def _find_berths(
    plan: SetOutPlan,
    sheet: Sheet,
    sources: Mapping[str, Source],
    assets: Mapping[str, Asset],
    answers: Mapping[str, Answer],
) -> tuple[list[Stood], list[str]]:
    """Return what stands at which berth and where, and a warning of each whose berth hangs from what is not there."""
    names = named_assets(sheet, list(sources))
    batch = NamedSources({**{file: sources[file] for file in sources}, **{n: sources[f] for n, f in names.items()}})
    standings = Standings(sheet, batch, answers)

    def find_end(name: str) -> Asset | None:
        file = batch.file_of(name)
        return None if file is None else standings.standing_at_end(file)

    setting = replace(sheet.setting(), others=find_end)
    found, warnings = list[Stood](), list[str]()
    for file, berth in plan.at:
        if file not in assets:
            continue
        try:
            hangs_here = setting.berths[berth].hangs and setting.berths[berth].of is None
            asset = standings.standing_at_end(file) if hangs_here else assets[file]
            found.append((file, berth, berth_matrix(setting, berth, asset)))
        except DataTrouble as error:
            warnings.append(say("set-out: '{f}' is left out of berth '{b}': {error}", f=file, b=berth, error=error))
    return found, warnings


def _place_model(
    source: Source, sheet: Sheet, entry: ManifestEntry, out: Path, answers: Mapping[str, Answer]
) -> Placed:
    """Return a delivered model at its own place."""
    received = receive(Source(path=out / str(entry.output), file=str(entry.output), folder=out, searched=True))
    kind = FORMATS[received.asset.format]
    asset = received.asset
    if not kind.declares:
        # The file does not say what its numbers mean: the sheet does, of the source.
        read = evaluate(receive(source).asset, sheet, before=1, answers=answers).read.reading
        asset = with_reading(asset, kind.reading_out(sheet.deliver.file_reading(read, declares=False)))
    return Placed(name=asset.name, received=received, asset=asset, matrix=np.eye(4), path=str(entry.output))


def _at_life_size(asset: Asset, scale: float) -> Asset:
    return asset if scale == 1 else resize_all(asset, np.diag([1 / scale, 1 / scale, 1 / scale, 1.0]))


def _scale_place(matrix: Array, scale: float) -> Array:
    """Return a place of life, shape (4, 4), as it is in a scene of another scale."""
    scaled = matrix.copy()
    scaled[:3, 3] *= scale
    return scaled


def scene_trouble(folder: Path, said: Mapping[str, Any], scale: float) -> str | None:
    """Return what does not hold of a scene and what a manifest says of it; None when all does.

    `scale` is how large the scene is, of life, in which the manifest's matrices are.
    """
    target = folder / said["output"]
    if not target.resolve().is_relative_to(folder.resolve()):
        return say("'{said}' leads out of the delivery", said=said["output"])
    if not target.is_file():
        return say("'{said}' is missing", said=said["output"])
    if sha256_of(target) != said["sha256"]:
        return say("'{said}' is not the file that was delivered", said=said["output"])
    kind = scene_kind(target.suffix.lower())
    assert kind is not None  # as `checked_set_out` saw to
    try:
        there = kind.read(target)
    except DataTrouble as error:
        return str(error)
    if len(there) != len(said["placed"]):
        return say("{count} models stand in it, not {count_2}", count=len(there), count_2=len(said["placed"]))
    for matrix, each in zip(there, said["placed"], strict=True):
        wanted = _scale_place(np.array(each["matrix"], dtype=np.float64).reshape(4, 4).T, scale)
        size = max(1.0, float(np.abs(wanted).max()))
        # Not `>`: that is false of what is not a number.
        if not np.abs(matrix - wanted).max() <= SAME_MATRIX * size:
            return say("'{each}' does not stand where it should", each=each["asset"])
    return None


def checked_set_out(said: Any) -> Mapping[str, Any]:
    """Return what a manifest says of a set-out.

    Raises
    ------
    Failed
        If that is not what a manifest holds.
    """
    try:
        matrices = [[float(v) for v in p["matrix"]] for p in said["placed"]]
        known = isinstance(said["output"], str) and isinstance(said["sha256"], str)
        if not known or any(len(m) != 16 for m in matrices) or scene_kind(PurePosixPath(said["output"]).suffix) is None:
            raise TypeError
    except (KeyError, TypeError, ValueError) as error:
        raise Failed(say("what the manifest says of the set-out is no set-out")) from error
    found: Mapping[str, Any] = said
    return found
