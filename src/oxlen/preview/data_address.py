"""Small pictures as addresses that hold them."""

from __future__ import annotations

import base64


def jpeg_address(jpeg: bytes) -> str:
    """A JPEG as a data address.

    >>> jpeg_address(b"ab")
    'data:image/jpeg;base64,YWI='
    """
    return "data:image/jpeg;base64," + base64.b64encode(jpeg).decode("ascii")
