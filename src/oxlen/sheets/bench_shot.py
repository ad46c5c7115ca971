"""A shot on the bench phone: the same way in as a user's own files, onto a sheet of its own."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from oxlen.core.decisions.brief import ANY_LENS, Brief
from oxlen.core.decisions.lens.comparison import on_best_lens
from oxlen.core.decisions.plan import plan
from oxlen.core.errors import BadInput
from oxlen.core.simulate.scene import Scene
from oxlen.devices.standins.bench_phone import BenchPhone, Shot, focus_on_m, varied
from oxlen.formats.phone_profile import PhoneProfile
from oxlen.formats.scene_file import shipped_scene
from oxlen.sheets.answer import brief_of_sheet
from oxlen.sheets.body import SheetBody
from oxlen.sheets.importing import take_in
from oxlen.sheets.light import light_readings, picture_light
from oxlen.sheets.metering import MeterRoom
from oxlen.store.library import Library
from oxlen.store.sheets import add_sheet


@dataclass(frozen=True)
class BenchShot:
    """What to photograph: the sheet, its outing, on auto or by the slip, and the seed."""

    body: SheetBody
    outing_id: int
    auto: bool
    seed: int


def shoot_on_bench(
    library: Library,
    find_phone: Callable[[str], PhoneProfile],
    room: MeterRoom,
    shot: BenchShot,
    now: str,
) -> int:
    """Take the picture and import it; returns the new sheet's id. BadInput without a slip."""
    body, profile = shot.body, find_phone(shot.body.phone)
    scene = varied(shipped_scene(body.scene or ""), light=2.0**body.light_shift_stops)
    brief = _brief(body, profile, room)
    bench = BenchPhone(profile, brief.lens, brief.mode, shot.seed)
    settings = (
        bench.auto_settings(scene, body.support, brief.glass_stops)
        if shot.auto
        else bench.settings_for(scene, _by_slip(body, scene, brief, bench))
    )
    wanted = "raw" if body.format == "raw" and not shot.auto else "processed"
    take = bench.take(scene, settings, "raw" if wanted == "raw" else "processed", _exif_time(now))
    data = take.dng if wanted == "raw" else take.jpeg
    assert data is not None
    how = "auto" if shot.auto else "by the slip"
    incoming = library.incoming_path()
    incoming.write_bytes(data)

    def attach(connection: Any, sha256: str, _report: dict[str, Any]) -> int:
        title = f"{body.title}: {how}"[:120]
        changed = {
            "title": title,
            "picture": sha256,
            "state": "shot",
            "by_hand": None,
            "held": None,
            "picture_glass_stops": settings.glass_stops,
            "light_shift_stops": 0.0,
        }
        kept = body.model_copy(update=changed)
        return add_sheet(connection, shot.outing_id, kept.model_dump_json(), now)

    try:
        ending = "dng" if wanted == "raw" else "jpg"
        name = f"{body.scene}-{how.replace(' ', '-')}.{ending}"
        return take_in(library, incoming, name, now=now, attach=attach).sheet_id
    finally:
        incoming.unlink(missing_ok=True)


def _brief(body: SheetBody, profile: PhoneProfile, room: MeterRoom) -> Brief:
    """The sheet's brief, on the lens that a choice left open falls to."""
    light = picture_light(body, profile, room)
    readings = light_readings(body, profile, light, room=room)
    brief = brief_of_sheet(body, profile.to_phone(), readings, light)
    return on_best_lens(brief) if brief.lens_id == ANY_LENS and brief.readings else brief


def _by_slip(body: SheetBody, scene: Scene, brief: Brief, bench: BenchPhone) -> Shot:
    if not brief.readings:
        raise BadInput("Without light there is no slip to shoot by.", "readings")
    decision = plan(brief)
    slip = decision.slip or (decision.compromise.slip if decision.compromise else None)
    iso, shutter_s = (slip.iso, slip.shutter_s) if slip else (100.0, 0.01)
    if body.held is not None:
        iso, shutter_s = body.held.iso, body.held.shutter_s
    spot = next((s for s in body.spots if s.role in ("subject", "neutral")), None)
    focus = focus_on_m(scene, bench.lens, bench.mode, spot.x, spot.y) if spot else None
    pan = scene.subject_that_moves if brief.is_panned else None
    return Shot(iso, shutter_s, focus, body.support, pan, brief.glass_stops)


def _exif_time(now: str) -> str:
    """ISO 8601 as EXIF writes it."""
    return now[:10].replace("-", ":") + " " + now[11:19]
