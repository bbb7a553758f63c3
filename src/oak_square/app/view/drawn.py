"""What VTK draws of a shape: its surface, its edges, its lines."""

from __future__ import annotations

from typing import Any

import numpy as np
import vtkmodules.vtkRenderingOpenGL2  # noqa: F401  registers the OpenGL classes
from numpy.typing import NDArray
from vtkmodules.util.numpy_support import numpy_to_vtk, numpy_to_vtkIdTypeArray
from vtkmodules.vtkCommonCore import vtkPoints
from vtkmodules.vtkCommonDataModel import vtkCellArray, vtkPolyData, vtkStaticCellLocator
from vtkmodules.vtkCommonMath import vtkMatrix4x4
from vtkmodules.vtkFiltersCore import vtkCleanPolyData, vtkFeatureEdges, vtkQuadricClustering
from vtkmodules.vtkRenderingCore import vtkActor, vtkPolyDataMapper, vtkRenderWindow

from oak_square.app.facts.picture import Shape
from oak_square.core.geometry import flipped
from oak_square.core.scene import Mesh
from oak_square.core.tolerances import SAME_VERTEX

__all__ = ["Drawn", "line_actor", "offscreen_window", "vtk_matrix"]

_EDGES_UP_TO = 150_000  # triangles; beyond, lines cost more than they tell
_EDGE_ANGLE = 32.0
_LIGHT = 56  # cells a side that a stand-in gathers vertices in
_PICKED = np.array([0.122, 0.478, 0.455])
_LEAD = np.array([0.659, 0.455, 0.227])  # oak: told from the others by its heavier line too

Array = NDArray[np.float64]


class Drawn:
    """A mesh as VTK holds it: float32 about its own middle, so that far-away numbers keep their details."""

    def __init__(self, mesh: Mesh) -> None:
        points = np.asarray(mesh.points, dtype=np.float64)
        finite = points[np.isfinite(points).all(axis=1)] if mesh.not_finite else points
        self.middle = (finite.min(axis=0) + finite.max(axis=0)) / 2 if len(finite) else np.zeros(3)
        self.radius = float(np.linalg.norm(finite - self.middle, axis=1).max()) if len(finite) else 0.0
        self.data = vtkPolyData()
        near = np.nan_to_num((points - self.middle).astype(np.float32))
        held = vtkPoints()
        held.SetData(numpy_to_vtk(near, deep=True))
        self.data.SetPoints(held)
        self.data.SetPolys(_make_cell_array(np.asarray(mesh.triangles)))
        if mesh.normals is not None:
            self.data.GetPointData().SetNormals(numpy_to_vtk(np.array(mesh.normals, dtype=np.float32), deep=True))
        self.has_normals = mesh.normals is not None
        colours = np.full((len(mesh.triangles), 3), 178, dtype=np.uint8)
        for surface in mesh.surfaces:
            rows = slice(surface.first, surface.first + surface.count)
            colours[rows] = np.round(np.array(surface.colour) * 255).astype(np.uint8)
        self.data.GetCellData().SetScalars(numpy_to_vtk(colours, deep=True))
        self.edges = _feature_edges(self.data) if 0 < len(mesh.triangles) <= _EDGES_UP_TO else None
        self._triangles = mesh.triangles
        self._turned: vtkPolyData | None = None
        self._light: vtkPolyData | None = None
        self._locator: Any = None

    def outward(self, *, mirrored: bool) -> vtkPolyData:
        """The triangles wound so that a matrix that mirrors, or one that doesn't, leaves them facing outward."""
        if not mirrored:
            return self.data
        if self._turned is None:
            self._turned = vtkPolyData()
            self._turned.ShallowCopy(self.data)
            self._turned.SetPolys(_make_cell_array(flipped(np.asarray(self._triangles))))
        return self._turned

    def stand_in(self) -> vtkPolyData:
        """Fewer triangles of about the same shape, for pictures that move; made when first asked for."""
        if self._light is None:
            clusters = vtkQuadricClustering()
            clusters.SetInputData(self.data)
            clusters.AutoAdjustNumberOfDivisionsOff()
            clusters.SetNumberOfDivisions(_LIGHT, _LIGHT, _LIGHT)
            clusters.CopyCellDataOn()
            clusters.Update()
            self._light = clusters.GetOutput()
        return self._light

    def locator(self) -> Any:
        """The static cell locator over it, built when first asked for."""
        if self._locator is None:
            self._locator = vtkStaticCellLocator()
            self._locator.SetDataSet(self.data)
            self._locator.BuildLocator()
        return self._locator


def _make_cell_array(triangles: NDArray[Any]) -> vtkCellArray:
    offsets = np.arange(0, 3 * len(triangles) + 1, 3, dtype=np.int64)
    cells = vtkCellArray()
    flat = np.ascontiguousarray(triangles, dtype=np.int64).ravel()
    cells.SetData(numpy_to_vtkIdTypeArray(offsets, deep=True), numpy_to_vtkIdTypeArray(flat, deep=True))
    return cells


def _feature_edges(data: vtkPolyData) -> vtkPolyData:
    bare = vtkPolyData()
    bare.SetPoints(data.GetPoints())
    bare.SetPolys(data.GetPolys())
    welded = vtkCleanPolyData()
    welded.SetInputData(bare)
    welded.PointMergingOn()
    welded.SetTolerance(SAME_VERTEX)
    edges = vtkFeatureEdges()
    edges.SetInputConnection(welded.GetOutputPort())
    edges.SetFeatureAngle(_EDGE_ANGLE)
    edges.ManifoldEdgesOff()
    edges.NonManifoldEdgesOff()
    edges.ColoringOff()
    edges.Update()
    return edges.GetOutput()


def vtk_matrix(values: Array) -> vtkMatrix4x4:
    """Return a matrix, shape (4, 4), as VTK has it."""
    matrix = vtkMatrix4x4()
    matrix.DeepCopy(np.asarray(values, dtype=np.float64).ravel().tolist())
    return matrix


def offscreen_window() -> vtkRenderWindow:
    """Return a window that is never shown."""
    try:
        # By name: the factory would try a display first, and complain on stderr where there is none.
        from vtkmodules.vtkRenderingOpenGL2 import vtkEGLRenderWindow
    except ImportError:
        window = vtkRenderWindow()
    else:
        window = vtkEGLRenderWindow()
    window.SetOffScreenRendering(1)
    window.SetMultiSamples(0)
    window.SetAlphaBitPlanes(1)
    return window


def line_actor(edges: vtkPolyData, world: vtkMatrix4x4, shape: Shape) -> vtkActor:
    """Return the lines of a shape, drawn as what it is to the hand: picked, lead, or neither."""
    actor = vtkActor()
    mapper = vtkPolyDataMapper()
    mapper.SetInputData(edges)
    mapper.ScalarVisibilityOff()
    actor.SetMapper(mapper)
    actor.SetUserMatrix(world)
    ink = actor.GetProperty()
    ink.LightingOff()
    ink.SetColor(*(_LEAD if shape.lead else _PICKED if shape.picked else (0.13, 0.11, 0.09)))
    ink.SetOpacity(1.0 if shape.picked else 0.55)
    ink.SetLineWidth(2.6 if shape.lead else 2.0 if shape.picked else 1.0)
    return actor
