"""The bench phone as a live camera: frames of a sheet's scene at whatever is dialled."""

from __future__ import annotations

import io
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from oxlen.core.decisions.lens.ask import ANY_LENS, LENS, MODE
from oxlen.core.errors import BadInput
from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.simulate.scene import Scene
from oxlen.core.simulate.variation import varied
from oxlen.devices.standins.bench_phone import BenchPhone, Shot
from oxlen.devices.standins.bench_take import exif_time
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.scene_file import shipped_scene
from oxlen.formats.sheet.file import SheetBody

PREVIEW_SIDE_PX, PREVIEW_QUALITY = 480, 80
"""Own choice: what a page needs to show and to read light by."""
NO_SCENE = "This sheet has no scene for the simulated camera."


@dataclass(frozen=True)
class BenchFrame:
    """A frame as a JPEG, and the settings that were in force."""

    jpeg: bytes
    iso: float
    shutter_s: float


def bench_preview(
    profile: PhoneProfile, body: SheetBody, *, dials: Mapping[str, float | bool | None], now: str
) -> BenchFrame:
    """A frame of the sheet's scene, on auto where ISO or shutter is left open.

    `whole` in the dials gives a photo with its EXIF instead of a small preview. BadInput for a
    sheet without a scene.
    """
    if body.scene is None:
        raise BadInput(NO_SCENE, "scene")
    scene = _scene(body.scene, body.light_shift_stops)
    lens, mode = _lens(profile, body)
    phone = BenchPhone(profile, lens, mode, seed=int(dials.get("seed") or 0))
    settings = phone.auto_settings(scene)
    iso, shutter_s = dials.get("iso"), dials.get("shutter_s")
    if iso and shutter_s:
        shot = Shot(
            float(iso),
            float(shutter_s),
            focused_m=_number(dials.get("focus_m")),
            support=body.asked()["support"],
            white_k=_number(dials.get("white_k")),
        )
        settings = phone.settings_for(scene, shot)
    if dials.get("whole"):
        taken = phone.take(scene, settings, "processed", taken_at=exif_time(now))
        jpeg = taken.jpeg or b""
    else:
        jpeg = small_jpeg(phone.expose(scene, settings).developed())
    return BenchFrame(jpeg, settings.iso, settings.shutter_s)


@lru_cache(maxsize=2)
def _scene(scene_id: str, light_shift_stops: float) -> Scene:
    return varied(shipped_scene(scene_id), light=2.0**light_shift_stops)


def _lens(profile: PhoneProfile, body: SheetBody) -> tuple[Lens, Mode]:
    asked, phone = body.asked(), profile.to_phone()
    lens_id = asked[LENS.name]
    lens = phone.lens(None if lens_id == ANY_LENS else lens_id)
    return lens, lens.mode(asked[MODE.name])


def _number(value: float | bool | None) -> float | None:
    return None if value is None else float(value)


def small_jpeg(codes: NDArray[np.uint8]) -> bytes:
    """A frame as a preview has it: small, and compressed."""
    image = Image.fromarray(codes)
    image.thumbnail((PREVIEW_SIDE_PX, PREVIEW_SIDE_PX), Image.Resampling.BOX)
    buffer = io.BytesIO()
    image.save(buffer, "JPEG", quality=PREVIEW_QUALITY)
    return buffer.getvalue()
