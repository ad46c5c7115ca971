"""Frames of a set, shot on the bench phone one after another."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from oxlen.core.decisions.exposure.ask import FORMAT
from oxlen.core.decisions.plan import plan
from oxlen.core.errors import BadInput
from oxlen.core.simulate.later import later
from oxlen.core.simulate.variation import varied
from oxlen.devices.standins.bench_phone import BenchPhone
from oxlen.devices.standins.bench_take import dialled_on, exif_time, steps_of
from oxlen.devices.standins.picture_file import FileDetails, dng_bytes, jpeg_bytes
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.scene_file import shipped_scene
from oxlen.formats.sheet.file import SheetBody
from oxlen.phones.briefed_sheet import briefed_sheet
from oxlen.stacking.in_library import add_frame_files
from oxlen.store.library import Library
from oxlen.workers.worker_tasks import worker_library

USUAL_GAP_S = 1.0
DAYLIGHT = ("sun", "cloud", "sky", "window", "blue hour")


@dataclass(frozen=True)
class BenchSet:
    """What is shot: the sheet as it is now, how many frames, so many seconds apart."""

    stack_id: int
    body: SheetBody
    frames: int
    gap_s: float | None = None
    seed: int = 0


def shoot_set(folder: Path, asked: BenchSet, profile: PhoneProfile, *, now: str) -> int:
    """Shoot the frames of a set by the sheet's slip; how many. BadInput without a slip."""
    at = worker_library(folder)
    body = asked.body
    brief = briefed_sheet(body, profile, at.pictures).brief
    if not brief.readings:
        raise BadInput("Add a reading first.", "readings")
    decision = plan(brief)
    brief = decision.brief
    scene = varied(shipped_scene(body.scene or ""), light=2.0**body.light_shift_stops)
    is_daylight = any(lamp.name in DAYLIGHT for lamp in scene.lamps)
    steps = steps_of(body, decision)
    gap_s = asked.gap_s
    if gap_s is None:
        gap_s = brief.mode.files.frame_gap_s or USUAL_GAP_S
    after_s = 0.0
    for number in range(asked.frames):
        iso, shutter_s = steps[number % len(steps)]
        phone = BenchPhone(profile, brief.lens, brief.mode, seed=asked.seed + number)
        seen = later(scene, after_s, daylight=is_daylight)
        dialled = dialled_on(body, scene, decision, phone=phone, iso=iso, shutter_s=shutter_s)
        settings = phone.settings_for(seen, dialled)
        frame = phone.expose(seen, settings)
        taken_at, subsecond = _taken(now, after_s)
        reported = FileDetails(
            profile,
            brief.lens,
            settings,
            brightness=0.0,
            taken_at=taken_at,
            subsecond=subsecond,
        )
        is_raw = brief[FORMAT] == "raw"
        data = dng_bytes(frame, reported) if is_raw else jpeg_bytes(frame, reported)
        ending = "dng" if is_raw else "jpg"
        _keep(at.library, asked.stack_id, data, name=f"frame {number + 1:03d}.{ending}")
        after_s += shutter_s + gap_s
    return asked.frames


def _taken(now: str, after_s: float) -> tuple[str, str]:
    """When a frame was begun, to a hundredth of a second, as files say it."""
    at = datetime.fromisoformat(now) + timedelta(seconds=after_s)
    return exif_time(at.isoformat()), f"{at.microsecond // 10000:02d}"


def _keep(library: Library, stack_id: int, data: bytes, *, name: str) -> None:
    with library.incoming() as incoming:
        incoming.write_bytes(data)
        add_frame_files(library.folder, stack_id, [(incoming, name)], move=True)
