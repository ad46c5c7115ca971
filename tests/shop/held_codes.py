"""Frames with a thing's code held before the lens."""

from __future__ import annotations

import cv2
import numpy as np
import zxingcpp
from numpy.typing import NDArray

from oxlen.cards.qr_code import qr_of
from oxlen.shop.codes import code_text


def held(kind: str, *, draw: np.random.Generator, side: int = 900) -> tuple[NDArray[np.uint8], str]:
    """A code held before the lens: turned, tilted away, soft and noisy; and its uid."""
    uid = "".join(draw.choice(list("0123456789abcdef"), 12))
    if kind == "qr":
        dark = qr_of(code_text(uid)).is_dark
    else:
        made = zxingcpp.create_barcode(code_text(uid), zxingcpp.BarcodeFormat.DataMatrix)
        dark = np.pad(np.array(made.to_image(scale=1, add_quiet_zones=False)) == 0, 3)
    code = np.where(dark, 35, 225).astype(np.uint8)
    size, span = len(code), side * draw.uniform(0.2, 0.4)
    angle, lean = np.radians(draw.uniform(-25, 25)), draw.uniform(-0.12, 0.12, 4)
    corners = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]], float) * (1 + lean[:, None])
    turned = corners @ np.array([[np.cos(angle), np.sin(angle)], [-np.sin(angle), np.cos(angle)]])
    to = (turned * span / 2 + draw.uniform(0.42, 0.58, 2) * side).astype(np.float32)
    of = np.array([[0, 0], [size, 0], [size, size], [0, size]], np.float32)
    matrix = cv2.getPerspectiveTransform(of, to)
    large = cv2.resize(code, None, fx=8, fy=8, interpolation=cv2.INTER_NEAREST)
    scaled = matrix @ np.diag([1 / 8, 1 / 8, 1])
    frame = cv2.warpPerspective(large, scaled, (side, side), borderValue=150, flags=cv2.INTER_AREA)
    soft = cv2.GaussianBlur(frame, (0, 0), draw.uniform(0.5, 1.8)).astype(float)
    noisy = soft * draw.uniform(0.6, 1.1) + draw.normal(0, 5, soft.shape)
    return np.repeat(np.clip(noisy, 0, 255).astype(np.uint8)[..., None], 3, axis=2), uid
