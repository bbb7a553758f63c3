"""Start to first picture of the demo window, against a bare window with one VTK sphere, each in a fresh process."""

from __future__ import annotations

import os
import subprocess
import sys
import time

BARE = """
import sys
from PySide6.QtGui import QImage, QPainter
from PySide6.QtWidgets import QApplication, QWidget
import vtkmodules.vtkRenderingOpenGL2
from vtkmodules.vtkCommonCore import vtkUnsignedCharArray
from vtkmodules.vtkFiltersSources import vtkSphereSource
from vtkmodules.vtkRenderingCore import vtkActor, vtkPolyDataMapper, vtkRenderer
from vtkmodules.vtkRenderingOpenGL2 import vtkEGLRenderWindow
from vtkmodules.util.numpy_support import vtk_to_numpy
class W(QWidget):
    def paintEvent(self, event):
        QPainter(self).drawImage(self.rect(), image)
app = QApplication([])
window = vtkEGLRenderWindow(); window.SetSize(712, 648)
scene, actor, mapper, ball = vtkRenderer(), vtkActor(), vtkPolyDataMapper(), vtkSphereSource()
mapper.SetInputConnection(ball.GetOutputPort()); actor.SetMapper(mapper); scene.AddActor(actor)
window.AddRenderer(scene); window.Render()
pixels = vtkUnsignedCharArray(); window.GetRGBACharPixelData(0, 0, 711, 647, 0, pixels, 0)
image = QImage(vtk_to_numpy(pixels).tobytes(), 712, 648, QImage.Format.Format_RGBA8888)
w = W(); w.resize(1280, 800); w.show(); app.processEvents(); w.grab()
"""

FLOOR = "import typer, ruamel.yaml, pydantic; pydantic.create_model('One', x=int)\n" + BARE

OURS = """
from oak_square.commands.window import begin, loaded
begin(kept=True)
app = loaded()
from oak_square.demo import BATCH
from PySide6.QtWidgets import QApplication
w = app.open_window([BATCH])
while not w.bench.picture.shapes:
    QApplication.processEvents()
w.grab()
"""


def seconds(code: str) -> float:
    """Return how long a start takes; the process is left at once, its tidying does not count."""
    started = time.perf_counter()
    subprocess.run([sys.executable, "-c", code + "\nimport os; os._exit(0)"], check=True, capture_output=True)
    return time.perf_counter() - started


def main() -> None:
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    # As for who installs a package: what Python compiles is kept.
    os.environ.pop("PYTHONDONTWRITEBYTECODE", None)
    # Side by side, and the best of each: a machine that others work on too has good and bad moments.
    rounds = [[seconds(code) for code in (BARE, FLOOR, OURS)] for _ in range(10)]
    bare, floor, ours = (min(each) for each in zip(*rounds, strict=True))
    print(f"bare window with the packages for commands, YAML and models: {floor:.2f} s, {floor / bare:.2f} times")
    print(f"bare window {bare:.2f} s, first picture of the demo {ours:.2f} s: {ours / bare:.2f} times (aim 1.2)")


if __name__ == "__main__":
    main()
