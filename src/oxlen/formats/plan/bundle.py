"""The bundle: a slip with all that it was decided by, to be decided again the same."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from oxlen.core.ask import plain
from oxlen.core.decisions.exposure.ask import LENS_FILTERS
from oxlen.core.decisions.framework.brief import Brief
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.plan.brief import BriefFile, asks_of_a_brief
from oxlen.formats.plan.plan import PlanFile
from oxlen.formats.strict import Strict


class BundleFile(Strict):
    """What was read and asked, the phone's figures, the version, and the plan that came of it."""

    written_as: Literal["oxlen-bundle/1"] = "oxlen-bundle/1"
    oxlen: Annotated[str, Field(max_length=20)]
    title: Annotated[str, Field(max_length=120)]
    made_at: Annotated[str, Field(max_length=40)]
    brief: BriefFile
    plan: PlanFile

    def asked_brief(self) -> Brief:
        """The brief as it was, with its own phone."""
        return self.brief.to_brief(_none_is_looked_up)


def _none_is_looked_up(phone_id: str) -> PhoneProfile:
    raise AssertionError(f"a bundle brings its phone, {phone_id} is not looked up")


def brief_file(brief: Brief, profile: PhoneProfile) -> BriefFile:
    """A brief as a file, its phone included."""
    tones = brief.tones_measured
    written: dict[str, Any] = {
        "phone": profile.model_dump(mode="json"),
        "readings": [
            {
                "role": reading.role,
                "ev100": reading.ev100,
                "place": reading.place_stops,
                "within": reading.within_stops,
                "name": reading.name,
                "channel_stops": reading.channel_stops,
                "plus_minus_stops": reading.plus_minus_stops,
                "why_plus_minus": reading.why_plus_minus[:200],
            }
            for reading in brief.readings_measured
        ],
        "mean_ev100": brief.mean_measured_ev100,
        "light_shift_stops": brief.light_shift_stops,
        "nd": {"on": plain(brief[LENS_FILTERS]), "at_hand": plain(brief.filters_at_hand)},
        "tones": None if tones is None else plain(tones),
    }
    asked = {ask.name: plain(brief[ask]) for ask in asks_of_a_brief()}
    return BriefFile.model_validate({**written, **asked})
