"""What a photographer is asked of a phone: four short questions, each of which may be skipped."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator

from oxlen.core.kit.nominal_steps import Spacing
from oxlen.formats.phone.parts import Kelvin, Slider
from oxlen.formats.strict import Iso, Seconds, Slug, Strict


class PhoneAnswers(Strict):
    """The manual mode's ends and steps, the dial's and the slider's reach, where RAW is offered.

    None where a question was skipped: what Oxlen assumes then stays.
    """

    iso_low: Iso | None = None
    iso_high: Iso | None = None
    shutter_fastest_s: Seconds | None = None
    shutter_slowest_s: Seconds | None = None
    steps: Spacing | None = None
    kelvin_low: Kelvin | None = None
    kelvin_high: Kelvin | None = None
    kelvin_step: Annotated[float, Field(ge=1, le=2000)] | None = None
    slider_low: Slider | None = None
    slider_high: Slider | None = None
    slider_step: Annotated[float, Field(gt=0, le=1e5)] | None = None
    raw_on: Annotated[list[Slug], Field(max_length=12)] | None = None

    @model_validator(mode="after")
    def _ascend(self) -> PhoneAnswers:
        for low, high, words in (
            (self.iso_low, self.iso_high, "The highest ISO must be above the lowest."),
            (
                self.shutter_fastest_s,
                self.shutter_slowest_s,
                "The slowest shutter must be longer than the fastest.",
            ),
            (self.kelvin_low, self.kelvin_high, "The highest Kelvin must be above the lowest."),
            (self.slider_low, self.slider_high, "The slider's two ends must differ, lowest first."),
        ):
            if low is not None and high is not None and high <= low:
                raise ValueError(words)
        return self
