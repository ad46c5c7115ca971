"""The live preview as the screen shows it: readings, rail and slip of one frame."""

from __future__ import annotations

from pydantic import BaseModel

from oxlen.core.checklist.exposures import PlannedExposure, planned_exposures
from oxlen.core.constants import BLOCKED_CODE, CLIPPED_CODE
from oxlen.core.decisions.dialled import dials_of
from oxlen.core.decisions.plan import Plan, plan
from oxlen.core.labels import ev_label, shutter_label, signed, stops_label
from oxlen.core.light.meter import Spot
from oxlen.core.live.focus_points import FocusPoint, dioptres_to_set
from oxlen.core.live.preview_curve import PreviewCurve
from oxlen.formats.live import LiveAsk, LiveSettingsFile
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.sheet.file import SheetBody
from oxlen.metering.light import LightReading
from oxlen.metering.live_frame import LIVE, LiveFrame
from oxlen.metering.live_light import (
    KnownLight,
    known_doubt,
    lens_f_number,
    live_body,
    preview_doubt,
    settings_of_known,
)
from oxlen.metering.picture_doubt import PictureDoubt
from oxlen.phones.briefed_sheet import BriefedSheet, briefed_sheet
from oxlen.views.answer import CautionView, SlipLine, caution_views, slip_lines
from oxlen.views.live.white import LiveWhite, lit_as_measured, live_whites
from oxlen.views.metering_patterns import PatternReading, pattern_readings
from oxlen.views.tones import ToneScale, tone_scale

SUN_SHARE = 0.004
"""Own choice: a clipped disc of this share in a frame exposed for the day is the Sun or its glare;
the Sun itself covers 0.003 % of a phone's view, its bloom a hundred times that."""
SUN_EV100 = 14.0
"""Rule of thumb: under full daylight nothing but the Sun clips so by day, off by up to a stop."""
SUN_CAUTION = "Never look at or aim at the Sun. It harms eyes and can harm the camera."
NO_EXPOSURE = "This browser does not tell the exposure. Tones are relative until a light is known."


class LiveTone(BaseModel):
    """A spot of the frame, relative to the frame's own mid; `words` is what is shown on it."""

    id: str
    name: str
    stops: float
    words: str
    state: str


class LiveDial(BaseModel):
    """What *Dial it* sets, and what is recorded in a photo that has no EXIF.

    `to_set` is `wanted` in the camera's own numbers: its focus may be off.
    """

    wanted: LiveSettingsFile
    to_set: LiveSettingsFile
    f_number: float
    make: str
    model: str


class NearestSteps(BaseModel):
    """ISO and shutter nearest to what is wanted where nothing meets every limit, as shown."""

    iso: str
    shutter: str


class LiveView(BaseModel):
    """One frame, read. `lines` are the slip's; empty where nothing absolute is known.

    Pixels at or over `clipped_code`, or at or under `blocked_code`, are marked on the picture.
    """

    number: int
    ev100: float | None
    ev_words: str
    plus_minus_stops: float | None
    why: str
    readings: list[LightReading]
    tones: list[LiveTone]
    rail: ToneScale | None
    lines: list[SlipLine]
    trouble: str
    nearest: NearestSteps | None
    cautions: list[CautionView]
    patterns: list[PatternReading]
    clipped_share: float
    blocked_share: float
    clipped_code: int = CLIPPED_CODE
    blocked_code: int = BLOCKED_CODE
    planned: list[PlannedExposure]
    whites: list[LiveWhite] = []
    dial: LiveDial | None = None


def live_view(
    body: SheetBody,
    profile: PhoneProfile,
    frame: LiveFrame,
    *,
    asked: LiveAsk,
    curve: PreviewCurve | None = None,
    focus: tuple[FocusPoint, ...] = (),
) -> LiveView:
    """Read a frame and decide by it, as a sheet that rests on it alone. NotFound as for a sheet."""
    f_number = lens_f_number(body, profile)
    report, known = frame.report(LIVE), asked.known
    by_hand, doubt = None, preview_doubt(profile, curve)
    if report.settings.ev100 is None and known is not None and report.frame is not None:
        aged = known_doubt(KnownLight(**known.model_dump()), curve)
        if aged is not None:
            by_hand = settings_of_known(known.ev100, report.frame.mean_stops, f_number)
            doubt = aged
    read = live_body(body, asked.spots, by_hand, filter_stops=asked.filter_stops)
    briefed = briefed_sheet(read, profile, frame, doubt=doubt)
    whites = live_whites(briefed.body.spots, profile, frame)
    brief = lit_as_measured(briefed.brief, whites)
    decision = plan(brief, ask=False) if brief.readings else None
    view = _view(briefed, decision, frame, number=asked.number, doubt=doubt)
    return view.model_copy(update={"whites": whites, "dial": _dial(profile, decision, focus)})


def _view(
    briefed: BriefedSheet,
    decision: Plan | None,
    frame: LiveFrame,
    *,
    number: int,
    doubt: PictureDoubt,
) -> LiveView:
    light = briefed.light
    mean = None if light.picture is None else light.picture.mean_ev100
    cautions = caution_views(decision) if decision else []
    is_warned = any("Sun" in caution.words for caution in cautions)
    is_bright = mean is not None and mean >= SUN_EV100
    if is_bright and frame.clipped_share >= SUN_SHARE and not is_warned:
        cautions = [CautionView(words=SUN_CAUTION, is_grave=True), *cautions]
    return LiveView(
        number=number,
        ev100=mean,
        ev_words="" if mean is None else ev_label(mean),
        plus_minus_stops=None if mean is None else doubt[0],
        why=NO_EXPOSURE if mean is None else doubt[1],
        readings=list(light.readings),
        tones=_tones(briefed, frame),
        rail=tone_scale(decision, light.readings) if decision else None,
        lines=slip_lines(decision) if decision else [],
        trouble=_trouble(decision),
        nearest=_nearest(decision),
        cautions=cautions,
        patterns=pattern_readings(decision, light) if decision else [],
        clipped_share=frame.clipped_share,
        blocked_share=frame.blocked_share,
        planned=list(planned_exposures(decision)) if decision else [],
    )


def _trouble(decision: Plan | None) -> str:
    if decision is None or decision.slip is not None:
        return ""
    return "No exposure meets every limit. Open the sheet for ways out."


def _nearest(decision: Plan | None) -> NearestSteps | None:
    if decision is None or decision.slip is not None or decision.compromise is None:
        return None
    near = decision.compromise.slip
    return NearestSteps(iso=f"{near.iso:g}", shutter=shutter_label(near.shutter_s))


def _tones(briefed: BriefedSheet, frame: LiveFrame) -> list[LiveTone]:
    found = []
    for spot in briefed.body.spots:
        tone = frame.spot_tone(LIVE, Spot(spot.id, spot.x, spot.y, r=spot.r))
        words = {"clipped": "clipped", "blocked": "black"}.get(
            tone.state, signed(tone.stops_from_mid)
        )
        found.append(
            LiveTone(
                id=spot.id,
                name=spot.name,
                stops=tone.stops_from_mid,
                words=words,
                state=tone.state,
            )
        )
    return found


def _dial(
    profile: PhoneProfile, decision: Plan | None, focus: tuple[FocusPoint, ...]
) -> LiveDial | None:
    if decision is None:
        return None
    slip = decision.slip or (decision.compromise.slip if decision.compromise else None)
    lines = {setting.field: setting for setting in decision.dialled.settings}
    white = dials_of(decision.dialled.settings).white_k
    line = lines.get("focus")
    distance = None if line is None else line.figures.get("distance_m")
    wanted = LiveSettingsFile(
        shutter_s=None if slip is None else slip.shutter_s,
        iso=None if slip is None else slip.iso,
        white_k=white,
        focus_dioptres=None if distance is None or distance <= 0 else 1 / distance,
    )
    near = wanted.focus_dioptres
    camera = None if near is None else dioptres_to_set(focus, near)
    return LiveDial(
        wanted=wanted,
        to_set=wanted.model_copy(update={"focus_dioptres": camera}),
        f_number=decision.brief.lens.f_number,
        make=profile.make,
        model=profile.model,
    )


def brighter_words(stops: float | None) -> str:
    """How a frame as set compares with the slip."""
    if stops is None:
        return "What this browser does not set is left to you."
    if abs(stops) < 0.05:
        return "The camera is set to the slip."
    return f"As set, frames are {stops_label(abs(stops))} {'brighter' if stops > 0 else 'darker'}."
