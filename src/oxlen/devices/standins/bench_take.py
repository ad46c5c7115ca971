"""A shot on the bench phone for a sheet: the same way in as one's own files, as a take of it."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass

from oxlen.core.decisions.brief import Brief
from oxlen.core.decisions.exposure.ask import FORMAT, SUPPORT, glass_stops, is_panned
from oxlen.core.decisions.plan import Plan, plan
from oxlen.core.errors import BadInput
from oxlen.core.simulate.scene import Scene
from oxlen.core.simulate.tapping import focus_on_m
from oxlen.core.simulate.variation import varied
from oxlen.devices.standins.bench_phone import BenchPhone, Shot, Take
from oxlen.formats.phone_profile import PhoneProfile
from oxlen.formats.plan_writing import plan_file
from oxlen.formats.scene_file import shipped_scene
from oxlen.formats.sheet_file import SheetBody, tapped_spot
from oxlen.metering.light import measured
from oxlen.metering.picture_cache import PictureCache
from oxlen.metering.sheet_brief import brief_of_sheet
from oxlen.store.library import Library
from oxlen.store.takes import ShotOn, add_plan
from oxlen.takes.importing import as_take, take_in


@dataclass(frozen=True)
class BenchShot:
    """What to photograph: the sheet as it stands, on auto or by the slip, and the seed."""

    sheet_id: int
    sheet_version: int
    body: SheetBody
    auto: bool
    seed: int


def shoot_on_bench(
    library: Library,
    find_phone: Callable[[str], PhoneProfile],
    cache: PictureCache,
    shot: BenchShot,
    now: str,
) -> list[str]:
    """Photograph the sheet's scene; the files become one take of it, processed and RAW paired.

    Returns their content hashes. BadInput without a slip to shoot by.
    """
    body, profile = shot.body, find_phone(shot.body.phone)
    brief = brief_of_sheet(body, profile.to_phone(), measured(body, profile, cache))
    decision = plan(brief) if brief.readings else None
    decided = brief if decision is None else decision.brief
    scene = varied(shipped_scene(body.scene or ""), light=2.0**body.light_shift_stops)
    phone = BenchPhone(profile, decided.lens, decided.mode, shot.seed)
    if shot.auto:
        settings = phone.auto_settings(scene, decided[SUPPORT], glass_stops(decided))
    else:
        settings = phone.settings_for(scene, _by_slip(body, scene, decision, phone))
    # An automatic mode writes its processed file and nothing else.
    taken = phone.take(
        scene, settings, "processed" if shot.auto else decided[FORMAT], _exif_time(now)
    )
    plan_id = None if shot.auto or decision is None else _keep_plan(library, shot, decision, now)
    return _keep_files(library, shot, taken, plan_id=plan_id, now=now)


def _by_slip(body: SheetBody, scene: Scene, decision: Plan | None, phone: BenchPhone) -> Shot:
    if decision is None:
        raise BadInput("Without light there is no slip to shoot by.", "readings")
    slip = decision.slip or (decision.compromise.slip if decision.compromise else None)
    if body.steps_by_hand is not None:
        iso, shutter_s = body.steps_by_hand.iso, body.steps_by_hand.shutter_s
    elif slip is not None:
        iso, shutter_s = slip.iso, slip.shutter_s
    else:
        raise BadInput("There is no slip to shoot by.", "iso")
    brief: Brief = decision.brief
    spot = tapped_spot(body)
    focus = None if spot is None else focus_on_m(scene, phone.lens, phone.mode, spot.x, spot.y)
    pan = scene.subject_that_moves if is_panned(brief) else None
    return Shot(iso, shutter_s, focus, brief[SUPPORT], pan, glass_stops(brief))


def _keep_plan(library: Library, shot: BenchShot, decision: Plan, now: str) -> int:
    text = json.dumps(plan_file(decision).model_dump(mode="json"))
    with library.writer() as connection:
        return add_plan(
            connection,
            sheet_id=shot.sheet_id,
            sheet_version=shot.sheet_version,
            plan=text,
            now=now,
        )


def _keep_files(
    library: Library, shot: BenchShot, taken: Take, *, plan_id: int | None, now: str
) -> list[str]:
    """Keep the processed file first, so that the RAW finds the take it belongs to."""
    shot_on: ShotOn = "auto" if shot.auto else "slip"
    kept: list[str] = []
    for data, ending in ((taken.jpeg, "jpg"), (taken.dng, "dng")):
        if data is None:
            continue
        attach = as_take(
            shot.sheet_id,
            shot_on=shot_on,
            now=now,
            plan_id=plan_id,
            glass_stops=taken.settings.glass_stops,
            raw_of=kept[0] if kept else None,
        )
        incoming = library.incoming_path()
        try:
            incoming.write_bytes(data)
            name = f"{shot.body.scene}-by-{shot_on}.{ending}"
            kept.append(take_in(library, incoming, name, now=now, attach=attach).sha256)
        finally:
            incoming.unlink(missing_ok=True)
    return kept


def _exif_time(now: str) -> str:
    """ISO 8601 as EXIF writes it."""
    return now[:10].replace("-", ":") + " " + now[11:19]
