"""The light of a sheet through the live preview, in place of its picture."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from oxlen.core.decisions.lens.ask import ANY_LENS, LENS
from oxlen.core.errors import BadInput
from oxlen.core.light.exposure import shutter_for_ev100
from oxlen.core.light.reading import combined_plus_minus
from oxlen.core.live.calibration import aged_plus_minus_stops
from oxlen.core.live.preview_curve import GENERIC_DOUBT_STOPS, PreviewCurve
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.picture_report import PictureReport
from oxlen.formats.sheet.file import HandSettings, SheetBody, SpotBody
from oxlen.metering.live_frame import LIVE
from oxlen.metering.picture_doubt import PictureDoubt, picture_doubt
from oxlen.pictures.opening import open_picture
from oxlen.pictures.reading import read_open_picture
from oxlen.pictures.report import reading_report

ANCHOR_DOUBT_STOPS = 0.2
"""Rule of thumb: a preview renders mid within a fifth of a stop of what its exposure says, from 0.1
to 0.4, off by up to a factor of 2."""
MEASURED_WHY = "the preview's curve was measured; its exposure is known to 0.2 stop"
GENERIC_WHY = "the preview's curve is assumed"
KNOWN_WHY = "from a light known earlier; light changes"


@dataclass(frozen=True)
class KnownLight:
    """Mean EV100 of the whole view, how far it may be off, and how long ago it was known (s)."""

    ev100: float
    plus_minus_stops: float
    age_s: float


def preview_doubt(profile: PhoneProfile, curve: PreviewCurve | None) -> PictureDoubt:
    """How far light read from a preview of known exposure may be off."""
    shape = GENERIC_DOUBT_STOPS if curve is None else _shape_doubt(curve)
    stops = combined_plus_minus(shape, ANCHOR_DOUBT_STOPS, profile.meter_plus_minus_stops)
    return stops, GENERIC_WHY if curve is None else MEASURED_WHY


def known_doubt(known: KnownLight, curve: PreviewCurve | None) -> PictureDoubt | None:
    """The same of a preview whose mean light was known earlier; None when that is too long ago."""
    aged = aged_plus_minus_stops(known.plus_minus_stops, known.age_s)
    if aged is None:
        return None
    shape = GENERIC_DOUBT_STOPS if curve is None else _shape_doubt(curve)
    return combined_plus_minus(aged, shape), KNOWN_WHY


def live_body(
    body: SheetBody,
    spots: list[SpotBody] | None,
    by_hand: HandSettings | None,
    *,
    filter_stops: float = 0.0,
) -> SheetBody:
    """The sheet metered by the live frame: its own picture and readings stay out of it.

    `filter_stops` is what a filter on the lens takes: an exposure that is known does not tell it.
    """
    kept = body.spots if spots is None else spots
    changed = {"picture": LIVE, "spots": kept, "readings": [], "by_hand": by_hand}
    filtered = {"steps_by_hand": None, "picture_glass_stops": filter_stops}
    return body.model_copy(update={**changed, **filtered})


def light_of_file(path: Path, name: str, profile: PhoneProfile) -> tuple[float, float]:
    """Mean EV100 of the view in a picture, and its ±. BadInput where its exposure is unknown."""
    with open_picture(path, name) as picture:
        report = PictureReport.model_validate(reading_report(read_open_picture(picture)))
    if report.settings.ev100 is None or report.frame is None:
        raise BadInput(f"{name} does not tell its exposure. Use the camera app’s own file.", "name")
    same = (report.camera.make, report.camera.model) == (profile.make, profile.model)
    offset = profile.meter_offset_stops if same else 0.0
    return report.settings.ev100 + offset + report.frame.mean_stops, picture_doubt(report, profile)[
        0
    ]


def lens_f_number(body: SheetBody, profile: PhoneProfile) -> float:
    """The aperture of the lens that the sheet is for."""
    lens_id = body.asked()[LENS.name]
    lens = profile.to_phone().lens(None if lens_id == ANY_LENS else lens_id)
    return float(lens.f_number)


def settings_of_known(known_ev100: float, mean_stops: float, f_number: float) -> HandSettings:
    """Settings by which the mean of a frame reads a known EV100, at ISO 100."""
    shutter_s = float(shutter_for_ev100(known_ev100 - mean_stops, f_number, 100.0))
    return HandSettings(iso=100.0, shutter_s=shutter_s, f_number=f_number)


def _shape_doubt(curve: PreviewCurve) -> float:
    """The curve's own ± within three stops of mid."""
    return max(curve.plus_minus_stops(stops) for stops in (-3.0, -1.5, 0.0, 1.5))
