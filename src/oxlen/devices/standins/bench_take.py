"""A shot on the bench phone for a sheet: the same way in as one's own files, as a take of it."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path

from oxlen.core.decisions.dialled import dials_of
from oxlen.core.decisions.exposure.ask import FORMAT, SUPPORT, glass_stops, is_panned
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.framework.limit import ISO, SHUTTER
from oxlen.core.decisions.framework.setting import Exposure
from oxlen.core.decisions.plan import Plan, plan
from oxlen.core.errors import BadInput
from oxlen.core.simulate.scene import Scene
from oxlen.core.simulate.tapping import focus_on_m
from oxlen.core.simulate.variation import varied
from oxlen.devices.standins.bench_phone import BenchPhone, Shot, Take
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.plan.writing import plan_file
from oxlen.formats.scene_file import shipped_scene
from oxlen.formats.sheet.file import SheetBody, tapped_spot
from oxlen.metering.picture_cache import MeteredPictures
from oxlen.phones.briefed_sheet import briefed_sheet
from oxlen.store.library import Library
from oxlen.store.takes import NewTake, add_plan, add_sequence
from oxlen.takes.importing import as_take, take_in
from oxlen.workers.worker_tasks import worker_library


@dataclass(frozen=True)
class BenchShot:
    """What to photograph: the sheet as it is now, on auto or by the slip, and the seed."""

    sheet_id: int
    sheet_version: int
    body: SheetBody
    auto: bool
    seed: int


def shoot_on_bench(
    library: Library,
    find_phone: Callable[[str], PhoneProfile],
    cache: MeteredPictures,
    *,
    shot: BenchShot,
    now: str,
) -> list[str]:
    """Photograph the sheet's scene; each exposure becomes a take of it, processed and RAW paired.

    A bracket becomes a sequence of takes. Returns the content hashes of the files. BadInput
    without a slip to shoot by.
    """
    body, profile = shot.body, find_phone(shot.body.phone)
    brief = briefed_sheet(body, profile, cache).brief
    decision = plan(brief) if brief.readings else None
    decided = brief if decision is None else decision.brief
    scene = varied(shipped_scene(body.scene or ""), light=2.0**body.light_shift_stops)
    phone = BenchPhone(profile, decided.lens, decided.mode, seed=shot.seed)
    if shot.auto:
        # An automatic mode writes its processed file and nothing else.
        settings = phone.auto_settings(scene, decided[SUPPORT], glass_stops(decided))
        taken = phone.take(scene, settings, "processed", taken_at=exif_time(now))
        return _keep_files(library, shot, taken, about=NewTake(shot.sheet_id, "auto"), now=now)
    if decision is None:
        raise BadInput("Add a reading first.", "readings")
    about = _keep_plan(library, shot, decision, now=now)
    kept: list[str] = []
    for place, (iso, shutter_s) in enumerate(steps_of(body, decision)):
        # Every frame has a hand and a noise of its own.
        bench_phone = replace(phone, seed=shot.seed + place)
        dialled = dialled_on(body, scene, decision, phone=bench_phone, iso=iso, shutter_s=shutter_s)
        settings = bench_phone.settings_for(scene, dialled)
        taken = bench_phone.take(scene, settings, decided[FORMAT], taken_at=exif_time(now))
        frame = about if about.sequence_id is None else replace(about, sequence_place=place)
        kept += _keep_files(library, shot, taken, about=frame, now=now)
    return kept


def shoot_in_worker(folder: Path, shot: BenchShot, profile: PhoneProfile, *, now: str) -> list[str]:
    """As `shoot_on_bench`, by a worker process on the library in a folder."""
    at = worker_library(folder)
    return shoot_on_bench(at.library, lambda _: profile, at.pictures, shot=shot, now=now)


def steps_of(body: SheetBody, decision: Plan) -> list[tuple[float, float]]:
    """ISO and shutter (s) of every exposure to shoot."""
    if body.steps_by_hand is not None:
        return [(body.steps_by_hand.iso, body.steps_by_hand.shutter_s)]
    if decision.dialled.exposures:
        return [_iso_and_shutter_s(exposure) for exposure in decision.dialled.exposures]
    if decision.compromise is None:
        raise BadInput("No exposure meets every limit. Choose a way out first.", "iso")
    return [(decision.compromise.slip.iso, decision.compromise.slip.shutter_s)]


def _iso_and_shutter_s(exposure: Exposure) -> tuple[float, float]:
    values = {setting.field: setting.value for setting in exposure.settings}
    return float(values[ISO]), float(values[SHUTTER])


def dialled_on(
    body: SheetBody,
    scene: Scene,
    decision: Plan,
    *,
    phone: BenchPhone,
    iso: float,
    shutter_s: float,
) -> Shot:
    """What is dialled in for the sheet's slip, at steps of one exposure."""
    spot, brief = tapped_spot(body), decision.brief
    dials = dials_of(decision.dialled.settings)
    focus = None if spot is None else focus_on_m(scene, phone.lens, phone.mode, x=spot.x, y=spot.y)
    pan = scene.subject_that_moves if is_panned(brief) else None
    return Shot(
        iso,
        shutter_s,
        focus,
        support=brief[SUPPORT],
        pan_with=pan,
        glass_stops=glass_stops(brief),
        clip_on=brief[FOCUS].clip_on,
        **vars(dials),
    )


def _keep_plan(library: Library, shot: BenchShot, decision: Plan, *, now: str) -> NewTake:
    """Keep the plan, and its sequence where it is one; what is known of its takes beforehand."""
    text = json.dumps(plan_file(decision).model_dump(mode="json"))
    frames = len(steps_of(shot.body, decision))
    with library.writer() as connection:
        plan_id = add_plan(
            connection,
            sheet_id=shot.sheet_id,
            sheet_version=shot.sheet_version,
            plan=text,
            now=now,
        )
        sequence_id = None
        if frames > 1:
            sequence_id = add_sequence(connection, plan_id=plan_id, frames=frames, now=now)
    return NewTake(shot.sheet_id, "slip", plan_id=plan_id, sequence_id=sequence_id)


def _keep_files(
    library: Library, shot: BenchShot, taken: Take, *, about: NewTake, now: str
) -> list[str]:
    """Keep the processed file first, so that the RAW finds the take it belongs to."""
    kept: list[str] = []
    about = replace(about, glass_stops=taken.settings.glass_stops)
    for data, ending in ((taken.jpeg, "jpg"), (taken.dng, "dng")):
        if data is None:
            continue
        attach = as_take(about, now=now, raw_of=kept[0] if kept else None)
        with library.incoming() as incoming:
            incoming.write_bytes(data)
            name = f"{shot.body.scene}-by-{about.shot_on}.{ending}"
            kept.append(take_in(library, incoming, name, now=now, attach=attach).sha256)
    return kept


def exif_time(now: str) -> str:
    """ISO 8601 as EXIF writes it."""
    return now[:10].replace("-", ":") + " " + now[11:19]
