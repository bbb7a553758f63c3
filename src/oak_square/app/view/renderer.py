"""VTK, offscreen: a picture and a camera in, pixels out. Knows no Qt, no sheet."""

from __future__ import annotations

import math
import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from weakref import WeakKeyDictionary

import numpy as np
import vtkmodules.vtkRenderingOpenGL2  # noqa: F401  registers the OpenGL classes
from numpy.typing import NDArray
from vtkmodules.util.numpy_support import numpy_to_vtk, numpy_to_vtkIdTypeArray, vtk_to_numpy
from vtkmodules.vtkCommonCore import mutable, vtkPoints, vtkUnsignedCharArray
from vtkmodules.vtkCommonDataModel import vtkCellArray, vtkPolyData
from vtkmodules.vtkRenderingCore import vtkActor, vtkLight, vtkPolyDataMapper, vtkRenderer

from oak_square.app.facts.picture import Picture, Shape
from oak_square.app.view.camera import Camera
from oak_square.app.view.drawn import Drawn, line_actor, offscreen_window, vtk_matrix
from oak_square.app.view.grid import grid_lines
from oak_square.core.frames import apply, translation
from oak_square.core.geometry import is_mirror
from oak_square.core.scene import Mesh, Surface
from oak_square.core.tolerances import SPECK, TINY

__all__ = ["Renderer"]

Array = NDArray[np.float64]
_MANY_TRIANGLES = 200_000  # in a picture: from here on only fewer of them make a software frame faster
_HEAVY = 20_000  # triangles of a mesh that gets a stand-in
_NEAR_SHARE = 1000.0
# Of pieces that lie beside one another: as far apart in lightness as in hue.
_TINTS = (
    (0.62, 0.36, 0.20), (0.33, 0.52, 0.55), (0.80, 0.66, 0.36), (0.45, 0.38, 0.55), (0.56, 0.64, 0.40),
    (0.74, 0.48, 0.42), (0.30, 0.38, 0.46), (0.86, 0.78, 0.62),
)  # fmt: skip
_GRID_MINOR, _GRID_MAJOR = (0.62, 0.55, 0.45), (0.48, 0.40, 0.30)


class Renderer:
    """Draws pictures. Keeps what VTK needs of each mesh for as long as the mesh lives."""

    def __init__(self) -> None:
        self._drawn: WeakKeyDictionary[Mesh, Drawn] = WeakKeyDictionary()
        self._window = offscreen_window()
        self._scene = vtkRenderer()
        self._scene.SetBackgroundAlpha(0.0)
        self._scene.SetAutomaticLightCreation(0)
        for place, strength in (((-0.5, 0.9, 1.0), 0.80), ((1.0, 0.15, 0.6), 0.28), ((0.0, -1.0, 0.3), 0.10)):
            light = vtkLight()
            light.SetLightTypeToCameraLight()
            light.SetPosition(*place)
            light.SetFocalPoint(0, 0, 0)
            light.SetIntensity(strength)
            self._scene.AddLight(light)
        self._window.AddRenderer(self._scene)
        self._by_shape: list[list[vtkActor]] = []
        self._is_light = False
        self._picture: Picture | None = None
        self._origin = np.zeros(3)
        self._grid = vtkActor()
        self._grid_key: tuple[float, ...] = ()
        self._pixels = vtkUnsignedCharArray()
        self._balls: tuple[Picture, Array, Array] | None = None

    def render(
        self,
        picture: Picture,
        camera: Camera,
        size: tuple[int, int],
        *,
        grid: tuple[float, int] | None,
        fine: bool,
        light: bool = False,
    ) -> NDArray[np.uint8]:
        """Return the picture, shape (height, width, 4), RGBA with the top row first, clear where nothing is.

        Parameters
        ----------
        size : tuple of int, pixels, width and height
        grid : tuple of (float, metres, and int) or None
            Distance between the lines of the ground grid, and how many make a major one; None draws none.
        fine : bool
            Smooth edges, for a picture that stands still.
        light : bool
            It moves: of very many triangles, fewer will do.
        """
        width, height = max(8, size[0]), max(8, size[1])
        if picture is not self._picture:
            self.take(picture)
        if self.is_whole:
            self._lighten_meshes(picture, wanted=not fine and light)
        self._place_grid(camera, grid)
        self._aim_camera(camera)
        self._window.SetMultiSamples(4 if fine else 0)
        self._window.SetSize(width, height)
        self._window.Render()
        self._window.GetRGBACharPixelData(0, 0, width - 1, height - 1, 0, self._pixels, 0)
        return vtk_to_numpy(self._pixels).reshape(height, width, 4)[::-1].copy()

    def warm_up(self) -> None:
        """Draw one triangle out of sight, so that shaders are made before the first model needs them."""
        corners = np.eye(3, dtype=np.float32)
        mesh = Mesh(name="", points=corners, triangles=np.array([[0, 1, 2]]), surfaces=(Surface(first=0, count=1),))
        flat = replace(mesh, normals=corners)
        shapes = tuple(Shape(file="", node=0, mesh=m, world_from_mesh=np.eye(4)) for m in (mesh, flat))
        camera = Camera(target=np.zeros(3), distance=4.0)
        for fine in (False, True):
            self.render(Picture(shapes=shapes), camera, (64, 64), grid=(1.0, 5), fine=fine)

    def let_go(self) -> None:
        """Keep nothing of what was drawn last."""
        self._balls = None
        self.take(Picture())

    def close(self) -> None:
        """Give the graphics context back."""
        self._window.Finalize()

    def pick(
        self, picture: Picture, eye: Array, toward: Array, passing: Callable[[Shape], bool] | None = None
    ) -> tuple[Shape, Array, int] | None:
        """Return the nearest shape that a world ray meets, where, metres, and on which triangle; None for nothing.

        `passing` tells which shapes it goes through.
        """
        best: tuple[float, Shape, Array, int] | None = None
        for first, shape in self._find_met(picture, eye, toward):
            if best is not None and first > best[0]:
                break
            if passing is not None and passing(shape):
                continue
            drawn = self._find_drawn(shape.mesh)
            world = shape.world_from_mesh @ translation(drawn.middle)
            if not len(shape.mesh.triangles) or abs(np.linalg.det(world[:3, :3])) < TINY:
                continue
            mesh_from_world = np.linalg.inv(world).astype(np.float64)
            hit = _meet_ray(drawn, mesh_from_world, eye, toward)
            if hit is not None:
                at = apply(world, hit[0])
                far = float((at - eye) @ toward)
                if best is None or far < best[0]:
                    best = (far, shape, at, hit[1])
        return None if best is None else best[1:]

    def _find_met(self, picture: Picture, eye: Array, toward: Array) -> Iterator[tuple[float, Shape]]:
        """Yield the shapes whose spheres a ray meets, each with the least depth it could be met at, nearest first."""
        # Of a picture that is still being taken, what is drawn can be met.
        shapes = picture.shapes[: len(self._by_shape)] if picture is self._picture else picture.shapes
        if self._balls is None or self._balls[0] is not picture or len(self._balls[2]) != len(shapes):
            self._balls = (picture, *self._bound_shapes(shapes))
        _, centres, radii = self._balls
        along = (centres - eye) @ toward
        off = np.linalg.norm(centres - eye - along[:, None] * toward, axis=1)
        met = np.flatnonzero(off <= radii)
        for k in met[np.argsort(along[met] - radii[met])].tolist():
            yield float(along[k] - radii[k]), picture.shapes[k]

    def _bound_shapes(self, shapes: Sequence[Shape]) -> tuple[Array, Array]:
        """Return the middle, shape (N, 3), and the radius, shape (N,), of a sphere about each shape, metres."""
        drawn = [self._find_drawn(shape.mesh) for shape in shapes]
        worlds = np.array([shape.world_from_mesh for shape in shapes]).reshape(-1, 4, 4)
        middles = np.array([d.middle for d in drawn]).reshape(-1, 3)
        reach = np.linalg.norm(worlds[:, :3, :3], axis=(1, 2))  # no less than what a matrix makes of a length
        radii = reach * np.array([d.radius for d in drawn])
        return np.einsum("nij,nj->ni", worlds[:, :3, :3], middles) + worlds[:, :3, 3], radii * (1 + SPECK) + SPECK

    def _find_drawn(self, mesh: Mesh) -> Drawn:
        drawn = self._drawn.get(mesh)
        if drawn is None:
            drawn = self._drawn[mesh] = Drawn(mesh)
        return drawn

    @property
    def is_whole(self) -> bool:
        """Whether all of the picture that was taken last is ready to be drawn."""
        return self._picture is None or len(self._by_shape) == len(self._picture.shapes)

    def take(self, picture: Picture, seconds: float = math.inf) -> bool:
        """Make ready what drawing a picture takes, in order, for about so long; return whether all of it is.

        Asked again, it goes on. What is ready is drawn meanwhile, and can be met.
        """
        if picture is not self._picture:
            if self._picture is not None and self.is_whole and _same_but_for_places(self._picture, picture):
                self._move_shapes(picture)
                return True
            self._begin_picture(picture)
        until = time.perf_counter() + seconds
        for shape in picture.shapes[len(self._by_shape) :]:
            actors = self._actors_of(shape)
            self._by_shape.append(actors)
            for actor in actors:
                self._scene.AddActor(actor)
            if time.perf_counter() > until:
                break
        return self.is_whole

    def _begin_picture(self, picture: Picture) -> None:
        """Begin with a picture of which nothing is ready yet."""
        # One by one, each would be looked for among all.
        self._scene.RemoveAllViewProps()
        self._grid_key = ()
        self._by_shape = []
        self._is_light = False
        self._picture = picture
        # VTK hands float32 to the graphics card: everything is drawn about the middle of what is shown.
        self._origin = picture.box.middle if picture.box is not None else np.zeros(3)

    def _lighten_meshes(self, picture: Picture, *, wanted: bool) -> None:
        """Let heavy meshes be drawn by their stand-ins, or as they are again."""
        wanted = wanted and sum(len(s.mesh.triangles) for s in picture.shapes) > _MANY_TRIANGLES
        if wanted == self._is_light:
            return
        self._is_light = wanted
        for shape, actors in zip(picture.shapes, self._by_shape, strict=True):
            if len(shape.mesh.triangles) > _HEAVY:
                drawn = self._find_drawn(shape.mesh)
                mirrored = is_mirror(shape.world_from_mesh)
                data = drawn.stand_in() if wanted and not mirrored else drawn.outward(mirrored=mirrored)
                actors[0].GetMapper().SetInputData(data)

    def _move_shapes(self, picture: Picture) -> None:
        """Take a picture of the same shapes in other places: what stays is not touched."""
        before, self._picture = self._picture, picture
        assert before is not None
        for old, new, actors in zip(before.shapes, picture.shapes, self._by_shape, strict=True):
            if old.world_from_mesh is not new.world_from_mesh:
                placed = new.world_from_mesh.copy()
                placed[:3, 3] += placed[:3, :3] @ self._find_drawn(new.mesh).middle - self._origin
                world = vtk_matrix(placed)
                for actor in actors:
                    actor.SetUserMatrix(world)

    def _actors_of(self, shape: Shape) -> list[vtkActor]:
        drawn = self._find_drawn(shape.mesh)
        world = vtk_matrix(translation(-self._origin) @ shape.world_from_mesh @ translation(drawn.middle))
        body = vtkActor()
        mapper = vtkPolyDataMapper()
        mapper.SetInputData(drawn.outward(mirrored=is_mirror(shape.world_from_mesh)))
        mapper.SetScalarModeToUseCellData()
        mapper.SetResolveCoincidentTopologyToPolygonOffset()
        body.SetMapper(mapper)
        body.SetUserMatrix(world)
        surface = body.GetProperty()
        if shape.tint >= 0:
            mapper.ScalarVisibilityOff()
            surface.SetColor(*_TINTS[shape.tint % len(_TINTS)])
        surface.SetAmbient(0.30)
        surface.SetDiffuse(0.85)
        surface.SetSpecular(0.04)
        if not drawn.has_normals:
            surface.SetInterpolationToFlat()
        actors = [body]
        if drawn.edges is not None:
            actors.append(line_actor(drawn.edges, world, shape))
        return actors

    def _place_grid(self, camera: Camera, grid: tuple[float, int] | None) -> None:
        self._grid.SetVisibility(grid is not None)
        if grid is None:
            return
        spacing, majors = grid
        home = np.round(camera.target[[0, 2]] / (spacing * majors)) * spacing * majors
        key = (spacing, majors, *home.tolist(), *self._origin.tolist())
        if key == self._grid_key:
            return
        self._grid_key = key
        points, segments, strength, major = grid_lines((float(home[0]), float(home[1])), spacing, majors)
        world = np.column_stack([points[:, 0], np.zeros(len(points)), points[:, 1]]) - self._origin
        held = vtkPoints()
        held.SetData(numpy_to_vtk(world.astype(np.float32), deep=True))
        data = vtkPolyData()
        data.SetPoints(held)
        offsets = np.arange(0, 2 * len(segments) + 1, 2, dtype=np.int64)
        lines = vtkCellArray()
        flat = np.ascontiguousarray(segments, dtype=np.int64).ravel()
        lines.SetData(numpy_to_vtkIdTypeArray(offsets, deep=True), numpy_to_vtkIdTypeArray(flat, deep=True))
        data.SetLines(lines)
        ink = np.empty((len(segments), 4))
        ink[:, :3] = np.where(major[:, None], _GRID_MAJOR, _GRID_MINOR)
        ink[:, 3] = strength[segments].mean(axis=1) * np.where(major, 0.62, 0.34)
        data.GetCellData().SetScalars(numpy_to_vtk((ink * 255).astype(np.uint8), deep=True))
        mapper = vtkPolyDataMapper()
        mapper.SetInputData(data)
        mapper.SetScalarModeToUseCellData()
        self._grid.SetMapper(mapper)
        self._grid.GetProperty().LightingOff()
        self._scene.AddActor(self._grid)

    def _aim_camera(self, camera: Camera) -> None:
        lens = self._scene.GetActiveCamera()
        lens.SetFocalPoint(*(camera.target - self._origin))
        lens.SetPosition(*(camera.position - self._origin))
        lens.SetViewUp(*camera.axes[1])
        lens.SetViewAngle(camera.angle_deg)
        lens.SetParallelProjection(camera.flat_m is not None)
        if camera.flat_m is not None:
            lens.SetParallelScale(camera.flat_m / 2)
        self._scene.ResetCameraClippingRange()
        if camera.flat_m is None:
            near, far = lens.GetClippingRange()
            lens.SetClippingRange(self._find_nearest(camera, near), far)

    def _find_nearest(self, camera: Camera, usual: float) -> float:
        """Return where the picture begins before the eye, metres; `usual` is VTK's rule, a share of its far end.

        That rule would cut a bolt away while a harbour stands behind it. What is shown is never cut, as long as it is
        not nearer than a thousandth of the way to what is looked at.
        """
        box = self._picture.box if self._picture is not None else None
        if box is None:
            return usual
        depths = (camera.position - box.corners) @ camera.axes[2]
        return max(min(usual, float(depths.min()) * 0.99), camera.distance / _NEAR_SHARE)


def _same_but_for_places(one: Picture, other: Picture) -> bool:
    """Tell whether two pictures differ in nothing but where their shapes stand."""
    return len(one.shapes) == len(other.shapes) and all(
        a.is_drawn_as(b) and _is_wound_alike(a.world_from_mesh, b.world_from_mesh)
        for a, b in zip(one.shapes, other.shapes, strict=True)
    )


def _meet_ray(drawn: Drawn, mesh_from_world: Array, eye: Array, toward: Array) -> tuple[Array, int] | None:
    start = apply(mesh_from_world, eye)
    along = mesh_from_world[:3, :3] @ toward
    bounds = np.array(drawn.data.GetBounds()).reshape(3, 2)
    reach = float(np.linalg.norm(bounds[:, 1] - bounds[:, 0]) + np.linalg.norm(start - bounds.mean(axis=1)))
    end = start + along / max(float(np.linalg.norm(along)), TINY) * reach
    t, sub, cell = mutable(0.0), mutable(0), mutable(0)
    at, parametric = [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]
    tolerance = reach * SPECK
    if drawn.locator().IntersectWithLine(start.tolist(), end.tolist(), tolerance, t, at, parametric, sub, cell):
        return np.array(at), int(cell)
    return None


def _is_wound_alike(a: Array, b: Array) -> bool:
    """Tell whether two matrices show the same side of a mesh; what is only moved does."""
    return a is b or np.array_equal(a[:3, :3], b[:3, :3]) or is_mirror(a) == is_mirror(b)
