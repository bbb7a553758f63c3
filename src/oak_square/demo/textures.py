"""Images for the demo batch: the milepost's plate, a numeral cast proud of a painted ground."""

from __future__ import annotations

import numpy as np

from oak_square.core.portrait import png_of

__all__ = ["plate_images"]

_SIDE = 48


def plate_images() -> dict[str, bytes]:
    """Return the plate's images by what they are: `paint`, `light` (roughness and metalness), `bumps`, `shade`."""
    y, x = np.mgrid[0:_SIDE, 0:_SIDE] / (_SIDE - 1) - 0.5
    # The numeral VII, its strokes as distances from lines.
    strokes = [np.abs(x + 0.24 - 0.22 * s * (0.3 - y)) - 0.035 for s in (-0.5, 0.5)]
    strokes += [np.abs(x - at) - 0.035 for at in (0.1, 0.28)]
    far = np.maximum(np.min(strokes, axis=0), np.abs(y) - 0.3)
    raised = np.clip(0.5 - far / 0.03, 0, 1)
    slope_y, slope_x = np.gradient(raised)
    normal = np.stack([-slope_x, slope_y, np.full_like(raised, 1.0)], axis=-1)
    normal /= np.linalg.norm(normal, axis=-1, keepdims=True)
    edge = np.clip(1 - np.abs(far) / 0.04, 0, 1)
    iron = raised[..., None]
    images = {
        "paint": iron * [0.06, 0.06, 0.07] + (1 - iron) * [0.93, 0.90, 0.80],
        "light": np.stack([np.zeros_like(raised), 0.75 - 0.35 * raised, 0.9 * raised], axis=-1),
        "bumps": normal * 0.5 + 0.5,
        "shade": np.repeat((1 - 0.6 * edge)[..., None], 3, axis=-1),
    }
    return {name: png_of(np.round(255 * pixels).astype(np.uint8), level=0) for name, pixels in images.items()}
