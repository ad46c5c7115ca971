"""What one picture file tells of the phone it came from: no pixel is decoded for it."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from oxlen.core.errors import PictureError
from oxlen.pictures.camera_tags import CameraTags, RawTags, camera_tags
from oxlen.pictures.container import Kind
from oxlen.pictures.opening import open_picture

EDITED_AFTER_S = 90.0
"""A file changed later than this after it was taken went through another program."""


@dataclass(frozen=True)
class FileColourMatrix:
    """A matrix from XYZ to camera colours, row by row, and its light source as Exif numbers it."""

    illuminant: int
    xyz_to_camera: tuple[float, ...]


@dataclass(frozen=True)
class RawLevels:
    """How a raw file is laid out: tile colours row by row, levels, pixels that see light."""

    mosaic: str = ""
    black_dn: float | None = None
    white_dn: float | None = None
    active_px: tuple[int, int] | None = None
    matrices: tuple[FileColourMatrix, ...] = ()


@dataclass(frozen=True)
class FileFacts:
    """A file's facts; None where it does not tell.

    `long_px` and `short_px` are None where the file was cut before them. `zoom` is digital, 1 for
    none. `noise` is a RAW file's own model of it: scale and offset. `pitch_of_px` is the width that
    `pitch_um` holds for. `is_upright`: the phone was held so that the picture is higher than
    wide.
    """

    name: str
    format: str
    kind: Kind
    megabytes: float
    long_px: int | None = None
    short_px: int | None = None
    make: str = ""
    model: str = ""
    lens: str = ""
    iso: float | None = None
    shutter_s: float | None = None
    f_number: float | None = None
    focal_mm: float | None = None
    focal35_mm: float | None = None
    zoom: float = 1.0
    pitch_um: float | None = None
    pitch_of_px: int | None = None
    is_edited: bool = False
    baseline_stops: float | None = None
    noise: tuple[float, float] | None = None
    is_upright: bool | None = None
    levels: RawLevels | None = None

    @property
    def has_lens(self) -> bool:
        """Whether it tells anything of a lens: screenshots and messages' copies do not."""
        return self.f_number is not None or self.focal_mm is not None

    @property
    def phone(self) -> tuple[str, str]:
        """Maker and model as the file writes them."""
        return self.make, self.model

    @property
    def is_front(self) -> bool:
        """Whether its lens looks at the photographer."""
        return "front" in self.lens.lower()


def file_facts(path: Path, name: str) -> FileFacts:
    """Read a file's facts; PictureError names a file that is no picture at all."""
    with open_picture(path, name) as picture:
        facts, settings = picture.facts, picture.exposure
        camera = camera_tags(picture.tags, is_raw=facts.kind == "raw")
    sides = sorted(side for side in (facts.width, facts.height) if side)
    whole = len(sides) == 2
    return FileFacts(
        name,
        facts.format,
        facts.kind,
        megabytes=path.stat().st_size / 1e6,
        long_px=sides[1] if whole else None,
        short_px=sides[0] if whole else None,
        make=(settings.make or "").strip(),
        model=(settings.model or "").strip(),
        lens=settings.lens or "",
        iso=settings.iso,
        shutter_s=settings.shutter_s,
        f_number=settings.f_number,
        focal_mm=settings.focal_mm,
        focal35_mm=settings.focal35_mm,
        zoom=camera.zoom,
        pitch_um=camera.pitch_um,
        pitch_of_px=None if camera.focal_plane_px is None else max(camera.focal_plane_px),
        is_edited=_is_edited(camera),
        baseline_stops=None if camera.raw is None else camera.raw.baseline_exposure_stops,
        noise=None if camera.raw is None else camera.raw.noise,
        is_upright=None if not whole or sides[0] == sides[1] else facts.height == sides[1],
        levels=None if camera.raw is None else _levels(camera.raw),
    )


def _levels(raw: RawTags) -> RawLevels | None:
    """Levels and matrices of a raw file, where it tells any."""
    levels = RawLevels(
        raw.mosaic,
        raw.black_dn,
        raw.white_dn,
        active_px=raw.active_px,
        matrices=tuple(FileColourMatrix(source, numbers) for source, numbers in raw.matrices),
    )
    return None if levels == RawLevels() else levels


def _is_edited(camera: CameraTags) -> bool:
    """Whether another program wrote it again: its pixels are then not the phone's own."""
    taken, changed = camera.taken, camera.changed
    if taken is None or changed is None or len(taken) < 19 or len(changed) < 19:
        return False
    if taken[:10] != changed[:10]:
        return changed > taken
    return _seconds(changed) - _seconds(taken) > EDITED_AFTER_S


def _seconds(stamp: str) -> float:
    parts = stamp[11:19].split(":")
    if len(parts) != 3 or not all(part.isdigit() for part in parts):
        return 0.0
    hours, minutes, seconds = (int(part) for part in parts)
    return float(3600 * hours + 60 * minutes + seconds)


def facts_of(files: list[tuple[Path, str]]) -> tuple[list[FileFacts], list[str]]:
    """The facts of several files, and a sentence for each that could not be read."""
    read, refused = [], []
    for path, name in files:
        try:
            read.append(file_facts(path, name))
        except PictureError as error:
            refused.append(error.message)
    return read, refused
