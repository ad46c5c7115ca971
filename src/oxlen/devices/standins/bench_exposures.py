"""Several exposures for one frame, each by its own steps, shot on the bench phone."""

from __future__ import annotations

from dataclasses import dataclass, replace
from pathlib import Path

from oxlen.core.decisions.plan import plan
from oxlen.core.errors import BadInput
from oxlen.core.simulate.later import later
from oxlen.core.simulate.variation import varied
from oxlen.devices.standins.bench_phone import BenchPhone
from oxlen.devices.standins.bench_take import dialled_on, exif_time
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.scene_file import shipped_scene
from oxlen.formats.sheet.file import SheetBody
from oxlen.phones.briefed_sheet import briefed_sheet
from oxlen.store.library import Library
from oxlen.store.takes import NewTake
from oxlen.takes.importing import as_take, take_in
from oxlen.workers.worker_tasks import worker_library

APART_S = 8.0
"""Between two exposures the photographer dials the next and looks at the ghost."""


@dataclass(frozen=True)
class BenchExposures:
    """What is shot: the sheet as it is now, and ISO and shutter (s) of each exposure."""

    sheet_id: int
    body: SheetBody
    steps: tuple[tuple[float, float], ...]
    seed: int = 0


def shoot_exposures(
    folder: Path, asked: BenchExposures, profile: PhoneProfile, *, now: str
) -> None:
    """Shoot each exposure as a take of the sheet, in their order. BadInput without light."""
    at, body = worker_library(folder), asked.body
    brief = briefed_sheet(body, profile, at.pictures).brief
    if not brief.readings:
        raise BadInput("Add a reading first.", "readings")
    decision = plan(brief)
    brief = decision.brief
    scene = varied(shipped_scene(body.scene or ""), light=2.0**body.light_shift_stops)
    phone = BenchPhone(profile, brief.lens, brief.mode, seed=asked.seed)
    for place, (iso, shutter_s) in enumerate(asked.steps):
        bench_phone = replace(phone, seed=asked.seed + place)
        seen = later(scene, place * (shutter_s + APART_S))
        dialled = dialled_on(body, scene, decision, phone=bench_phone, iso=iso, shutter_s=shutter_s)
        taken = bench_phone.take(
            seen, bench_phone.settings_for(seen, dialled), "processed", taken_at=exif_time(now)
        )
        # Its steps are a part of the slip's: compared with the whole it would seem too dark.
        about = NewTake(asked.sheet_id, "unknown", glass_stops=taken.settings.glass_stops)
        _keep(at.library, about, taken.jpeg or b"", name=f"exposure {place + 1}.jpg", now=now)


def _keep(library: Library, about: NewTake, data: bytes, *, name: str, now: str) -> None:
    with library.incoming() as incoming:
        incoming.write_bytes(data)
        take_in(library, incoming, name, now=now, attach=as_take(about, now=now))
