"""The one computation: an asset and a sheet in, the asset as it would be out. All that runs sheets uses it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import partial
from typing import Literal

import numpy as np

from oak_square.core.errors import DataTrouble, Failed, Refused
from oak_square.core.instances import check_spreads
from oak_square.core.likely.answers import Answer
from oak_square.core.motion import same_matrix, with_reading
from oak_square.core.precision import check_numbers
from oak_square.core.resampling import check_clips
from oak_square.core.scene import Asset
from oak_square.core.skins import bent_skin, parted_skin
from oak_square.core.words import say
from oak_square.sheet.model import Sheet
from oak_square.sheet.references import Others
from oak_square.steps.step import Setting, Step

__all__ = ["Prepared", "StepOutcome", "evaluate", "unmatched_steps"]

_LARGEST = 1e30  # metres; float32, which files hold, ends at 3.4e38


@dataclass(frozen=True, slots=True, kw_only=True)
class StepOutcome:
    """What one step came to for one asset; `step` counts from 1."""

    step: int
    do: str
    outcome: Literal["applied", "nothing", "refused"]
    detail: str
    warnings: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Prepared:
    """An asset as a sheet leaves it.

    Attributes
    ----------
    read : Asset
        As received, its reading settled.
    asset : Asset
        After the last step that was done.
    outcomes : tuple of StepOutcome
        One for each step in scope that is not paused.
    status : {"ready", "refused", "failed"}
    reason : str or None
        Why, when not ready.
    """

    read: Asset
    asset: Asset
    outcomes: tuple[StepOutcome, ...]
    status: Literal["ready", "refused", "failed"] = "ready"
    reason: str | None = None

    @property
    def warnings(self) -> tuple[str, ...]:
        """What the steps warned of, each with its step."""
        return tuple(
            say("step {step} ({do}): {w}", step=o.step, do=o.do, w=w) for o in self.outcomes for w in o.warnings
        )


def evaluate(
    asset: Asset,
    sheet: Sheet,
    others: Others | None = None,
    *,
    before: int | None = None,
    refused: Mapping[int, str] | None = None,
    answers: Mapping[str, Answer] | None = None,
) -> Prepared:
    """Return `asset` as `sheet` leaves it; pure.

    Readings are settled first, the last in scope holding. Steps then run in order, each on what the one before left.
    A refused or failed step ends it, unless the step may refuse.

    Parameters
    ----------
    others : Others, optional
        The rest of the batch, for steps that speak of another asset; `check_references` has seen the sheet.
    before : int, optional
        A step, counting from 1: only those ahead of it are run (readings are settled all the same).
    refused : mapping of step, counting from 1, to reason, optional
        Steps that are known to be refused, by whoever is to write what they come to.
    answers : mapping of file to Answer, optional
        What assets most likely are beside their folders, for guesses; one that is not in it is judged by itself.
    """
    due = [(n, step) for n, step in enumerate(sheet.steps, 1) if not step.paused and step.covers(asset.file)]
    if before is not None:
        due = [(n, step) for n, step in due if n < before or step.is_reading]
    bad = sum(m.not_finite for m in asset.meshes)
    if bad:
        return Prepared(
            read=asset,
            asset=asset,
            outcomes=(),
            status="failed",
            reason=say("{bad} coordinates are NaN or infinite", bad=bad),
        )
    refused = refused or {}
    answer = (answers or {}).get(asset.file)
    read, dropped = _settle_reading(asset, due, refused, answer)
    current, outcomes, plain = read, [], sheet.setting()
    for number, step in due:
        if step.is_reading:
            refusal = dropped.get(number)
            if refusal and not step.may_refuse:
                outcomes.append(_refused(number, step, refusal))
                return _stopped(
                    read,
                    current,
                    outcomes,
                    "refused",
                    say("step {number} ({do}): {refusal}", number=number, do=step.do, refusal=refusal),
                )
            outcomes.append(
                _refused(number, step, refusal) if refusal else _reading_outcome(asset, number, step, due, answer)
            )
            continue
        setting = replace(plain, others=partial(_other, sheet, others, answers, number))
        try:
            if number in refused:
                raise Refused(refused[number])
            if others is not None and step.refers_to is not None and others.file_of(step.refers_to) == asset.file:
                outcome = StepOutcome(
                    step=number, do=step.do, outcome="nothing", detail=say("the others are held against it")
                )
            else:
                current, outcome = _run(asset, current, number, step, setting)
        except Refused as error:
            outcome = _refused(number, step, str(error))
            if not step.may_refuse:
                return _stopped(
                    read,
                    current,
                    [*outcomes, outcome],
                    "refused",
                    say("step {number} ({do}): {error}", number=number, do=step.do, error=error),
                )
        except DataTrouble as error:
            return _stopped(
                read,
                current,
                outcomes,
                "failed",
                say("step {number} ({do}): {error}", number=number, do=step.do, error=error),
            )
        outcomes.append(outcome)
    return Prepared(read=read, asset=current, outcomes=tuple(outcomes))


def _other(
    sheet: Sheet, others: Others | None, answers: Mapping[str, Answer] | None, number: int, name: str
) -> Asset | None:
    """Return the asset called `name` as it stands before step `number`; None where none is called so."""
    file = others.file_of(name) if others is not None else None
    if others is None or file is None:
        return None
    prepared = evaluate(others.received(file), sheet, others, before=number, answers=answers)
    if prepared.status != "ready":
        raise Failed(say("'{file}' comes to nothing before that: {reason}", file=file, reason=prepared.reason))
    return prepared.asset


def _settle_reading(
    asset: Asset, due: list[tuple[int, Step]], refused: Mapping[int, str], answer: Answer | None
) -> tuple[Asset, dict[int, str]]:
    """Return the asset under its settled reading, and the readings that are refused, by step number."""
    reading = asset.reading
    dropped: dict[int, str] = {}
    for number, step in due:
        if step.is_reading:
            wanted = step.read_as(reading, asset, answer)
            sealed = next((m.sealed for m in asset.meshes if m.sealed), "")
            why = asset.rigid_reason or (
                say("its geometry is {sealed}, and a reading would rewrite it", sealed=sealed) if sealed else None
            )
            if number in refused or (why and not wanted.same_frame(asset.reading)):
                dropped[number] = refused.get(number) or why or ""
            else:
                reading = wanted
    return (asset if reading == asset.reading else with_reading(asset, reading)), dropped


def _reading_outcome(
    asset: Asset, number: int, step: Step, due: list[tuple[int, Step]], answer: Answer | None
) -> StepOutcome:
    detail, doubts = step.reading_detail(asset, answer)
    later = [n for n, other in due if n > number and other.do == step.do and other.is_reading]
    if later:
        return StepOutcome(
            step=number,
            do=step.do,
            outcome="nothing",
            detail=say("{detail}; step {later} says otherwise", detail=detail, later=later[-1]),
        )
    same = step.read_as(asset.reading, asset, answer).same_frame(asset.reading)
    return StepOutcome(
        step=number,
        do=step.do,
        outcome="nothing" if same else "applied",
        detail=say("{detail}, as it was", detail=detail) if same else detail,
        warnings=doubts,
    )


def _run(received: Asset, current: Asset, number: int, step: Step, setting: Setting) -> tuple[Asset, StepOutcome]:
    effect = step.apply(current, setting)
    if effect.changed and current.rigid_reason:
        raise Refused(current.rigid_reason)
    bent = bent_skin(current, effect.asset) if effect.changed else None
    if bent is not None:
        raise Refused(
            say("the skin of '{bent}' would be bent: its joints and its shape would not move as one", bent=bent)
        )
    parted = parted_skin(current, effect.asset) if effect.changed else None
    if parted is not None:
        raise Refused(
            say(
                "'{parted}' is a joint of a skin, and would no longer hang from one root with the others", parted=parted
            )
        )
    if effect.changed:
        if np.abs(effect.asset.worlds).max(initial=0.0) > _LARGEST or not np.isfinite(effect.asset.worlds).all():
            raise Refused(say("its frames grow past what a file can hold"))
        check_numbers(current, effect.asset)
        check_clips(received, effect.asset)
        check_spreads(effect.asset)
        _check_sealed(received, effect.asset)
    outcome = StepOutcome(
        step=number,
        do=step.do,
        outcome="applied" if effect.changed else "nothing",
        detail=effect.detail,
        warnings=effect.warnings,
    )
    return (effect.asset if effect.changed else current), outcome


def _check_sealed(received: Asset, after: Asset) -> None:
    """Make sure that no step rewrites what is compressed: frames may change, what they carry may not."""
    for old, new in zip(received.nodes, after.nodes, strict=False):
        sealed = received.meshes[old.mesh].sealed if old.mesh is not None and old.skin is None else ""
        if sealed and not same_matrix(new.local_from_mesh, old.local_from_mesh):
            raise Refused(
                say("the geometry of '{name}' is {sealed}, and this would rewrite it", name=old.name, sealed=sealed)
            )


def _refused(number: int, step: Step, why: str) -> StepOutcome:
    return StepOutcome(step=number, do=step.do, outcome="refused", detail=why)


def _stopped(
    read: Asset, current: Asset, outcomes: list[StepOutcome], status: Literal["refused", "failed"], reason: str
) -> Prepared:
    return Prepared(read=read, asset=current, outcomes=tuple(outcomes), status=status, reason=reason)


def unmatched_steps(sheet: Sheet, files: list[str], acted: set[int]) -> tuple[str, ...]:
    """Return a warning for each step that no file is in scope of, or that found no node of its `parts`.

    Parameters
    ----------
    files : list of str
        Every asset's path.
    acted : set of int
        Steps, counting from 1, that found something they are for in at least one asset.
    """
    said = []
    for number, step in enumerate(sheet.steps, 1):
        if step.paused:
            continue
        if not any(step.covers(f) for f in files) or (step.parts is not None and number not in acted):
            said.append(say("step {number} ({do}) matches nothing", number=number, do=step.do))
    return tuple(said)
