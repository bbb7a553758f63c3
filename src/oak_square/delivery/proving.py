"""`prove`: a delivery held against its manifest, any time later."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np

from oak_square.core.boxes import asset_box
from oak_square.core.clips import pose
from oak_square.core.errors import BadFile, BadLength, BadUsage, Failed, one_line
from oak_square.core.lengths import format_size
from oak_square.core.ratios import parse_ratio
from oak_square.core.scene import Asset
from oak_square.core.tolerances import SAME_SIZE
from oak_square.core.words import say
from oak_square.delivery.batch import Source
from oak_square.delivery.entries import ManifestEntry, checked_entries
from oak_square.delivery.files import read_plain, sha256_of
from oak_square.delivery.outbox import MANIFEST
from oak_square.delivery.proof_clips import sampled_times
from oak_square.delivery.set_out import checked_set_out, scene_trouble
from oak_square.delivery.surveying import receive
from oak_square.delivery.workers import in_processes
from oak_square.formats.register import FORMATS

__all__ = ["Proved", "prove"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Proved:
    """A delivered asset: what does not hold of it, None when all does; at how many times of its clips it was looked at.

    Its bytes being those that were delivered, what was proved of it then, at rest and at those times, still holds.
    """

    name: str
    trouble: str | None
    times: int = 0


def prove(folder: Path, jobs: int = 1, told: Callable[[int, int, Proved], None] | None = None) -> list[Proved]:
    """Return each delivered asset of `folder`, held against the manifest at rest and at sampled times of its clips.

    `told` is called with each as it is done: how many are, of how many.

    Raises
    ------
    BadUsage
        If there is no manifest, or it can't be read.
    """
    path = folder / MANIFEST
    try:
        manifest = json.loads(read_plain(path))
        entries = [e for e in checked_entries(manifest) if e.output is not None]
        scale = _read_scale(manifest)
    except OSError as error:
        raise BadUsage(
            say(
                "{path}: there is no manifest to prove by ({strerror})",
                path=one_line(str(path)),
                strerror=error.strerror,
            )
        ) from error
    except (ValueError, KeyError, TypeError, RecursionError, BadLength) as error:
        raise BadUsage(say("{path}: is no delivery manifest", path=one_line(str(path)))) from error
    found: dict[str, Proved] = {}
    scene = manifest.get("set_out")
    total = len(entries) + bool(isinstance(scene, dict) and scene.get("output") is not None)
    for entry, proved, why in in_processes(partial(_prove_entry, folder, scale), entries, jobs):
        name = str(entry.output)
        found[name] = proved or Proved(name=name, trouble=why)
        if told is not None:
            told(len(found), total, found[name])
    last = _proved_set_out(folder, scene, scale)
    if told is not None:
        for each in last:
            told(total, total, each)
    return [*(found[str(e.output)] for e in entries), *last]


def _read_scale(manifest: Any) -> float:
    """Return how large what was delivered is, of life: the manifest's sizes are those of life."""
    said = manifest["sheet"].get("ratio")
    return 1.0 if said is None else parse_ratio(str(said))


def _proved_set_out(folder: Path, said: Any, scale: float) -> list[Proved]:
    """Return the scene that delivered models stand in, held against the manifest, where there is one."""
    if said is None or (isinstance(said, dict) and said.get("output") is None):
        return []
    try:
        told = checked_set_out(said)
    except Failed as error:
        return [Proved(name=say("the set-out"), trouble=str(error))]
    return [Proved(name=told["output"], trouble=scene_trouble(folder, told, scale))]


def _prove_entry(folder: Path, scale: float, entry: ManifestEntry) -> Proved:
    name = str(entry.output)
    trouble = _file_trouble(folder, entry)
    if trouble is not None:
        return Proved(name=name, trouble=trouble + _describe_change(folder, entry, scale))
    try:
        asset = _read_delivered(folder, name)
    except BadFile as error:
        return Proved(name=name, trouble=error.reason)
    trouble, times = _geometry_trouble(asset, entry, scale), 0
    for clip in asset.clips if trouble is None else ():
        for at_s in sampled_times(clip):
            times += 1
            if not np.isfinite(pose(asset, clip, at_s)).all():
                trouble = say("its clip '{name}' leaves all numbers at {at_s:g} s", name=clip.name, at_s=at_s)
    return Proved(name=name, trouble=trouble, times=times)


def _read_delivered(folder: Path, name: str) -> Asset:
    return receive(Source(path=folder / name, file=name, folder=folder, searched=True)).asset


def _describe_change(folder: Path, entry: ManifestEntry, scale: float) -> str:
    """Return in what a model differs from the one that was delivered, as far as its numbers tell; empty where it can't.

    It is read only where it is the model itself that was changed, in its own place.
    """
    target = folder / str(entry.output)
    if not target.resolve().is_relative_to(folder.resolve()) or not target.is_file():
        return ""
    try:
        if sha256_of(target) == entry.output_sha256:
            return ""
        asset = _read_delivered(folder, str(entry.output))
    except BadFile as error:
        return say("; it can't be read: {reason}", reason=error.reason)
    except OSError:
        return ""
    if _geometry_trouble(asset, entry, scale) is None:
        return say("; its size is still the same")
    box, was = asset_box(asset), entry.size_after_m
    if box is None or was is None or not np.isfinite(box.size).all() or not FORMATS[asset.format].declares:
        return say("; its size is another")
    return say(
        "; its size is {value}, and was {value_2}",
        value=format_size(*(box.size / scale)),
        value_2=format_size(was["width"], was["height"], was["depth"]),
    )


def _file_trouble(folder: Path, entry: ManifestEntry) -> str | None:
    """Return which of an asset's files is not what was delivered."""
    home = folder.resolve()
    for path, digest in [(str(entry.output), entry.output_sha256), *entry.brings]:
        target = (folder / path).resolve()
        if not target.is_relative_to(home):
            return say("'{path}' leads out of the delivery", path=path)
        if not target.is_file():
            return say("'{path}' is missing", path=path)
        try:
            there = sha256_of(target)
        except OSError as error:
            return say("'{path}' can't be read: {strerror}", path=path, strerror=error.strerror)
        if there != digest:
            return say("'{path}' is not the file that was delivered", path=path)
    return None


def _geometry_trouble(asset: Asset, entry: ManifestEntry, scale: float) -> str | None:
    """Return whether its size, as it is read again, is not the one that was delivered."""
    box = asset_box(asset)
    wanted = entry.size_after_m
    bad = sum(m.not_finite for m in asset.meshes)
    if bad:
        return say("{bad} of its coordinates are NaN or infinite", bad=bad)
    if wanted is None or box is None:
        return None if wanted is None and box is None else say("its geometry is not what was delivered")
    if not np.isfinite(box.size).all():
        return say("it has no finite size")
    return _size_trouble(box.size, scale * np.array(list(wanted.values())), FORMATS[asset.format].declares)


def _size_trouble(there: Any, wanted: Any, declares: bool) -> str | None:
    if not declares:
        # The file names neither unit nor axes: its extents must be the delivered ones but for order and one factor.
        there, wanted = np.sort(there), np.sort(wanted)
        there = there * (wanted[-1] / there[-1]) if there[-1] > 0 else there
    # Not `>`: that is false of what is not a number.
    if not (np.abs(there - wanted).max() <= SAME_SIZE * wanted.max()):
        return say("its size is not what was delivered")
    return None
