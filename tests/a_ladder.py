"""A focus ladder's pictures: one texture, softer the further the slider is from its best."""

import cv2
import numpy as np

from tests.pictures.making import jpeg

BEST = 0.62


def rung(value, *, best=BEST):
    """A JPEG as a phone would take it with the slider at a value."""
    draw = np.random.default_rng(7)
    texture = cv2.GaussianBlur(draw.uniform(40, 210, (180, 240)).astype(np.float32), (0, 0), 0.8)
    sigma = 0.3 + 12 * abs(value - best)
    soft = cv2.GaussianBlur(texture, (0, 0), sigma) + draw.normal(0, 1, texture.shape)
    return jpeg(np.repeat(np.clip(soft, 0, 255)[..., None], 3, axis=2))
