"""What a worker keeps between tasks: the library it works on, decoded pictures, plans."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np

from oxlen.core.colour.tone_colour import ToneColour
from oxlen.core.develop.notes import DevelopmentNotes
from oxlen.core.develop.recipe import Recipe
from oxlen.core.drawing.plan import DrawingPlan
from oxlen.core.errors import BadInput
from oxlen.core.focus.local_sharpness import spot_verdict, verdict_words
from oxlen.core.focus.sharpness import PatchSharpness, patch_sharpness
from oxlen.core.frames.combine import Combine
from oxlen.core.light.meter import Spot, SpotTone
from oxlen.core.light.patterns import FrameLight
from oxlen.core.review.drawing_take import SeenDrawing, seen_drawing
from oxlen.core.review.night_frame import NightFrame
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.sheet.file import SheetBody
from oxlen.metering.flowing import Flowing, flowing
from oxlen.metering.live_light import light_of_file
from oxlen.metering.night_sky import read_night_frame
from oxlen.metering.picture_cache import PictureCache
from oxlen.metering.sharp import picture_sharpness
from oxlen.metering.white import OwnDial, read_white
from oxlen.phones.file_facts import FileFacts, file_facts
from oxlen.phones.measuring.catalogue import measurement
from oxlen.phones.measuring.samples import MIDDLE, Sample
from oxlen.pictures.opening import open_picture
from oxlen.pictures.whole import whole_frame
from oxlen.preview.cache import PreviewCache
from oxlen.preview.data_address import jpeg_address
from oxlen.preview.dry_run import FrameRequest, PredictedFrame, dry_run
from oxlen.preview.files_compared import FilesCompared, ViewRequest, files_compared
from oxlen.preview.lamp_drawing import drawing_jpeg
from oxlen.preview.shared_frame import shared_jpeg
from oxlen.stacking.looks import luminance
from oxlen.store.library import Library
from oxlen.takes.aligning import shrunk
from oxlen.takes.checking import (
    CheckedFile,
    check_file,
)
from oxlen.takes.developing import DevelopmentAsk, Ending, developed_file, notes_of
from oxlen.takes.importing import ReadFile, read_incoming, remake_preview
from oxlen.takes.planned import PlannedTake

LOOK_SIDE_PX = 900
DETAIL_QUALITY = 92


@dataclass(frozen=True)
class WorkerLibrary:
    """A library, and what is decoded and decided of it."""

    library: Library
    pictures: PictureCache
    previews: PreviewCache


@lru_cache(maxsize=1)
def worker_library(folder: Path) -> WorkerLibrary:
    """The library in a folder, as this worker keeps it between tasks."""
    library = Library(folder)
    pictures = PictureCache(library)
    return WorkerLibrary(library, pictures, PreviewCache(pictures))


def read_file(folder: Path, incoming: Path, name: str) -> ReadFile:
    """Read an incoming file and make its preview."""
    return read_incoming(Library(folder), incoming, name)


def checked_take(
    folder: Path, sha256: str, *, reference: str | None, plan: PlannedTake
) -> CheckedFile:
    """A kept picture compared with a plan, and with the picture that was planned by."""
    library = Library(folder)
    base = None if reference is None else (library.picture_path(reference), "The picture")
    return check_file(library.picture_path(sha256), "The take", reference=base, plan=plan)


def flow_of_pictures(
    folder: Path, sha256s: tuple[str, str], spot: Spot, *, apart_s: float | None, is_held: bool
) -> Flowing:
    """How water flows between two kept pictures."""
    library = Library(folder)
    files = [
        (library.picture_path(sha256), f"picture {place + 1}")
        for place, sha256 in enumerate(sha256s)
    ]
    return flowing(files, spot, apart_s=apart_s, is_held=is_held)


def drawing_look(
    folder: Path,
    planned: DrawingPlan,
    picture: str | None,
    *,
    file_px: int,
) -> bytes:
    """A look at a planned drawing over the sheet's picture."""
    base = None if picture is None else (Library(folder).picture_path(picture), "The picture")
    return drawing_jpeg(planned, picture=base, file_px=file_px)


def drawing_seen(
    folder: Path, sha256: str, *, box: tuple[float, float, float, float]
) -> SeenDrawing:
    """What a kept take of a drawing shows."""
    frame = whole_frame(Library(folder).picture_path(sha256), "The take", mosaic=False)
    return seen_drawing(shrunk(luminance(frame), LOOK_SIDE_PX), box)


def night_frame_seen(folder: Path, sha256: str) -> NightFrame:
    """What a kept take of the night sky tells."""
    return read_night_frame(Library(folder).picture_path(sha256), "The take")


def shared_look(folder: Path, frames: Sequence[tuple[str, float]], rule: Combine) -> bytes:
    """A look at kept pictures stacked in one frame, each with stops to add."""
    library = Library(folder)
    files = [
        (library.picture_path(sha256), f"frame {place + 1}", stops)
        for place, (sha256, stops) in enumerate(frames)
    ]
    return shared_jpeg(files, rule)


def picture_detail(folder: Path, sha256: str, at: tuple[float, float], *, side_px: int) -> bytes:
    """A square of a kept picture's own pixels around a place (shares of its sides), as JPEG."""
    with open_picture(Library(folder).picture_path(sha256), "The picture") as picture:
        whole = picture.preview(max(picture.facts.width or 1, picture.facts.height or 1))
    side = min(side_px, *whole.size)
    left = min(max(0, round(at[0] * whole.width - side / 2)), whole.width - side)
    top = min(max(0, round(at[1] * whole.height - side / 2)), whole.height - side)
    drawn = io.BytesIO()
    whole.crop((left, top, left + side, top + side)).save(drawn, "JPEG", quality=DETAIL_QUALITY)
    return drawn.getvalue()


def development_of(folder: Path, sha256: str, asked: DevelopmentAsk) -> DevelopmentNotes:
    """What a kept picture suggests for its development."""
    return notes_of(Library(folder).picture_path(sha256), "The take", asked)


def developed_take(
    folder: Path, sha256: str, recipe: Recipe, *, side_px: int, ending: Ending
) -> bytes:
    """A kept picture developed, as a file."""
    path = Library(folder).picture_path(sha256)
    return developed_file(path, "The take", recipe, side_px=side_px, ending=ending)


def make_preview(folder: Path, sha256: str) -> bool:
    """Make the preview of a kept picture anew."""
    return remake_preview(Library(folder), sha256)


def spot_tone(folder: Path, sha256: str, spot: Spot) -> SpotTone | None:
    """Tone under a spot of a kept picture."""
    return worker_library(folder).pictures.spot_tone(sha256, spot)


def tone_colour(folder: Path, sha256: str, spot: Spot) -> ToneColour | None:
    """Colour under a spot of a kept picture."""
    return worker_library(folder).pictures.tone_colour(sha256, spot)


def frame_light(folder: Path, sha256: str) -> FrameLight | None:
    """Cells and histogram of a kept picture."""
    return worker_library(folder).pictures.frame_light(sha256)


def predicted_frame(
    folder: Path, body: SheetBody, profile: PhoneProfile, *, request: FrameRequest
) -> PredictedFrame:
    """The frame a pair of steps will give."""
    return dry_run(body, lambda _: profile, worker_library(folder).previews, request=request)


def ladder_look(incoming: Path, name: str) -> dict[str, Any]:
    """A picture of a ladder for the screen, with its slider value and software where it says so."""
    with open_picture(incoming, name) as picture:
        small = io.BytesIO()
        picture.preview(LOOK_SIDE_PX).save(small, "JPEG", quality=80)
        given = {"slider": picture.exposure.focus_slider, "software": picture.exposure.software}
    return {"preview": jpeg_address(small.getvalue()), **given}


def ladder_patch(incoming: Path, name: str, spot: Spot) -> tuple[PatchSharpness, ...]:
    """Sharpness of the patch in a picture of a ladder."""
    with open_picture(incoming, name) as picture:
        return patch_sharpness(picture.patch(spot).luminance)


def compared_files(
    folder: Path, body: SheetBody, profile: PhoneProfile, *, request: ViewRequest
) -> FilesCompared:
    """The same view in every file a lens can write."""
    return files_compared(body, lambda _: profile, worker_library(folder).previews, request=request)


def kept_white(
    folder: Path,
    sha256: str,
    spot: Spot,
    *,
    dial_k: float | None = None,
    own_dial: OwnDial | None = None,
) -> dict[str, Any]:
    """The colour of the light on a patch of a kept picture, as plain data."""
    path = Library(folder).picture_path(sha256)
    found = read_white(path, "The picture", spot, dial_k=dial_k, own_dial=own_dial)
    light = found.light
    return {
        "cct_k": None if light is None else light.temperature.cct_k,
        "duv": None if light is None else light.temperature.duv,
        "plus_minus_mired": found.plus_minus_mired,
        "measured_in": found.source,
        "taken_at_k": found.taken_at_k,
        "cast_mired": found.cast_mired,
        "warning": found.warning,
    }


def kept_sharpness(folder: Path, sha256: str, spot: Spot) -> dict[str, Any]:
    """Where a kept picture is sharp, as plain data, and how a spot of it compares."""
    found = picture_sharpness(Library(folder).picture_path(sha256), "The picture")
    rows, columns = found.sharpness.shape
    verdict = spot_verdict(found, spot)
    values = [
        float(sharpness) if np.isfinite(sharpness) else None
        for sharpness in found.sharpness.ravel()
    ]
    words = verdict_words(verdict)
    size = {"rows": rows, "columns": columns, "covers": list(found.covers)}
    return {**size, "values": values, **vars(verdict), "words": words}


def mean_light(incoming: Path, name: str, profile: PhoneProfile) -> tuple[float, float]:
    """Mean EV100 of the view in a file, and its ±."""
    return light_of_file(incoming, name, profile)


def phone_facts(incoming: Path, name: str) -> FileFacts:
    """What a file tells of its phone."""
    return file_facts(incoming, name)


def measured_sample(incoming: Path, name: str, kind: str) -> Sample:
    """What a measurement reads of a picture."""
    sample = measurement(kind).sample
    if sample is None:
        raise BadInput("This measurement takes no pictures.", "files")
    return sample(incoming, name, MIDDLE)
