"""A USD stage opened safely: every file it composes from or names is seen to lie in the model's folder first."""

from __future__ import annotations

import os
import re
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path, PurePosixPath
from typing import Any
from urllib.parse import unquote

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import BadFile, Failed
from oak_square.core.frames import Reading
from oak_square.core.lengths import UNITS
from oak_square.core.tolerances import FLOAT_STEP, GREATEST_UNIT_M, LEAST_UNIT_M
from oak_square.core.words import say
from oak_square.formats.limits import Limits
from oak_square.formats.shared.archives import checked_rows
from oak_square.formats.shared.model_file import Beside
from oak_square.formats.usd.growth import check_growth

__all__ = ["NoNumbers", "Opened", "open_stage", "quiet", "reading_of", "values_of"]

_LAYERS = {".usd", ".usda", ".usdc", ".usdz"}
_MOST_FILES = 2000
_LONGEST_LINE, _LONGEST_TEXT = 500, 20_000
_WORDS = re.compile(r" in file \S+ : '(.*?)'?\s*$")


class NoNumbers(Failed):
    """An attribute that should hold numbers holds something else; it is said where."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Opened:
    """A stage, the files beside its root layer that it is made of, by paths from its folder, and what leads out."""

    stage: Any
    companions: tuple[str, ...]
    astray: tuple[str, ...] = ()


@contextmanager
def quiet() -> Iterator[None]:
    """Keep what the library would print of a file to itself."""
    # Heavy, and wanted for USD files alone.
    from pxr import UsdUtils

    delegate = UsdUtils.CoalescingDiagnosticDelegate()
    try:
        yield
    finally:
        delegate.TakeUncoalescedDiagnostics()


def open_stage(path: Path, file: str, limits: Limits) -> Opened:
    """Return the stage at `path`, all its payloads loaded.

    Raises
    ------
    BadFile
        If it is no USD, or names a file outside its folder.
    """
    # Heavy, and wanted for USD files alone.
    from pxr import Tf, Usd

    try:
        with quiet():
            beside = Beside(path.parent, file)
            is_package = path.suffix.lower() == ".usdz"
            if is_package:
                _check_package(path, file, limits)
            companions = () if is_package else _list_dependencies(path, file, limits, beside)
            stage = Usd.Stage.Open(str(path), Usd.Stage.LoadAll)
            if stage is not None:
                _pose_skinned(stage)
    except UnicodeDecodeError as error:  # the library's own words about text that is none
        raise BadFile(file, say("is no USD that can be read: it holds text that is no UTF-8")) from error
    except (Tf.ErrorException, RuntimeError) as error:
        raise BadFile(
            file, say("is no USD that can be read: {first_words}", first_words=_first_words(error))
        ) from error
    if stage is None:
        raise BadFile(file, say("is no USD that can be read"))
    return Opened(stage=stage, companions=companions, astray=tuple(beside.astray))


def _pose_skinned(stage: Any) -> None:
    """Let the skinned prims of a stage stand as their skeletons hold them when the time begins, in the session alone.

    What a skeleton holds is drawn nowhere else, whatever its points say.
    """
    from pxr import Gf, Usd, UsdSkel

    roots = [p for p in stage.Traverse() if p.IsA(UsdSkel.Root)]
    if not roots:
        return
    start = stage.GetStartTimeCode()
    with Usd.EditContext(stage, stage.GetSessionLayer()):
        for root in roots:
            UsdSkel.BakeSkinning(UsdSkel.Root(root), Gf.Interval(start, start))


def _first_words(error: Exception) -> str:
    try:
        text = str(error)
    except UnicodeDecodeError:  # it quotes what is no text
        return say("it holds text that is no UTF-8")
    # Where in the library it was found is news to no one.
    # What it quotes of a file may be as long as the file.
    lines = [line[:_LONGEST_LINE] + line[-1:] for line in text[:_LONGEST_TEXT].splitlines()]
    words = [m[1] for line in lines if (m := _WORDS.search(line)) and "Unable to find layer" not in m[1]]
    first = (words or [type(error).__name__])[0]
    line = re.search(r":(\d+):\d+: parse error", first)
    if line is not None:
        return say("line {line} can't be understood", line=line[1])
    return re.sub(r"<[^>]*>\s*|\S*/\S*/", "", first)[:160].strip("'\" ")


def _check_package(path: Path, file: str, limits: Limits) -> None:
    try:
        with zipfile.ZipFile(path) as package:
            rows = checked_rows(package, path, file, limits)
    except (zipfile.BadZipFile, OSError, ValueError) as error:
        raise BadFile(file, say("is no USDZ package")) from error
    inner = next((row.filename for row in rows if row.filename.lower().endswith(".usdz")), None)
    if inner is not None:
        raise BadFile(file, say("holds a package in a package, '{inner}', which is not read", inner=inner[-80:]))
    _check_inner_layers(path, [row.filename for row in rows], file, limits)
    for row in rows:
        if row.compress_type != zipfile.ZIP_STORED:
            raise BadFile(
                file, say("holds '{filename}' compressed, which a USDZ package does not", filename=row.filename[:80])
            )


def _check_inner_layers(path: Path, names: list[str], file: str, limits: Limits) -> None:
    """Make sure that the layers of a package name nothing outside it, and come to no more prims than are read."""
    from pxr import Sdf

    home, layers = Path(os.path.realpath(path)), dict[Path, Any]()
    for name in names:
        if Path(name).suffix.lower() not in _LAYERS:
            continue
        with quiet():
            layer = Sdf.Layer.OpenAsAnonymous(f"{path}[{name}]")
        if layer is None:
            continue  # the stage will say so, if it needs it
        layers[home / name] = layer
        named = {*layer.GetCompositionAssetDependencies(), *layer.GetExternalAssetDependencies()}
        for reference in (*named, *_clip_references(layer)):
            own = unquote(str(reference).split("[", 1)[0]).replace("\\", "/")
            place = os.path.normpath(PurePosixPath(name).parent / own)
            if own.startswith(("/", "~")) or ":" in own.split("/")[0] or place.startswith(".."):
                raise BadFile(
                    file, say("refers to '{reference}', which lies outside the package", reference=str(reference)[:120])
                )
    for first in list(layers)[:1]:
        check_growth(layers, first, file, limits.nodes)


def _clip_references(layer: Any) -> list[str]:
    """Return the files that the value clips of a layer name: they are opened when values are asked for."""
    found: list[str] = []

    def look(path: Any) -> None:
        is_prim = path.IsPrimPath() or path.IsPrimVariantSelectionPath()
        spec = layer.GetPrimAtPath(path) if is_prim else None
        clips = spec.GetInfo("clips") if spec is not None and spec.HasInfo("clips") else {}
        for clip_set in clips.values():
            if not isinstance(clip_set, dict):
                continue
            for key in ("templateAssetPath", "manifestAssetPath"):
                if key in clip_set:
                    found.append(str(getattr(clip_set[key], "path", clip_set[key])))
            found.extend(str(getattr(p, "path", p)) for p in clip_set.get("assetPaths", ()))

    layer.Traverse("/", look)
    return [reference for reference in found if reference]


def _list_dependencies(path: Path, file: str, limits: Limits, beside: Beside) -> tuple[str, ...]:
    """Return every file that a layer, or a layer it names, names; each is seen to lie inside before it is opened."""
    from pxr import Sdf, UsdUtils

    home = Path(os.path.realpath(path.parent))
    found: dict[str, None] = {}
    layers: dict[Path, Any] = {}
    due, seen = [Path(os.path.realpath(path))], {Path(os.path.realpath(path))}
    while due:
        layer = due.pop()
        if layer.stat().st_size > limits.file_bytes:
            raise BadFile(
                file,
                say(
                    "names '{name}', which is over the limit of {file_bytes} bytes",
                    name=layer.name,
                    file_bytes=limits.file_bytes,
                ),
            )
        opened = layers[layer] = Sdf.Layer.OpenAsAnonymous(str(layer))
        # First: what looks for references lists the folders that templates of clips name.
        for reference in _clip_references(opened) if opened is not None else ():
            _check_inside(home, layer.parent, reference, file)
        sublayers, references, payloads = UsdUtils.ExtractExternalReferences(str(layer))
        for reference in [*sublayers, *references, *payloads]:
            if reference not in {*sublayers, *payloads} and Path(reference.split("[")[0]).suffix.lower() not in _LAYERS:
                # No layer: it is never opened here, and need not lie inside for the rest to be read.
                own = _find_named_file(home, layer.parent, reference, beside)
                if own is not None:
                    found[own] = None
                continue
            target = _check_inside(home, layer.parent, reference, file)
            if target in seen:
                continue
            seen.add(target)
            if len(seen) > _MOST_FILES:
                raise BadFile(file, say("is made of over {_most_files} files", _most_files=_MOST_FILES))
            if not target.is_file():
                if reference in {*sublayers, *payloads} or target.suffix.lower() in _LAYERS:
                    raise BadFile(file, say("is made of '{reference}', which is not there", reference=reference[:120]))
                continue
            found[target.relative_to(home).as_posix()] = None
            if target.suffix.lower() == ".usdz":
                _check_package(target, file, limits)
            elif target.suffix.lower() in _LAYERS:
                due.append(target)
    there = {path: layer for path, layer in layers.items() if layer is not None}
    check_growth(there, Path(os.path.realpath(path)), file, limits.nodes)
    return tuple(found)


def _find_named_file(home: Path, folder: Path, reference: str, beside: Beside) -> str | None:
    """Return the path from `home` of a file that a layer in `folder` names, if it is there; note what leads out."""
    above = Path(os.path.relpath(folder, home)).as_posix()
    own = Beside(home, beside.file, {})
    found = own.name(f"{above}/{reference}" if above != "." else reference, is_uri=True)
    if own.astray:
        beside.astray[reference] = None
    return found


def _check_inside(home: Path, folder: Path, reference: str, file: str) -> Path:
    name = unquote(reference.split("[", 1)[0])  # a file in a package is named behind the package
    odd = any(c in name for c in ("`", "\\", "\0")) or ":" in name.split("/")[0]
    if not name or odd or name.startswith(("/", "~")):
        raise BadFile(
            file, say("refers to '{reference}', which is no path inside its folder", reference=reference[:120])
        )
    target = Path(os.path.realpath(folder / name))
    if not target.is_relative_to(home):
        raise BadFile(file, say("refers to '{reference}', which lies outside its folder", reference=reference[:120]))
    return target


def values_of(attribute: Any, width: int) -> NDArray[Any]:
    """Return an attribute's numbers at the first time there is any, shape (N, width), or (N,) where `width` is 1."""
    from pxr import Usd

    value = attribute.Get(Usd.TimeCode.EarliestTime())
    found = np.array(value) if value is not None else np.empty(0)
    if found.dtype.kind not in "fiub" or found.size % width:
        raise NoNumbers(say("'{path}' holds something that is no number", path=str(attribute.GetPath())[-80:]))
    return found.reshape(-1, width) if width > 1 else found.reshape(-1)


def reading_of(stage: Any, file: str) -> Reading:
    """Return the reading a stage declares, or the schema's fallbacks, assumed.

    Raises
    ------
    BadFile
        If its unit is none.
    """
    from pxr import UsdGeom

    metres, up = _metres_of(stage, file), str(UsdGeom.GetStageUpAxis(stage))
    # Some programs store a float: 0.01 comes as 0.009999999776.
    metres = next((m for m in UNITS.values() if abs(metres / m - 1) < FLOAT_STEP), metres)
    if not LEAST_UNIT_M <= metres <= GREATEST_UNIT_M:
        raise BadFile(file, say("its unit is {metres:g} metres", metres=metres))
    front = {"Y": "+Z", "Z": "-Y"}.get(up)
    if front is None:
        raise BadFile(file, say("its up axis '{up}' is neither Y nor Z", up=up[:20]))
    declared = UsdGeom.StageHasAuthoredMetersPerUnit(stage)
    return Reading(metres_per_unit=metres, up=f"+{up}", front=front, source="declared" if declared else "assumed")


def _metres_of(stage: Any, file: str) -> float:
    from pxr import Tf, UsdGeom

    try:
        return float(UsdGeom.GetStageMetersPerUnit(stage))
    except Tf.ErrorException:  # it is stored as another kind of number than the schema has
        value = stage.GetRootLayer().pseudoRoot.GetInfo("metersPerUnit")
    try:
        return float(value)
    except (TypeError, ValueError) as error:
        raise BadFile(file, say("its unit, '{value}', is no number", value=str(value)[:40])) from error
