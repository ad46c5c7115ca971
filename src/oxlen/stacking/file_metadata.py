"""What the files of a set say before their pixels are read, and which of them fit."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from pathlib import Path

from oxlen.core.errors import BadInput, PictureError
from oxlen.core.frames.misfit import FrameKind, kind_misfit, usual_kind
from oxlen.core.labels import counted
from oxlen.pictures.camera_tags import camera_tags
from oxlen.pictures.opening import open_picture
from oxlen.stacking.ask import LEAST_FRAMES, MOST_FRAMES, FrameFile, LeftOut

DAY_S = 86400.0
MOST_PIXELS = 64_000_000


def read_metadata(files: Sequence[tuple[Path, str]]) -> tuple[list[FrameFile], list[LeftOut]]:
    """The files that can be read, by what they say of themselves, and those that cannot.

    BadInput for fewer than 2 or more than 500 files.
    """
    if not LEAST_FRAMES <= len(files) <= MOST_FRAMES:
        raise BadInput(
            f"{counted(len(files), 'file')}. A stack has {LEAST_FRAMES} to {MOST_FRAMES} frames.",
            "files",
        )
    found, left = [], []
    for path, name in _named_apart(files):
        try:
            found.append(_head(path, name))
        except PictureError as error:
            left.append(LeftOut(name, error.cause))
    return found, left


def _named_apart(files: Sequence[tuple[Path, str]]) -> list[tuple[Path, str]]:
    """Files with names that tell them apart, as phones number anew in every folder."""
    seen: Counter[str] = Counter()
    apart = []
    for path, name in files:
        seen[name] += 1
        apart.append((path, name if seen[name] == 1 else f"{name} ({seen[name]})"))
    return apart


def fitting(frames: Sequence[FrameFile], *, mixed: bool) -> tuple[list[FrameFile], list[LeftOut]]:
    """Frames of the usual kind and the others. BadInput when too few or too large ones are left."""
    if not frames:
        raise BadInput("None of these files is a readable picture.", "files")
    usual = usual_kind([frame.kind for frame in frames])
    is_raw = sum(frame.is_raw for frame in frames) * 2 > len(frames)
    kept, left = [], []
    for frame in frames:
        why = kind_misfit(frame.kind, usual, mixed=mixed)
        if frame.is_raw != is_raw:
            why = "it is a RAW file, the others are not" if frame.is_raw else "it is not a RAW file"
        if why is None:
            kept.append(frame)
        else:
            left.append(LeftOut(frame.name, why))
    if len(kept) < LEAST_FRAMES:
        raise BadInput("Fewer than 2 of these files match.", "files")
    if usual.size[0] * usual.size[1] > MOST_PIXELS:
        raise BadInput("Frames over 64 megapixels cannot be stacked.", "files")
    return kept, left


def elapsed_s(frames: Sequence[FrameFile]) -> float | None:
    """Time from the first frame to the end of the last; None where files do not say it.

    Files that tell whole seconds tell it to a second; a set over midnight is no day long.
    """
    times = [frame.taken_s for frame in frames if frame.taken_s is not None]
    if len(times) < len(frames) or len(times) < LEAST_FRAMES:
        return None
    span = max((time - times[0]) % DAY_S for time in times)
    if span == 0 or span > DAY_S / 2:
        return None
    return span + (frames[-1].kind.shutter_s or 0.0)


def _head(path: Path, name: str) -> FrameFile:
    with open_picture(path, name) as picture:
        facts, exposure = picture.facts, picture.exposure
        if facts.width is None or facts.height is None:
            raise PictureError(name, "its pixels are missing.")
        taken = camera_tags(picture.tags, is_raw=facts.kind == "raw")
        kind = FrameKind(
            (facts.width, facts.height),
            exposure.iso,
            exposure.shutter_s,
            f_number=exposure.f_number,
        )
        return FrameFile(
            path,
            name,
            kind,
            taken_s=taken.taken_s,
            focal35_mm=exposure.focal35_mm,
            orientation=facts.orientation,
            is_raw=facts.kind == "raw",
        )
