"""A take's file developed: what it suggests, a preview, and files of it."""

from __future__ import annotations

import io
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Literal

import numpy as np
import tifffile
from numpy.typing import NDArray
from PIL import Image

from oxlen.core.develop.developing import developed_bands
from oxlen.core.develop.night_notes import NightLook, night_look, night_sentences
from oxlen.core.develop.notes import DevelopmentNotes, TakeLight, development_notes
from oxlen.core.develop.recipe import Recipe
from oxlen.core.errors import OxlenError
from oxlen.core.kit.phone import Mode
from oxlen.core.light.linear_picture import LinearPicture
from oxlen.core.light.meter import Spot, spot_tone
from oxlen.core.review.level import plumb_lines
from oxlen.core.review.skyline import Skyline, skyline
from oxlen.core.sensor.noise import mid_signal_e, snr
from oxlen.metering.white import white_on
from oxlen.pictures.opening import Picture, open_picture
from oxlen.pictures.srgb_profile import srgb_profile

Ending = Literal["jpg", "tif"]
NOTES_SIDE_PX, LARGEST_SIDE_PX = 900, 4200
QUALITY = 93


@dataclass(frozen=True)
class DevelopmentAsk:
    """What the notes of a take build on besides its file: the phone's noise and the sheet's spots.

    `subject` is to be `wanted_stops` from mid, `neutral` without a cast.
    """

    mode: Mode
    iso: float
    subject: Spot | None = None
    wanted_stops: float | None = None
    neutral: Spot | None = None
    is_raw: bool = False
    is_night: bool = False


def notes_of(path: Path, name: str, asked: DevelopmentAsk) -> DevelopmentNotes:
    """Development notes of a file. PictureError when it is no use."""
    with open_picture(path, name) as picture:
        light = picture.light(NOTES_SIDE_PX)
        colour = light.colour
        luminance = picture.luminance()
        white_k, tint_duv = _white(picture, asked.neutral)
        subject = None
        if asked.subject is not None:
            subject = spot_tone(picture.spot(asked.subject)).stops_from_mid
    plumb = plumb_lines(luminance)

    def snr_at(stops: float) -> float:
        sensor, mode = asked.mode.sensor, asked.mode
        signal = float(mid_signal_e(sensor, asked.iso)) * 2.0**stops
        return float(snr(signal, float(mode.read_noise_at(asked.iso)), sensor.prnu_share))

    edge = skyline(luminance)
    found = development_notes(
        TakeLight(
            colour,
            snr_at,
            subject,
            wanted_stops=asked.wanted_stops,
            white_k=white_k,
            tint_duv=tint_duv,
            lean_deg=None if plumb is None else plumb.middle_lean_deg,
            sky=edge,
        )
    )
    if not asked.is_night:
        return found
    notes = night_sentences(_night_look(light, edge))
    return replace(found, sentences=(*notes, *found.sentences))


def _night_look(light: LinearPicture, edge: Skyline | None) -> NightLook:
    """What the sky over the skyline shows; colours only where the picture has been balanced."""
    rows = np.arange(light.colour.shape[0]) / light.colour.shape[0]
    above = rows < (1.0 if edge is None else edge.height_share)
    mask = np.broadcast_to(above[:, None], light.colour.shape[:2])
    seen = night_look(light.colour, mask if above.any() else None)
    return seen if light.is_balanced else replace(seen, green_stops=0.0, warm_stops=0.0)


def developed_file(path: Path, name: str, recipe: Recipe, *, side_px: int, ending: Ending) -> bytes:
    """A file developed by a recipe, as JPEG or as TIFF of 16 bits; the original stays as it is."""
    with open_picture(path, name) as picture:
        colour = picture.light(min(side_px, LARGEST_SIDE_PX)).colour
    depth = np.uint16 if ending == "tif" else np.uint8
    most = float(np.iinfo(depth).max)
    bands = [np.asarray(np.rint(band * most), depth) for band in developed_bands(colour, recipe)]
    codes = np.concatenate(bands)
    return _tiff(codes) if ending == "tif" else _jpeg(codes)


def _white(picture: Picture, neutral: Spot | None) -> tuple[float | None, float]:
    """The light on a neutral spot; of a processed picture, what is left of a cast."""
    if neutral is None:
        return None, 0.0
    try:
        found = white_on(picture, neutral, dial_k=None if picture.facts.kind == "raw" else 6504.0)
    except OxlenError:
        return None, 0.0
    light = found.light
    return (None, 0.0) if light is None else (light.temperature.cct_k, light.temperature.duv)


def _jpeg(codes: NDArray[np.uint8] | NDArray[np.uint16]) -> bytes:
    drawn = io.BytesIO()
    image = Image.fromarray(np.asarray(codes, np.uint8))
    image.save(drawn, "JPEG", quality=QUALITY, icc_profile=srgb_profile())
    return drawn.getvalue()


def _tiff(codes: NDArray[np.uint8] | NDArray[np.uint16]) -> bytes:
    drawn = io.BytesIO()
    tifffile.imwrite(
        drawn,
        codes,
        photometric="rgb",
        compression="zlib",
        predictor=True,
        iccprofile=srgb_profile(),
        metadata=None,
    )
    return drawn.getvalue()
