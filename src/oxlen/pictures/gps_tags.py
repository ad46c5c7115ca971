"""Where a picture says it was taken."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import Any

from PIL import Image
from PIL.ExifTags import GPS, IFD

from oxlen.core.errors import OxlenError, PictureError
from oxlen.core.sky.place import Place
from oxlen.pictures.opening import open_picture


def position_in(path: Path, name: str) -> Place | None:
    """The position among a picture's tags; None where it holds none, or none that makes sense.

    PictureError for what is no picture.
    """
    with open_picture(path, name):
        pass  # refuses what is too large, or no picture, before its tags are read
    try:
        with Image.open(path) as file:
            found = file.getexif().get_ifd(IFD.GPSInfo)
    except (OSError, ValueError, SyntaxError) as error:
        raise PictureError(name, f"its tags cannot be read ({error})") from None
    return _place(found)


def _place(tags: Mapping[int, Any]) -> Place | None:
    try:
        north = _degrees(tags[GPS.GPSLatitude], str(tags.get(GPS.GPSLatitudeRef, "N")), "S")
        east = _degrees(tags[GPS.GPSLongitude], str(tags.get(GPS.GPSLongitudeRef, "E")), "W")
        return Place(north, east)
    except (KeyError, TypeError, ValueError, ZeroDivisionError, OxlenError):
        return None


def _degrees(parts: Any, side: str, negative: str) -> float:
    degrees, minutes, seconds = (float(part) for part in parts)
    value = degrees + minutes / 60 + seconds / 3600
    return -value if side.strip("\0 ").upper() == negative else value
