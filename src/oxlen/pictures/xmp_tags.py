"""Exposure from a file's XMP packet, for files whose Exif is missing or was stripped. [ISO16684]"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from defusedxml import ElementTree
from PIL.ExifTags import Base

RDF = "{http://www.w3.org/1999/02/22-rdf-syntax-ns#}"
EXIF = "{http://ns.adobe.com/exif/1.0/}"
EXIF_EX = "{http://cipa.jp/exif/1.0/}"
TIFF = "{http://ns.adobe.com/tiff/1.0/}"
MOST_BYTES = 4_000_000
RATIONALS = {
    EXIF + "ExposureTime": Base.ExposureTime,
    EXIF + "FNumber": Base.FNumber,
    EXIF + "ShutterSpeedValue": Base.ShutterSpeedValue,
    EXIF + "ApertureValue": Base.ApertureValue,
    EXIF + "BrightnessValue": Base.BrightnessValue,
    EXIF + "FocalLength": Base.FocalLength,
    EXIF + "FocalLengthIn35mmFilm": Base.FocalLengthIn35mmFilm,
    EXIF + "ISOSpeedRatings": Base.ISOSpeedRatings,
    EXIF_EX + "PhotographicSensitivity": Base.ISOSpeedRatings,
}
WORDS = {
    TIFF + "Make": Base.Make,
    TIFF + "Model": Base.Model,
    EXIF_EX + "LensModel": Base.LensModel,
}


def tags_from_xmp(packet: bytes | str) -> dict[int, Any]:
    """Exif tags by number that an XMP packet states; none from one that cannot be read."""
    if len(packet) > MOST_BYTES:
        return {}
    text = packet.decode("utf-8", "replace") if isinstance(packet, bytes) else packet
    try:
        root = ElementTree.fromstring(text.strip("\0 \n\r\t\ufeff"))
    except Exception:  # whatever a damaged packet does to the parser, the picture goes on
        return {}
    found: dict[int, Any] = {}
    for name, value in _stated(root):
        if name in RATIONALS:
            number = _rational(value)
            if number is not None:
                found[RATIONALS[name]] = number
        elif name in WORDS:
            found[WORDS[name]] = value
        elif name == EXIF + "DateTimeOriginal":
            found.update(_taken(value))
    return found


def _stated(root: Any) -> Iterator[tuple[str, str]]:
    """Properties of every description, as attributes or as elements; of lists the first item."""
    for description in root.iter(RDF + "Description"):
        yield from description.attrib.items()
        for node in description:
            item = next(iter(node.iter(RDF + "li")), node)
            if item.text and item.text.strip():
                yield node.tag, item.text.strip()


def _rational(value: str) -> float | None:
    top, _, bottom = value.partition("/")
    try:
        return float(top) / float(bottom or 1)
    except (ValueError, ZeroDivisionError):
        return None


def _taken(value: str) -> dict[int, Any]:
    """ISO 8601, as XMP has it, the way Exif writes it."""
    if len(value) < 19:
        return {}
    stamp = value[:10].replace("-", ":") + " " + value[11:19]
    offset = value[19:] if value[19:20] in "+-" else ""
    return {Base.DateTimeOriginal: stamp, **({Base.OffsetTimeOriginal: offset} if offset else {})}
