"""The view: a VTK picture of plain values, with everything written over it by QPainter."""

from oak_square.app.facts.picture import Facts, MeasureMark, Picture, PivotMark, Shape
from oak_square.app.view.bench import Bench
from oak_square.app.view.camera import Camera, framed
from oak_square.app.view.renderer import Renderer

__all__ = ["Bench", "Camera", "Facts", "MeasureMark", "Picture", "PivotMark", "Renderer", "Shape", "framed"]
