"""The same view in every file a lens can write: shadows lifted alike, beside each other."""

from __future__ import annotations

import io
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image
from pydantic import BaseModel

from oxlen.core.constants import MID_LINEAR
from oxlen.core.decisions.exposure.ask import FORMAT
from oxlen.core.decisions.plan import Plan
from oxlen.core.decisions.saving.renditions import Rendition, rendition_figures, renditions
from oxlen.core.labels import steps_label
from oxlen.core.light.tone import srgb_to_linear
from oxlen.core.simulate.develop import coded, demosaiced
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.sheet.file import SheetBody
from oxlen.metering.light import SheetLight
from oxlen.preview.cache import PreviewCache
from oxlen.preview.data_address import jpeg_address
from oxlen.preview.dry_run import SEED, FrameRequest, balance_of, taken

VIEW_SHARE = 0.3
"""How much of the frame's width is looked at."""
VIEW_PX = 480
JPEG_QUALITY = 90


class FileSeen(BaseModel):
    """One file: the view as a JPEG address, its SNR at the output's size, detail across in px."""

    mode: str
    mode_name: str
    name: str
    image: str
    snr_subject: float
    snr_dark: float | None
    detail_px: int
    chosen: bool


class FilesCompared(BaseModel):
    """Every file of a lens at the same place; `output_px` is how wide it will be seen."""

    label: str
    lift_stops: float
    output_px: int
    from_scene: bool
    files: list[FileSeen]


@dataclass(frozen=True)
class ViewRequest:
    """The middle of the view as shares of the frame, and the stops it is lifted by."""

    x: float = 0.5
    y: float = 0.5
    lift_stops: float = 0.0


def files_compared(
    body: SheetBody,
    find_phone: Callable[[str], PhoneProfile],
    cache: PreviewCache,
    *,
    request: ViewRequest,
) -> FilesCompared:
    """Each file as it would be. BadInput without a scene or a metered picture to start from."""
    light, decision = cache.decided(body, find_phone(body.phone))
    brief, files, label, output_px = decision.brief, [], "", 0
    for rendition in renditions(brief):
        view, settings = _view(
            body, light, decision, rendition=rendition, request=request, cache=cache
        )
        label = steps_label(*settings)
        found = rendition_figures(
            decision.search, rendition, iso=settings[0], shutter_s=settings[1]
        )
        output_px = found.output_px
        chosen = rendition.mode.id == brief.mode.id and rendition.frames == 1
        files.append(
            FileSeen(
                mode=rendition.mode.id,
                mode_name=rendition.mode.name,
                name=rendition.name,
                image=jpeg_address(_jpeg(view)),
                snr_subject=found.snr_subject,
                snr_dark=found.snr_dark,
                detail_px=found.detail_px,
                chosen=chosen and brief[FORMAT] in (rendition.file_format, "both"),
            )
        )
    return FilesCompared(
        label=label,
        lift_stops=request.lift_stops,
        output_px=output_px,
        from_scene=body.scene is not None,
        files=files,
    )


def _view(
    body: SheetBody,
    light: SheetLight,
    decision: Plan,
    *,
    rendition: Rendition,
    request: ViewRequest,
    cache: PreviewCache,
) -> tuple[NDArray[np.uint8], tuple[float, float]]:
    """The view of one file, lifted, and the ISO and shutter (s) it was taken at."""
    total: NDArray[np.float32] | None = None
    for number in range(rendition.frames):
        frame, source = taken(
            body,
            light,
            decision,
            request=FrameRequest(),
            cache=cache,
            mode=rendition.mode,
            seed=SEED + number,
        )
        balance = balance_of(frame, source)
        if rendition.is_raw:
            linear = demosaiced(frame.raw, balance, MID_LINEAR)
        else:
            linear = np.asarray(srgb_to_linear(frame.developed(balance) / 255), dtype=np.float32)
        total = linear if total is None else total + linear
    assert total is not None
    lifted = _cut(total, request) * np.float32(2.0**request.lift_stops / rendition.frames)
    return coded(lifted), (frame.settings.iso, frame.settings.shutter_s)


def _cut(linear: NDArray[np.float32], request: ViewRequest) -> NDArray[np.float32]:
    """The part of a frame that is looked at, inside it whole."""
    height, width = linear.shape[:2]
    wide, high = round(width * VIEW_SHARE), round(height * VIEW_SHARE)
    left = int(np.clip(round(request.x * width - wide / 2), 0, width - wide))
    top = int(np.clip(round(request.y * height - high / 2), 0, height - high))
    return np.ascontiguousarray(linear[top : top + high, left : left + wide])


def _jpeg(view: NDArray[np.uint8]) -> bytes:
    buffer = io.BytesIO()
    size = (VIEW_PX, round(VIEW_PX * view.shape[0] / view.shape[1]))
    # Nearest: each pixel stays a pixel, so that noise and steps are seen as they are.
    image = Image.fromarray(view).resize(size, Image.Resampling.NEAREST)
    image.save(buffer, "JPEG", quality=JPEG_QUALITY)
    return buffer.getvalue()
