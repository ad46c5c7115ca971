"""The eight orientations: from the upright picture people see to the pixels as stored."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from oxlen.core.light.meter import Spot

# Upright (x, y) shares to stored (x, y), by EXIF orientation (CIPA DC-008, tag 274).
TO_STORED: Mapping[int, Callable[[float, float], tuple[float, float]]] = {
    1: lambda x, y: (x, y),
    2: lambda x, y: (1 - x, y),
    3: lambda x, y: (1 - x, 1 - y),
    4: lambda x, y: (x, 1 - y),
    5: lambda x, y: (y, x),
    6: lambda x, y: (y, 1 - x),
    7: lambda x, y: (1 - y, 1 - x),
    8: lambda x, y: (1 - y, x),
}
TURNS: Mapping[int, Image.Transpose] = {
    2: Image.Transpose.FLIP_LEFT_RIGHT,
    3: Image.Transpose.ROTATE_180,
    4: Image.Transpose.FLIP_TOP_BOTTOM,
    5: Image.Transpose.TRANSPOSE,
    6: Image.Transpose.ROTATE_270,
    7: Image.Transpose.TRANSVERSE,
    8: Image.Transpose.ROTATE_90,
}


ARRAY_TURNS: Mapping[int, Callable[[NDArray[Any]], NDArray[Any]]] = {
    2: lambda a: a[:, ::-1],
    3: lambda a: a[::-1, ::-1],
    4: lambda a: a[::-1],
    5: lambda a: a.swapaxes(0, 1),
    6: lambda a: a.swapaxes(0, 1)[:, ::-1],
    7: lambda a: a.swapaxes(0, 1)[::-1, ::-1],
    8: lambda a: a.swapaxes(0, 1)[::-1],
}


def stored_spot(spot: Spot, orientation: int) -> Spot:
    """A spot of the upright picture as it is on the stored pixels."""
    x, y = TO_STORED[orientation](spot.x, spot.y)
    return replace(spot, x=x, y=y)


def upright_size(width: int, height: int, orientation: int) -> tuple[int, int]:
    """Width and height after orientation."""
    return (height, width) if orientation >= 5 else (width, height)


def upright(image: Image.Image, orientation: int) -> Image.Image:
    """A stored picture turned as people see it."""
    turn = TURNS.get(orientation)
    return image if turn is None else image.transpose(turn)


def upright_array(values: NDArray[Any], orientation: int) -> NDArray[Any]:
    """Stored pixels (h, w, ...) turned as people see them."""
    turn = ARRAY_TURNS.get(orientation)
    return values if turn is None else np.ascontiguousarray(turn(values))
