"""An asset on its way through the steps of a sheet, one after the other."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from oak_square.core.errors import DataTrouble, Refused
from oak_square.core.instances import check_spreads
from oak_square.core.likely.answers import Answer
from oak_square.core.motion import resize_all, same_matrix, with_reading
from oak_square.core.precision import check_numbers
from oak_square.core.resampling import check_clips
from oak_square.core.scene import Asset
from oak_square.core.skins import bent_skin, parted_skin
from oak_square.core.words import say
from oak_square.sheet.model import Sheet
from oak_square.steps.misfits import apply_where_it_fits
from oak_square.steps.setting import Setting, WholeMotion
from oak_square.steps.step import Step

__all__ = ["Course", "Prepared", "StepOutcome", "at_ratio"]

_LARGEST = 1e30  # metres; float32, which files hold, ends at 3.4e38


@dataclass(frozen=True, slots=True, kw_only=True)
class StepOutcome:
    """What one step came to for one asset.

    `step` counts from 1. `left_out` has the positions, before the step, of the nodes it was for and did not fit.
    """

    step: int
    do: str
    outcome: Literal["applied", "nothing", "refused"]
    detail: str
    warnings: tuple[str, ...] = ()
    left_out: tuple[int, ...] = ()


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


class Course:
    """One asset and one sheet: what its steps came to so far, and which is next. Readings are settled at once.

    Attributes
    ----------
    file : str
    current : Asset
        As the steps that were taken leave it.
    why : str or None
        Why it stopped before its end; None where it has not.
    """

    def __init__(
        self,
        asset: Asset,
        sheet: Sheet,
        *,
        before: int | None = None,
        refused: Mapping[int, str] | None = None,
        answer: Answer | None = None,
    ) -> None:
        """Take what `evaluate` takes; `answer` is the asset's own."""
        due = [(n, step) for n, step in enumerate(sheet.steps, 1) if not step.paused and step.covers(asset.file)]
        self._due = [(n, step) for n, step in due if before is None or n < before or step.is_reading]
        self._received, self._make_refusal, self._answer, self._at = asset, refused or {}, answer, 0
        self._plain = sheet.setting()
        self._outcomes: list[StepOutcome] = []
        self._status: Literal["ready", "refused", "failed"] = "ready"
        self.file = asset.file
        self.why: str | None = None
        bad = sum(m.not_finite for m in asset.meshes)
        if bad:
            self._read = self.current = asset
            self._stop_course("failed", say("{bad} coordinates are NaN or infinite", bad=bad))
            return
        self._read, self._dropped = _settle_reading(asset, self._due, self._make_refusal, answer)
        self.current = self._read

    @property
    def next_step(self) -> tuple[int, Step] | None:
        """The step that is due, and its number, from 1; None where the course is at its end."""
        return self._due[self._at] if self._at < len(self._due) else None

    @property
    def bytes_held(self) -> int:
        """How much memory the geometry takes that it was read with."""
        return sum(m.points.nbytes + m.triangles.nbytes for m in self._received.meshes)

    def is_of(self, asset: Asset) -> bool:
        """Tell whether it is the course of an asset as received."""
        return self._received is asset

    def prepared(self) -> Prepared:
        """Return what the steps that were taken came to."""
        return Prepared(
            read=self._read,
            asset=self.current,
            outcomes=tuple(self._outcomes),
            status=self._status,
            reason=self.why,
        )

    def take_step(
        self,
        others: Callable[[str], Asset | None],
        own_names: frozenset[str] = frozenset(),
        joint: Callable[[], WholeMotion] | None = None,
    ) -> None:
        """Run the step that is due.

        Parameters
        ----------
        others : callable
            Returns another asset of the batch as it stands before this step; None where none is called so.
        own_names : set of str
            Names by which steps mean this very asset.
        joint : callable, optional
            Returns the motion that all make together whom this step moves so.
        """
        number, step = self._due[self._at]
        self._at += 1
        if step.is_reading:
            self._take_reading(number, step)
            return
        try:
            if number in self._make_refusal:
                raise Refused(self._make_refusal[number])
            if not own_names.isdisjoint(step.refers_to):
                told = say("the others are held against it")
                outcome = StepOutcome(step=number, do=step.do, outcome="nothing", detail=told)
            else:
                setting = replace(self._plain, others=others, joint=joint)
                self.current, outcome = _run_step(self._received, self.current, number, step, setting)
        except Refused as error:
            outcome = _make_refusal(number, step, str(error))
            if not step.may_refuse:
                self._stop_course(
                    "refused", say("step {number} ({do}): {error}", number=number, do=step.do, error=error)
                )
        except DataTrouble as error:
            self._stop_course("failed", say("step {number} ({do}): {error}", number=number, do=step.do, error=error))
            return
        self._outcomes.append(outcome)

    def _take_reading(self, number: int, step: Step) -> None:
        refusal = self._dropped.get(number)
        if not refusal:
            self._outcomes.append(_reading_outcome(self._received, number, step, self._due, self._answer))
            return
        self._outcomes.append(_make_refusal(number, step, refusal))
        if not step.may_refuse:
            self._stop_course(
                "refused", say("step {number} ({do}): {refusal}", number=number, do=step.do, refusal=refusal)
            )

    def _stop_course(self, status: Literal["refused", "failed"], why: str) -> None:
        self._status, self.why, self._at = status, why, len(self._due)


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


def _run_step(received: Asset, current: Asset, number: int, step: Step, setting: Setting) -> tuple[Asset, StepOutcome]:
    fit = apply_where_it_fits(step, current, setting)
    effect = fit.effect
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
        _check_change(received, current, effect.asset)
    outcome = StepOutcome(
        step=number,
        do=step.do,
        outcome="applied" if effect.changed else "nothing",
        detail=effect.detail,
        warnings=effect.warnings,
        left_out=fit.left_out,
    )
    return (effect.asset if effect.changed else current), outcome


def at_ratio(prepared: Prepared, received: Asset, scale: float) -> Prepared:
    """Return what a sheet leaves, as large as it is written: sized about the file origin, in geometry, not in channels.

    Raises
    ------
    Refused
        If its geometry or its clips can't be rewritten.
    """
    if scale == 1:
        return prepared
    if prepared.asset.rigid_reason:
        raise Refused(prepared.asset.rigid_reason)
    sized = resize_all(prepared.asset, np.diag([scale, scale, scale, 1.0]))
    _check_change(received, prepared.asset, sized)
    return replace(prepared, asset=sized)


def _check_change(received: Asset, current: Asset, after: Asset) -> None:
    """Make sure that what an asset has become can be written."""
    if np.abs(after.worlds).max(initial=0.0) > _LARGEST or not np.isfinite(after.worlds).all():
        raise Refused(say("its frames grow past what a file can hold"))
    check_numbers(current, after)
    check_clips(received, after)
    check_spreads(after)
    _check_sealed(received, after)


def _check_sealed(received: Asset, after: Asset) -> None:
    """Make sure that no step rewrites what is compressed: frames may change, what they carry may not."""
    for old, new in zip(received.nodes, after.nodes, strict=False):
        sealed = received.meshes[old.mesh].sealed if old.mesh is not None and old.skin is None else ""
        if sealed and not same_matrix(new.local_from_mesh, old.local_from_mesh):
            raise Refused(
                say("the geometry of '{name}' is {sealed}, and this would rewrite it", name=old.name, sealed=sealed)
            )


def _make_refusal(number: int, step: Step, why: str) -> StepOutcome:
    return StepOutcome(step=number, do=step.do, outcome="refused", detail=why)
