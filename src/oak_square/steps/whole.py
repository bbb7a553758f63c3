"""Steps that move an asset as a whole by one motion: each asset by its own, or all of them together by one."""

from __future__ import annotations

from abc import abstractmethod
from typing import TYPE_CHECKING

from numpy import float64
from numpy.typing import NDArray
from pydantic import Field

from oak_square.core.errors import Failed
from oak_square.core.words import say
from oak_square.steps.setting import Setting, WholeMotion
from oak_square.steps.step import Effect, Step

if TYPE_CHECKING:
    from oak_square.core.scene import Asset

__all__ = ["WholeStep"]

Array = NDArray[float64]


class WholeStep(Step):
    """A step that moves assets, or parts of them; `together`, assets count as one thing."""

    together: bool = Field(
        False, description=say("The assets that it is for move as one thing, by points of their common box.")
    )

    @property
    def moves_together(self) -> bool:
        """Whether the assets that it is for count as one thing."""
        return self.together

    @abstractmethod
    def find_motion(self, asset: Asset, setting: Setting, origins: Array | None = None) -> WholeMotion:
        """Return the motion of an asset as a whole, as it stands before the step.

        Parameters
        ----------
        origins : ndarray, shape (K, 3), optional
            Where `asset` is several as one: the origin of each, world, metres.

        Raises
        ------
        DataTrouble
            As `apply` does.
        """

    @abstractmethod
    def carry_whole(self, asset: Asset, motion: Array) -> Asset:
        """Return an asset carried by a motion, world, shape (4, 4)."""

    def apply_whole(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset carried by its motion, or by the one that it has together with others."""
        if not self.together:
            moved = self.find_motion(asset, setting)
        elif setting.joint is None:
            raise Failed(say("there is no batch to move together with"))
        else:
            moved = setting.joint()
        if moved.motion is None:
            return Effect(asset=asset, changed=False, detail=moved.detail, warnings=moved.warnings)
        carried = self.carry_whole(asset, moved.motion)
        return Effect(asset=carried, changed=True, detail=moved.detail, warnings=moved.warnings)

    def check_together(self, *, each: str) -> None:
        """Make sure that a step that moves assets together has nothing that only each has by itself.

        `each` names what it has of that kind; empty where it has nothing.

        Raises
        ------
        ValueError
            If it has.
        """
        if not self.together:
            return
        if self.parts is not None:
            raise ValueError(say("together is of whole assets: it takes no parts"))
        if each:
            raise ValueError(say("together moves all by one motion: {each} is of each by itself", each=each))
