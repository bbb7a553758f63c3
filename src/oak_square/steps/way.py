"""What `turn` with `up` and `front` takes for a reading, where one of them, or both, are to be guessed."""

from __future__ import annotations

from dataclasses import dataclass

from oak_square.core.frames import AXES, on_one_line
from oak_square.core.likely.answers import Answer
from oak_square.core.likely.sides import front_axis, usual_front
from oak_square.core.words import joined, say

__all__ = ["GUESS", "Taken", "taken_way"]

GUESS = "guess"


@dataclass(frozen=True, slots=True, kw_only=True)
class Taken:
    """The axes that are taken for up and front, why, and what is doubtful of that."""

    up: str
    front: str
    why: tuple[str, ...] = ()
    doubts: tuple[str, ...] = ()

    @property
    def words(self) -> str:
        """What is taken, and why."""
        return joined("; ", [say("Turn: guess, {up} is up, {front} is front", up=self.up, front=self.front), *self.why])


def taken_way(answer: Answer, up: str, front: str) -> Taken:
    """Return what is taken for up and front of an asset that most likely is so; either may be `guess`."""
    why, doubts = list[str](), list[str]()
    if up == GUESS:
        sides = answer.up
        if sides is None:
            up = answer.own_up if front == GUESS or not on_one_line(answer.own_up, front) else _describe_off(front)
            doubts.append(say("the up axis is a guess: nothing to judge by"))
        else:
            best = sides.best
            if front != GUESS and on_one_line(best, front):
                free = [k for k, axis in enumerate(AXES) if not on_one_line(axis, front)]
                best = AXES[max(free, key=lambda k: sides.shares[k])]
                doubts.append(
                    say(
                        "the up axis is a guess: {words}, which does not go with front {front}",
                        words=sides.words,
                        front=front,
                    )
                )
            elif not sides.certain:
                doubts.append(say("the up axis is a guess: {words}", words=sides.words))
            up, why = best, [*sides.says]
    if front == GUESS:
        front, says, sure = _find_front(up, answer)
        why += [says] if says else []
        if not sure:
            doubts.append(
                say("the front is a guess: {says}; {front} is taken", says=says or say("nothing tells it"), front=front)
            )
    return Taken(up=up, front=front, why=tuple(why), doubts=tuple(doubts))


def _describe_off(front: str) -> str:
    return next(axis for axis in ("+Y", "+Z") if not on_one_line(axis, front))


def _find_front(up: str, answer: Answer) -> tuple[str, str, bool]:
    """Return the axis taken for front under an up axis, why, and whether that is sure."""
    if answer.declares and up == answer.own_up:
        return answer.own_front, say("as the file says"), True
    if answer.up is not None and answer.up.best == up and answer.front:
        return answer.front, answer.front_says, answer.front_certain
    axis = front_axis(answer.mirrors, up) if answer.mirrors else None
    front = usual_front(up, axis)
    if axis is None:
        return front, "", False
    third = next(a for a in "XYZ" if a not in (up[1], front[1]))
    says = say("left and right are mirrored across {third}", third=third)
    # Custom has a word for one axis alone.
    either = "" if front == usual_front(up, None) else say("; front is {front} or the other way", front=front)
    return front, joined("", [says, either]), False
