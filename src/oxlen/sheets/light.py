"""The readings a sheet gives: spots, other readings, and the stated default when there are none."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

from pydantic import BaseModel

from oxlen.core.decisions.exposure.aim import default_place_stops
from oxlen.core.decisions.brief import PlacedReading, Role, SceneTones
from oxlen.core.kit.phone import Phone
from oxlen.core.light.exposure import ExposureSettings, luminance_cd_m2
from oxlen.core.light.meter import Spot
from oxlen.core.light.reading import (
    Reading,
    combined_plus_minus,
    reading_from_auto,
    reading_from_ev,
    reading_from_level,
    reading_from_lux,
)
from oxlen.core.light.tone import ToneState
from oxlen.formats.phone_profile import PhoneProfile
from oxlen.sheets.body import (
    AutoNumbers,
    EvNumber,
    LuxNumber,
    ReadingBody,
    ReadingSource,
    SheetBody,
    SpotBody,
    UsualLevel,
)
from oxlen.sheets.metering import MeterRoom

RAW_PLUS_MINUS, PROCESSED_PLUS_MINUS = 0.15, 0.5
RAW_WHY = "linear raw; the phone's own meter offset is the larger doubt"
PROCESSED_WHY = "a processed file is tone-mapped, so its tones only indicate the light"
WHOLE_FRAME = ReadingBody(id="frame", name="Whole frame", source=EvNumber(ev100=0))
"""Stands for the mean of the frame while nothing else was read; its number is filled in."""


class LightReading(BaseModel):
    """One reading with all that is known of it; `place` is where it will be put, in stops."""

    id: str
    kind: Literal["spot", "auto", "lux", "ev", "level", "frame"]
    name: str
    role: Role
    ev100: float | None
    luminance_cd_m2: float | None
    plus_minus_stops: float
    why: str
    place: float
    place_is_default: bool
    state: ToneState
    spread_stops: list[float] | None = None
    clipped_share: float | None = None
    channel_stops: float = 0.0


class PictureLight(BaseModel):
    """What the sheet's picture says as a whole; the glass it was shot through is counted."""

    report: dict[str, Any]
    settings_ev100: float | None
    mean_ev100: float | None
    missing: list[str]


def picture_light(body: SheetBody, profile: PhoneProfile, room: MeterRoom) -> PictureLight | None:
    """Exposure and frame mean of the sheet's picture, hand values filling in; None without one."""
    if body.picture is None:
        return None
    report = room.report(body.picture)
    settings = _settings(report, body)
    offset = _meter_offset(report, profile)
    frame = report["frame"]
    set_ev100 = None if settings is None else settings.ev100 + body.picture_glass_stops
    mean = None
    if set_ev100 is not None and frame is not None:
        mean = set_ev100 + frame["mean_stops"] + offset
    return PictureLight(
        report=report,
        settings_ev100=set_ev100,
        mean_ev100=mean,
        missing=[] if settings else report["missing"],
    )


def light_readings(
    body: SheetBody, profile: PhoneProfile, light: PictureLight | None, *, room: MeterRoom
) -> list[LightReading]:
    """Every reading of a sheet, spots first; the whole frame at mid when there is nothing else."""
    phone = profile.to_phone()
    found = [] if light is None else list(_spot_readings(body, profile, light, room=room))
    for entry in body.readings:
        found.append(_entry(entry, reading_of(entry.source, body, phone), body, phone=phone))
    if not found and light is not None and light.mean_ev100 is not None:
        whole = Reading(light.mean_ev100, *_picture_doubt(light.report, profile))
        found = [_entry(WHOLE_FRAME, whole, body, phone=phone)]
    return found


def placed_readings(
    readings: list[LightReading], shift_stops: float = 0.0
) -> tuple[PlacedReading, ...]:
    """The readings the decision can use, moved by the change of light expected since."""
    return tuple(
        PlacedReading(
            r.role,
            r.ev100 + shift_stops,
            None if r.place_is_default else r.place,
            r.name,
            r.channel_stops,
        )
        for r in readings
        if r.ev100 is not None
    )


def mid_ev100(body: SheetBody, profile: PhoneProfile, light: PictureLight | None) -> float | None:
    """EV100 of the picture's own mid, by then; None without an exposure."""
    if light is None or light.settings_ev100 is None:
        return None
    offset = _meter_offset(light.report, profile)
    return light.settings_ev100 + offset + body.light_shift_stops


def scene_tones(
    body: SheetBody, profile: PhoneProfile, light: PictureLight | None, *, room: MeterRoom
) -> SceneTones | None:
    """How the picture's tones are spread in EV100; None without pixels or exposure."""
    mid = mid_ev100(body, profile, light)
    if mid is None or body.picture is None or light is None or light.report["frame"] is None:
        return None
    frame = room.frame_light(body.picture)
    if frame is None:
        return None
    lost = float(light.report["frame"]["clipped_share"])
    edges = tuple((frame.edges_stops + mid).tolist())
    return SceneTones(edges, tuple(frame.shares.tolist()), lost)


def _spot_readings(
    body: SheetBody, profile: PhoneProfile, light: PictureLight, *, room: MeterRoom
) -> Iterator[LightReading]:
    phone = profile.to_phone()
    plus_minus, why = _picture_doubt(light.report, profile)
    offset = _meter_offset(light.report, profile)
    for spot in body.spots:
        tone = room.spot_tone(body.picture or "", Spot(spot.id, spot.x, spot.y, spot.r))
        ev100 = None
        if tone is not None and light.settings_ev100 is not None:
            ev100 = light.settings_ev100 + tone.stops_from_mid + offset
        yield LightReading(
            id=spot.id,
            kind="spot",
            name=spot.name,
            role=spot.role,
            ev100=ev100,
            luminance_cd_m2=None if ev100 is None else float(luminance_cd_m2(ev100)),
            plus_minus_stops=plus_minus,
            why=why,
            place=_place(spot, body, phone),
            place_is_default=spot.place is None,
            state=tone.state if tone else "ok",
            spread_stops=[tone.p05_stops, tone.p95_stops] if tone else None,
            clipped_share=tone.clipped_share if tone else None,
            channel_stops=tone.channel_stops if tone else 0.0,
        )


def reading_of(source: ReadingSource, body: SheetBody, phone: Phone) -> Reading:
    """A reading from numbers given by hand; NotFound for an unknown lens or level."""
    if isinstance(source, AutoNumbers):
        f_number = phone.lens(source.lens or body.lens_id).f_number
        return reading_from_auto(ExposureSettings(source.iso, source.shutter_s, f_number))
    if isinstance(source, LuxNumber):
        return reading_from_lux(source.lux)
    if isinstance(source, EvNumber):
        return reading_from_ev(source.ev100)
    assert isinstance(source, UsualLevel)
    return reading_from_level(source.level)


def _entry(entry: ReadingBody, reading: Reading, body: SheetBody, *, phone: Phone) -> LightReading:
    return LightReading(
        id=entry.id,
        kind="frame" if entry is WHOLE_FRAME else entry.source.kind,
        name=entry.name,
        role=entry.role,
        ev100=reading.ev100,
        luminance_cd_m2=float(luminance_cd_m2(reading.ev100)),
        plus_minus_stops=reading.plus_minus_stops,
        why=reading.why,
        place=_place(entry, body, phone),
        place_is_default=entry.place is None,
        state="ok",
    )


def _place(wanted: SpotBody | ReadingBody, body: SheetBody, phone: Phone) -> float:
    if wanted.place is not None:
        return wanted.place
    headroom = phone.lens(body.lens_id).mode(body.mode).headroom_stops(body.format)
    return default_place_stops(wanted.role, body.school.exposure, headroom)


def _settings(report: dict[str, Any], body: SheetBody) -> ExposureSettings | None:
    """The picture's exposure: what the file says, or else what was given by hand."""
    told = report["settings"]
    if told["ev100"] is not None:
        return ExposureSettings(told["iso"], told["shutter_s"], told["f_number"])
    if body.by_hand is None:
        return None
    given = body.by_hand
    return ExposureSettings(given.iso, given.shutter_s, given.f_number)


def _meter_offset(report: dict[str, Any], profile: PhoneProfile) -> float:
    """The phone's meter offset, for pictures that phone took."""
    camera = report["camera"]
    same = (camera["make"], camera["model"]) == (profile.make, profile.model)
    return profile.meter_offset_stops if same else 0.0


def _picture_doubt(report: dict[str, Any], profile: PhoneProfile) -> tuple[float, str]:
    raw = report["file"]["kind"] == "raw"
    own = RAW_PLUS_MINUS if raw else PROCESSED_PLUS_MINUS
    stops = combined_plus_minus(own, profile.meter_plus_minus_stops)
    return stops, RAW_WHY if raw else PROCESSED_WHY
