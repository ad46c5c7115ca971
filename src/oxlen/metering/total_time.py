"""Files that state the total time of many frames: no reading of the light."""

from __future__ import annotations

from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.picture_report import PictureReport

TOTAL_TIME = "time of one frame, only the total of many"
TOTAL_FACTOR = 1.3
"""A time so much longer than the longest that a phone offers is no single frame's."""


def states_total_time(report: PictureReport, profile: PhoneProfile) -> bool:
    """Whether a file states more time than one frame of its phone can last: it was computed from
    many, and its numbers are no reading of the light."""
    reported = report.settings.shutter_s
    own = (report.camera.make, report.camera.model) == (profile.make, profile.model)
    if reported is None or not own:
        return False
    longest = max(
        max(mode.manual.shutter_s) for lens in profile.to_phone().lenses for mode in lens.modes
    )
    return reported > longest * TOTAL_FACTOR
