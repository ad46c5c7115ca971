"""What a measurement keeps of each picture: a few numbers or a small patch, never the file."""

from __future__ import annotations

import base64
import math
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np

from oxlen.core.errors import BadInput
from oxlen.core.light.meter import Spot
from oxlen.core.measures.bands import row_profile
from oxlen.core.measures.blur_spectrum import detail_power
from oxlen.core.measures.computed_run import column_tops
from oxlen.metering.white import read_white
from oxlen.phones.file_facts import file_facts
from oxlen.pictures.camera_tags import camera_tags
from oxlen.pictures.opening import Picture, open_picture
from oxlen.pictures.raw_patch import green_patch

Sample = dict[str, Any]
FLAT_SIDE = 176
WALL_SIDE = 768
MIDDLE = Spot("middle", 0.5, 0.5, r=0.12)


def _exposed(picture: Picture) -> tuple[float, float]:
    """ISO and shutter (s); BadInput names the file that lacks one."""
    settings = picture.exposure
    if settings.iso is None or settings.shutter_s is None:
        raise BadInput(
            f"{picture.facts.name} has no ISO and shutter. Use the original file.",
            "files",
        )
    return settings.iso, settings.shutter_s


def flat_sample(path: Path, name: str, spot: Spot) -> Sample:  # noqa: ARG001  always the middle
    """Green photosites of a flat RAW frame's middle."""
    with open_picture(path, name) as picture:
        iso, shutter_s = _exposed(picture)
        found = green_patch(picture, FLAT_SIDE)
    photosites = found.photosites.astype("<u2")
    return {
        "iso": iso,
        "shutter_s": shutter_s,
        "black_dn": found.black_dn,
        "white_dn": found.white_dn,
        "shape": list(photosites.shape),
        "patch": base64.b64encode(photosites.tobytes()).decode("ascii"),
        "level": float((photosites.mean() - found.black_dn) / (found.white_dn - found.black_dn)),
    }


def wall_sample(path: Path, name: str, spot: Spot) -> Sample:
    """Level of an even wall: linear in processed files, of the strongest channel in RAW."""
    with open_picture(path, name) as picture:
        iso, shutter_s = _exposed(picture)
        is_raw = picture.facts.kind == "raw"
        patch = picture.patch(spot)
        level = float(patch.colour.max()) if is_raw else float(patch.luminance.mean())
    return {
        "iso": iso,
        "shutter_s": shutter_s,
        "exposure_stops": math.log2(iso * shutter_s),
        "level": level,
        "is_raw": is_raw,
    }


def card_sample(path: Path, name: str, spot: Spot) -> Sample:
    """Light on a grey card as the phone's file has it, with no offset of its own."""
    with open_picture(path, name) as picture:
        settings = picture.exposure.settings
        if settings is None:
            raise BadInput(f"{name} has no ISO, shutter and f-number.", "files")
        tones = picture.spot(spot)
        stops = math.log2(max(float(np.mean(tones.luminance)), 1e-6) / 0.18)
    return {"ev100": settings.ev100 + stops, "iso": settings.iso, "shutter_s": settings.shutter_s}


def hand_sample(path: Path, name: str, spot: Spot) -> Sample:
    """How fine the detail of a patterned wall is, about the spot."""
    with open_picture(path, name) as picture:
        iso, shutter_s = _exposed(picture)
        width, height = picture.facts.width or 0, picture.facts.height or 0
        radius = min(WALL_SIDE / 2 / max(min(width, height), 1), 0.45)
        patch = picture.patch(Spot("wall", spot.x, spot.y, r=radius)).luminance
    return {
        "iso": iso,
        "shutter_s": shutter_s,
        "detail": list(detail_power(patch)),
        "diagonal_px": math.hypot(width, height) * _scale(patch.shape, radius, (width, height)),
    }


def _scale(shape: tuple[int, ...], radius: float, size: tuple[int, int]) -> float:
    """Pixels of the patch for a pixel of the picture: RAW patches count whole tiles."""
    return shape[0] / max(2 * radius * min(size), 1.0)


def bands_sample(path: Path, name: str, spot: Spot) -> Sample:  # noqa: ARG001  the whole frame
    """Brightness of each row of the frame as its sensor reads it."""
    with open_picture(path, name) as picture:
        iso, shutter_s = _exposed(picture)
        luminance = picture.pixels.luminance()
        # Sensors are read along their long rows, whichever way the file is turned.
        as_read = luminance if luminance.shape[1] >= luminance.shape[0] else luminance.T
    return {"iso": iso, "shutter_s": shutter_s, "rows": list(row_profile(as_read))}


def stamp_sample(path: Path, name: str, spot: Spot) -> Sample:  # noqa: ARG001  nothing is looked at
    """When a frame was taken, as finely as its phone tells."""
    with open_picture(path, name) as picture:
        _, shutter_s = _exposed(picture)
        camera = camera_tags(picture.tags, is_raw=picture.facts.kind == "raw")
        if camera.taken_s is None:
            raise BadInput(f"{name} has no time.", "files")
        return {
            "taken_s": camera.taken_s,
            "shutter_s": shutter_s,
            "is_raw": picture.facts.kind == "raw",
            "step_s": camera.taken_step_s,
        }


def cast_sample(path: Path, name: str, spot: Spot) -> Sample:
    """The cast on a grey patch of a processed picture, in mired, and the dial it was taken at."""
    found = read_white(path, name, spot)
    if found.source != "processed" or found.cast_mired is None:
        raise BadInput(f"{name} is RAW. The dial shows only in processed pictures.", "files")
    return {"cast_mired": found.cast_mired, "taken_at_k": found.taken_at_k}


def weight_sample(path: Path, name: str, spot: Spot) -> Sample:  # noqa: ARG001
    """What a file weighs."""
    facts = file_facts(path, name)
    return {"megabytes": facts.megabytes, "kind": facts.kind, "long_px": facts.long_px}


def computed_sample(path: Path, name: str, spot: Spot) -> Sample:
    """A moving light's dashes, if there are any, and the noise of the middle."""
    with open_picture(path, name) as picture:
        columns = column_tops(picture.luminance())
        patch = picture.patch(spot).luminance
    fine = patch[:, 1:] - patch[:, :-1]
    noise = float(fine.std()) / math.sqrt(2) / max(float(patch.mean()), 1e-6)
    return {"columns": list(columns), "noise_share": noise}


Sampler = Callable[[Path, str, Spot], Sample]
