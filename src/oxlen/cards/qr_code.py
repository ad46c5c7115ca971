"""Text as a QR code, drawn."""

from __future__ import annotations

import io
from dataclasses import dataclass

import numpy as np
import zxingcpp
from numpy.typing import NDArray
from PIL import Image

from oxlen.core.errors import BadInput

MOST_BYTES = 1200
"""A code of more text is no longer read off a screen or a card."""
FEW_CHARACTERS = 400
"""A code of fewer has room for 15 % of correction, of more for 7 %."""
QUIET_MODULES = 4
SCALE_PX = 6


@dataclass(frozen=True)
class QrCode:
    """The modules of a code with its quiet zone, True where they are dark."""

    is_dark: NDArray[np.bool_]


def qr_of(text: str) -> QrCode:
    """The QR code of a text. BadInput for one too long to be read off it."""
    if len(text.encode()) > MOST_BYTES:
        raise BadInput(f"A code holds at most {MOST_BYTES} bytes of text.", "text")
    code = zxingcpp.create_barcode(
        text,
        zxingcpp.BarcodeFormat.QRCode,
        ec_level="M" if len(text) < FEW_CHARACTERS else "L",
    )
    pixels = np.array(code.to_image(scale=1, add_quiet_zones=False))
    return QrCode(np.pad(pixels == 0, QUIET_MODULES))


def qr_svg(code: QrCode, *, scale: int = 4) -> str:
    """A QR code as an SVG image, `scale` pixels a module."""
    side = len(code.is_dark)
    # Rows one after another: the quiet zone parts them, so that dark runs begin and end in turn.
    edges = np.flatnonzero(np.diff(code.is_dark.ravel().astype(np.int8))) + 1
    lines, at = ["M0 .5"], (0, 0)
    for start, end in zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True):
        row, column = divmod(start, side)
        lines.append(f"m{column - at[1]} {row - at[0]}h{end - start}")
        at = row, column + end - start
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{side * scale}" height="{side * scale}" '
        f'viewBox="0 0 {side} {side}"><path fill="#fff" d="M0 0h{side}v{side}H0z"/>'
        f'<path stroke="#000" d="{"".join(lines)}"/></svg>'
    )


def qr_png(code: QrCode) -> io.BytesIO:
    """A QR code as a PNG picture, to be printed."""
    drawn = io.BytesIO()
    Image.fromarray(np.kron(~code.is_dark, np.ones((SCALE_PX, SCALE_PX), bool))).save(drawn, "png")
    drawn.seek(0)
    return drawn
