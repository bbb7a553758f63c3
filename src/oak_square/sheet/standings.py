"""How the assets that a sheet's steps name stand before those steps: each worked out once, whoever asks.

What a step names counts as it stands before that step. So what stands before a step hangs on what stood before earlier
ones alone, also where assets refer to each other, and the way there is never longer than the sheet.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from functools import partial

from oak_square.core.errors import BadFile, DataTrouble, Failed
from oak_square.core.likely.answers import Answer
from oak_square.core.scene import Asset
from oak_square.core.together import group_of
from oak_square.core.words import counted, say
from oak_square.sheet.course import Course
from oak_square.sheet.model import Sheet
from oak_square.sheet.references import Others, members_of
from oak_square.steps.setting import WholeMotion
from oak_square.steps.step import Step
from oak_square.steps.whole import WholeStep

__all__ = ["Standings"]

_MOST_BYTES = 1 << 30
_FAR = 1 << 62


class Standings:
    """One sheet, and the batch that its steps may name.

    Parameters
    ----------
    sheet : Sheet
    others : Others, optional
    answers : mapping of file to Answer, optional
        What assets most likely are beside their folders, for guesses.
    """

    def __init__(self, sheet: Sheet, others: Others | None = None, answers: Mapping[str, Answer] | None = None) -> None:
        self._sheet, self._others, self._answers = sheet, others, answers or {}
        self._courses: dict[str, Course | DataTrouble] = {}
        self._found: dict[tuple[str, int], Asset | DataTrouble] = {}
        self._joint: dict[int, WholeMotion | DataTrouble] = {}  # of the steps that move several as one
        self._files: dict[str, str | None] = {}
        self._bytes = 0  # of the geometry that is held
        # For each step, the files that it hangs on; for each file, the steps that hang on it: before those its
        # standing is kept, while its course goes on.
        self._hangs_on: dict[int, tuple[str, ...]] = {}
        self._members: dict[int, tuple[str, ...]] = {}
        self._asked: dict[str, list[int]] = {}
        self._named: dict[str, set[str]] = {}
        for number, step in enumerate(sheet.steps, 1):
            if not step.paused:
                self._note_step(number, step)

    def _note_step(self, number: int, step: Step) -> None:
        """Take note of the files that a step hangs on."""
        names = {name: file for name in self._sheet.assets_named(step) if (file := self._file_called(name)) is not None}
        for name in step.refers_to:
            if name in names:
                self._named.setdefault(names[name], set()).add(name)
        if step.moves_together and self._others is not None:
            self._members[number] = members_of(step, self._others.files(), names)
        self._hangs_on[number] = tuple(dict.fromkeys((*names.values(), *self._members.get(number, ()))))
        for file in self._hangs_on[number]:
            self._asked.setdefault(file, []).append(number)

    def course_of(self, asset: Asset) -> Course | None:
        """Return the course of an asset that steps name, where it is the one that they mean; else None."""
        if asset.file not in self._asked:
            return None
        course = self._course_called(asset.file)
        return course if isinstance(course, Course) and course.is_of(asset) else None

    def standing_at_end(self, file: str) -> Asset:
        """Return a file as it stands after all steps.

        Raises
        ------
        DataTrouble
            If it comes to nothing.
        """
        return self._find_standing(_FAR, file)

    def run(self, course: Course, until: int = _FAR) -> None:
        """Run a course to its end, or to the step `until`, and those that it hangs on as far as it does."""
        self._run_courses(course, until)
        self._let_go()

    def _run_courses(self, course: Course, until: int) -> None:
        due = [(course, until)]
        while due:
            now, until = due[-1]
            step = now.next_step
            if step is None or step[0] >= until:
                due.pop()
                continue
            lacking = self._course_due_first(now.file, step[0])
            if lacking is not None:
                due.append((lacking, step[0]))
                continue
            if self._courses.get(now.file) is now:
                self._keep_standings(now, step[0])
            joint = partial(self._give_joint_motion, step[0]) if step[0] in self._members else None
            named = frozenset(self._named.get(now.file, ()))
            now.take_step(partial(self._give_standing, step[0]), named, joint)

    def _course_due_first(self, file: str, number: int) -> Course | None:
        """Return the course that must go on before a step of a file can be taken."""
        if number in self._joint:
            return None
        for other in self._hangs_on.get(number, ()):
            if other == file or (other, number) in self._found:
                continue
            course = self._course_called(other)
            if isinstance(course, Course) and course.next_step is not None and course.next_step[0] < number:
                return course
            self._found[other, number] = _standing_of(course)
        return None

    def _give_joint_motion(self, number: int) -> WholeMotion:
        """Return the motion that the files of a step make together, worked out once."""
        if number not in self._joint:
            try:
                self._joint[number] = self._find_joint_motion(number)
            except DataTrouble as error:
                self._joint[number] = error
        found = self._joint[number]
        if isinstance(found, DataTrouble):
            raise found
        return found

    def _find_joint_motion(self, number: int) -> WholeMotion:
        step, standing, warnings = self._sheet.steps[number - 1], list[Asset](), list[str]()
        assert isinstance(step, WholeStep)
        for file in self._members[number]:
            try:
                standing.append(self._find_standing(number, file))
            except DataTrouble as error:
                course = self._courses.get(file)
                reason = error.reason if isinstance(error, BadFile) else str(error)
                if isinstance(course, Course) and course.why is not None:
                    reason = course.why
                warnings.append(say("'{file}' is left out of what moves together: {reason}", file=file, reason=reason))
        group = group_of(standing)
        setting = replace(self._sheet.setting(), others=partial(self._give_standing, number))
        moved = step.find_motion(group.asset, setting, group.origins)
        detail = say("{detail}, {assets} together", detail=moved.detail, assets=counted(len(standing), "asset"))
        return replace(moved, detail=moved.detail if moved.motion is None else detail, warnings=tuple(warnings))

    def _keep_standings(self, course: Course, number: int) -> None:
        """Keep how a file stands before it takes a step, for steps up to that one which name it."""
        for asked in self._asked.get(course.file, ()):
            if asked <= number:
                self._found.setdefault((course.file, asked), _standing_of(course))

    def _give_standing(self, number: int, name: str) -> Asset | None:
        """Return the asset called `name` as it stands before a step; None where none is called so."""
        file = self._file_called(name)
        return None if file is None else self._find_standing(number, file)

    def _find_standing(self, number: int, file: str) -> Asset:
        found = self._found.get((file, number))
        if found is None:  # named by more than what the step hangs on
            course = self._course_called(file)
            if isinstance(course, Course):
                self._run_courses(course, number)
            found = _standing_of(course)
        if isinstance(found, DataTrouble):
            raise found
        return found

    def _file_called(self, name: str) -> str | None:
        if name not in self._files:
            self._files[name] = self._others.file_of(name) if self._others is not None else None
        return self._files[name]

    def _course_called(self, file: str) -> Course | DataTrouble:
        if file not in self._courses:
            assert self._others is not None
            try:
                asset = self._others.received(file)
                self._courses[file] = course = Course(asset, self._sheet, answer=self._answers.get(file))
                self._bytes += course.bytes_held
            except DataTrouble as error:
                self._courses[file] = error
        return self._courses[file]

    def _let_go(self) -> None:
        """Forget what was worked out where it holds much: it can be worked out again."""
        if self._bytes > _MOST_BYTES:
            self._bytes = 0
            self._courses.clear()
            self._found.clear()


def _standing_of(course: Course | DataTrouble) -> Asset | DataTrouble:
    """Return what a course has come to, or why that is nothing."""
    if isinstance(course, DataTrouble):
        return course
    if course.why is None:
        return course.current
    return Failed(say("'{file}' comes to nothing before that: {reason}", file=course.file, reason=course.why))
