"""Text as a QR code, drawn."""

from __future__ import annotations

import io

import segno

from oxlen.core.errors import BadInput

MOST_BYTES = 1200
"""A code of more text is no longer read off a screen or a card."""


def qr_svg(text: str, *, scale: int = 4) -> str:
    """A QR code as an SVG image. BadInput for a text too long to be read off it."""
    if len(text.encode()) > MOST_BYTES:
        raise BadInput(f"Only texts of up to {MOST_BYTES} bytes go into one code.", "text")
    drawn = io.BytesIO()
    made = segno.make_qr(text, error="m" if len(text) < 400 else "l")
    made.save(drawn, kind="svg", scale=scale, border=3, xmldecl=False, light="white")
    return drawn.getvalue().decode()
