"""The light of a sheet: its picture, its spots and its other readings, measured once."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel

from oxlen.core.colour.tone_colour import ToneColour
from oxlen.core.decisions.exposure.ask import FORMAT, STRATEGY, Strategy
from oxlen.core.decisions.framework.brief import TONE_ONLY, SceneTones, SpotRole
from oxlen.core.decisions.lens.ask import ANY_LENS, LENS, MODE
from oxlen.core.decisions.solver.aim import TELLING_STOPS
from oxlen.core.decisions.solver.tones import default_place_stops
from oxlen.core.kit.doubt import METERED
from oxlen.core.kit.phone import Lens, Mode, Phone
from oxlen.core.kit.phone_words import FileFormat
from oxlen.core.light.exposure import ExposureSettings, luminance_cd_m2
from oxlen.core.light.meter import Spot
from oxlen.core.light.patterns import FrameLight
from oxlen.core.light.reading import Reading, combined_plus_minus
from oxlen.core.light.tone import ToneState
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.picture_report import PictureReport
from oxlen.formats.sheet.file import (
    EvNumber,
    LuxNumber,
    PredictedLight,
    ReadingBody,
    SheetBody,
    SpotBody,
)
from oxlen.metering.given import reading_given, whole_frame_reading
from oxlen.metering.picture_cache import MeteredPictures
from oxlen.metering.picture_doubt import PictureDoubt, picture_doubt
from oxlen.metering.total_time import TOTAL_TIME, states_total_time

MOST_COLOURS = 6


class LightReading(BaseModel):
    """One reading with all that is known of it; `place` is where it will be put, in stops.

    `channel_is_telling` says that its strongest colour clips noticeably sooner than its light.
    `superseded` marks a guess from the table of usual light that a measured reading has replaced.
    """

    id: str
    kind: Literal["spot", "auto", "lux", "ev", "predicted", "level", "frame"]
    name: str
    role: SpotRole
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
    channel_is_telling: bool = False
    superseded: bool = False

    @property
    def is_no_measurement(self) -> bool:
        """Whether nothing is decided by it as soon as there is something better."""
        return self.kind == "level" or self.role == TONE_ONLY

    @property
    def counts(self) -> bool:
        """Whether the settings depend on it: known, not replaced, with a role in the picture."""
        return self.ev100 is not None and not self.superseded and self.role != TONE_ONLY


class PictureLight(BaseModel):
    """What the sheet's picture says as a whole; the filter it was shot through is counted."""

    report: PictureReport
    settings_ev100: float | None
    mean_ev100: float | None
    missing: list[str]


@dataclass(frozen=True)
class SheetLight:
    """All the light of a sheet, as it was measured.

    `mid_ev100` is the EV100 of the picture's own mid, `frame` its cells and histogram; both None
    without a picture whose exposure, or whose pixels, are known. `colours` are those of its spots
    by name, the subject's first.
    """

    readings: tuple[LightReading, ...]
    picture: PictureLight | None = None
    mid_ev100: float | None = None
    frame: FrameLight | None = None
    colours: tuple[tuple[str, ToneColour], ...] = ()

    @property
    def mean_ev100(self) -> float | None:
        """Mean of the frame, or auto's light where its numbers were read off the phone."""
        if self.picture is not None:
            return self.picture.mean_ev100
        return next((reading.ev100 for reading in self.readings if reading.kind == "auto"), None)

    @property
    def tones(self) -> SceneTones | None:
        """How the picture's tones are spread in EV100; None without pixels or exposure."""
        known = self.picture is not None and self.picture.report.frame
        if not known or self.frame is None or self.mid_ev100 is None:
            return None
        edges = tuple((self.frame.edges_stops + self.mid_ev100).tolist())
        return SceneTones(edges, tuple(self.frame.shares.tolist()), known.clipped_share)


@dataclass(frozen=True)
class _On:
    """What a reading is placed for: the lens, and what the sheet asks of its tones."""

    phone: Phone
    lens: Lens
    mode: Mode
    file_format: FileFormat
    strategy: Strategy


def measured(
    body: SheetBody,
    profile: PhoneProfile,
    cache: MeteredPictures,
    *,
    doubt: PictureDoubt | None = None,
) -> SheetLight:
    """Measure everything a sheet has. NotFound for an unknown lens, mode, level or picture.

    `doubt` is how far the picture's light may be off, where it is known better than by its kind.
    """
    if body.picture is None:
        return measured_without_picture(body, profile)
    on = _on(body, profile)
    entries = _entries(body, on)
    report = cache.report(body.picture)
    is_total = states_total_time(report, profile)
    settings = _settings(report, body, is_total=is_total)
    set_ev100 = None if settings is None else settings.ev100 + body.picture_glass_stops
    mid = None if set_ev100 is None else set_ev100 + _meter_offset(report, profile)
    frame = report.frame
    missing = [] if settings else [*report.missing, *([TOTAL_TIME] if is_total else [])]
    mean = None if mid is None or frame is None else mid + frame.mean_stops
    picture = PictureLight(
        report=report, settings_ev100=set_ev100, mean_ev100=mean, missing=missing
    )
    doubt = doubt or picture_doubt(report, profile)
    readings = (*_spots(body, cache, on, mid=mid, doubt=doubt), *entries)
    only_guessed = all(reading.is_no_measurement for reading in readings)
    if only_guessed and picture.mean_ev100 is not None:
        frame_reading = _entry(whole_frame_reading(body), Reading(picture.mean_ev100, *doubt), on)
        readings = (frame_reading.model_copy(update={"kind": "frame"}), *readings)
    metered = mid is not None and frame is not None
    return SheetLight(
        _guesses_last(readings),
        picture,
        mid,
        frame=cache.frame_light(body.picture) if metered else None,
        colours=tuple(_colours(body, cache)),
    )


def _colours(body: SheetBody, cache: MeteredPictures) -> Iterator[tuple[str, ToneColour]]:
    for spot in sorted(body.spots, key=lambda reading: reading.role != "subject")[:MOST_COLOURS]:
        found = cache.tone_colour(body.picture or "", Spot(spot.id, spot.x, spot.y, r=spot.r))
        if found is not None:
            yield spot.name, found


def measured_without_picture(body: SheetBody, profile: PhoneProfile) -> SheetLight:
    """The light of a sheet's readings alone. NotFound for an unknown lens, mode or level."""
    on = _on(body, profile)
    entries = _entries(body, on)
    return SheetLight(_guesses_last(entries))


def _guesses_last(readings: tuple[LightReading, ...]) -> tuple[LightReading, ...]:
    """A guess counts as long as nothing was measured, and is never averaged with what was."""
    if all(reading.ev100 is None or reading.is_no_measurement for reading in readings):
        return readings
    return tuple(
        reading.model_copy(update={"superseded": True}) if reading.kind == "level" else reading
        for reading in readings
    )


def _on(body: SheetBody, profile: PhoneProfile) -> _On:
    asked, phone = body.asked(), profile.to_phone()
    lens_id = asked[LENS.name]
    lens = phone.lens(None if lens_id == ANY_LENS else lens_id)
    return _On(
        phone,
        lens,
        lens.mode(asked[MODE.name]),
        file_format=asked[FORMAT.name],
        strategy=asked[STRATEGY.name],
    )


def _spots(
    body: SheetBody,
    cache: MeteredPictures,
    on: _On,
    *,
    mid: float | None,
    doubt: PictureDoubt,
) -> Iterator[LightReading]:
    for spot in body.spots:
        tone = cache.spot_tone(body.picture or "", Spot(spot.id, spot.x, spot.y, r=spot.r))
        ev100 = None if tone is None or mid is None else mid + tone.stops_from_mid
        yield LightReading(
            id=spot.id,
            kind="spot",
            name=spot.name,
            role=spot.role,
            ev100=ev100,
            luminance_cd_m2=None if ev100 is None else float(luminance_cd_m2(ev100)),
            plus_minus_stops=doubt[0],
            why=doubt[1],
            place=_place(spot, on),
            place_is_default=spot.place is None,
            state=tone.state if tone else "ok",
            spread_stops=[tone.p05_stops, tone.p95_stops] if tone else None,
            clipped_share=tone.clipped_share if tone else None,
            channel_stops=tone.channel_stops if tone else 0.0,
            channel_is_telling=tone is not None and tone.channel_stops >= TELLING_STOPS,
        )


def _entries(body: SheetBody, on: _On) -> tuple[LightReading, ...]:
    return tuple(
        _entry(reading, reading_given(reading.source, on.phone, on.lens), on)
        for reading in body.readings
    )


def _entry(entry: ReadingBody, reading: Reading, on: _On) -> LightReading:
    return LightReading(
        id=entry.id,
        kind=entry.source.kind,
        name=entry.name,
        role=entry.role,
        ev100=reading.ev100,
        luminance_cd_m2=float(luminance_cd_m2(reading.ev100)),
        plus_minus_stops=combined_plus_minus(reading.plus_minus_stops, _aperture_doubt(entry, on)),
        why=reading.why,
        place=_place(entry, on),
        place_is_default=entry.place is None,
        state="ok",
    )


def _aperture_doubt(entry: ReadingBody, on: _On) -> float:
    """What the lens's f-number leaves open of light that was not measured through it (stops)."""
    if not isinstance(entry.source, EvNumber | LuxNumber | PredictedLight):
        return 0.0
    found = [doubt.plus_minus_stops for doubt in on.lens.doubts if METERED in doubt.moves]
    return combined_plus_minus(*found)


def _place(wanted: SpotBody | ReadingBody, on: _On) -> float:
    if wanted.place is not None:
        return wanted.place
    if wanted.role == TONE_ONLY:
        return 0.0
    headroom = on.mode.headroom_stops(on.file_format)
    return default_place_stops(wanted.role, on.strategy.exposure, headroom)


def _settings(report: PictureReport, body: SheetBody, *, is_total: bool) -> ExposureSettings | None:
    """The picture's exposure: what the file says, or else what was given by hand."""
    seen = report.settings
    if not is_total and seen.iso and seen.shutter_s and seen.f_number and seen.ev100 is not None:
        return ExposureSettings(seen.iso, seen.shutter_s, seen.f_number)
    if body.by_hand is None:
        return None
    given = body.by_hand
    return ExposureSettings(given.iso, given.shutter_s, given.f_number)


def _meter_offset(report: PictureReport, profile: PhoneProfile) -> float:
    """The phone's meter offset, for pictures that phone took."""
    same = (report.camera.make, report.camera.model) == (profile.make, profile.model)
    return profile.meter_offset_stops if same else 0.0
