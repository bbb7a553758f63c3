"""Playing: the clips of the asset looked at, on the Bench, as they will be once the steps are done."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QElapsedTimer, QObject, QTimer, Signal

from oak_square.app.session.session import Session
from oak_square.app.view import Facts, Picture, Shape
from oak_square.core.clips import morphed_points, one_motion, pose, sampled
from oak_square.core.errors import DataTrouble
from oak_square.core.scene import Asset, Mesh
from oak_square.core.skins import posed_points
from oak_square.core.words import say

__all__ = ["Playing"]

Array = NDArray[np.float64]
_FRAME_MS, _STILL_MS = 33, 700
_MOST_VERTICES = 300_000  # that are posed for each frame: more would take longer than a frame


class Playing(QObject):
    """Runs a clip of the lead asset round and round; stops when another asset, or a step, comes between."""

    changed = Signal()

    def __init__(self, session: Session, parent: QObject) -> None:
        super().__init__(parent)
        self._session = session
        self._timer = QTimer(self, interval=_FRAME_MS)
        self._timer.timeout.connect(self.changed)
        self._since = QElapsedTimer()
        session.selection_changed.connect(self.stop)
        session.sheet.document_changed.connect(self.stop)

    @property
    def is_on(self) -> bool:
        """Whether a clip runs."""
        return self._timer.isActive()

    def can_play(self, file: str | None) -> bool:
        """Tell whether an asset has clips to play."""
        asset = self._session.assets.get(file or "")
        return asset is not None and any(clip.length_s > 0 for clip in asset.clips)

    def set_still(self, wanted: bool) -> None:
        """Show a clip in single pictures, one after the other, in place of moving ones."""
        self._timer.setInterval(_STILL_MS if wanted else _FRAME_MS)

    def turn(self) -> None:
        """Play, or stop."""
        if self.is_on:
            self.stop()
        elif self.can_play(self._session.lead):
            self._since.start()
            self._timer.start()
            self.changed.emit()

    def stop(self) -> None:
        """Stand still at rest."""
        if self._timer.isActive():
            self._timer.stop()
            self.changed.emit()

    def frame(self, picture: Picture, facts: Facts, prepared: Asset) -> tuple[Picture, Facts]:
        """Return the picture with the lead asset's parts where the clip has them now; as they are when none runs."""
        received = self._session.assets.get(prepared.file)
        if not self.is_on or received is None or not received.clips:
            return picture, facts
        clip = max(received.clips, key=lambda c: c.length_s)
        at_s = (self._since.elapsed() / 1000) % max(clip.length_s, 1e-3)
        try:
            motion = one_motion(received, prepared)
        except DataTrouble as error:
            self._timer.stop()
            self._session.messages.failed.emit(str(error))
            return picture, facts
        worlds = pose(received, clip, at_s)
        weights = {t.node: sampled(t, at_s) for t in clip.morphing}
        shapes = []
        for shape in picture.shapes:
            if shape.file == prepared.file:
                cut_from = prepared.nodes[shape.node].cut_from
                index = shape.node if cut_from is None else cut_from
                shape = _pose_shape(shape, received, index, motion, worlds, weights.get(index))
            shapes.append(shape)
        title = say(
            "{title}  ·  {name}, {at_s:.1f} of {length_s:.1f} s",
            title=facts.title,
            name=clip.name,
            at_s=at_s,
            length_s=clip.length_s,
        )
        return replace(picture, shapes=tuple(shapes)), replace(facts, title=title, pivots=())


def _pose_shape(
    shape: Shape, received: Asset, index: int, motion: Array, worlds: Array, weights: Array | None
) -> Shape:
    """Return a part of the asset at a time of its clip: as a skin holds it, as it is morphed, or where its node is."""
    node, mesh = received.nodes[index], shape.mesh
    small = len(mesh.points) <= _MOST_VERTICES
    if node.skin is not None:
        if mesh.hold is None or not small:
            return shape
        points = posed_points(received, mesh, node.skin, worlds)
        return replace(shape, mesh=_replace_points(mesh, points), world_from_mesh=motion)
    if weights is not None and small and len(weights) == len(mesh.morphs):
        shape = replace(shape, mesh=_replace_points(mesh, morphed_points(mesh, weights)))
    return replace(shape, world_from_mesh=motion @ worlds[index] @ node.local_from_mesh)


def _replace_points(mesh: Mesh, points: Array) -> Mesh:
    return replace(mesh, points=points, normals=None)
