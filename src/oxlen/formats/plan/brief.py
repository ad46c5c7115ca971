"""The open brief: what `oxlen plan` and the plan route take."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Annotated, Any, Literal, Self

from pydantic import ConfigDict, Field, create_model, field_validator, model_validator
from pydantic.config import JsonDict

from oxlen.core.ask import Ask
from oxlen.core.decisions import all_asks
from oxlen.core.decisions.exposure.ask import LENS_FILTERS
from oxlen.core.decisions.framework.brief import Brief, PlacedReading, Role, SceneTones
from oxlen.core.decisions.sequence.ask import with_phone_gap
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.kit.phone import Phone
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.plan.asked import AskFile, asked_by, asked_fields, model_of, value_of
from oxlen.formats.strict import Strict

if TYPE_CHECKING:

    class FilterFile(AskFile):
        """A filter and the factor it takes the light down by."""
else:
    FilterFile = model_of(LensFilter)


class ReadingFile(Strict):
    """Light at EV100 in a role, wanted `place` stops from mid (the role's default when null).

    `within` is how many stops off still will do: a stop where it is null, half for a neutral.

    `plus_minus_stops` says how far the reading may be off, and `why_plus_minus` why.
    """

    role: Role
    ev100: Annotated[float, Field(ge=-30, le=40)]
    place: Annotated[float, Field(ge=-12, le=8)] | None = None
    within: Annotated[float, Field(ge=0.05, le=12)] | None = None
    name: Annotated[str, Field(max_length=80)] = ""
    channel_stops: Annotated[float, Field(ge=0, le=12)] = 0.0
    plus_minus_stops: Annotated[float, Field(ge=0, le=20)] | None = None
    why_plus_minus: Annotated[str, Field(max_length=200)] = ""

    @field_validator("role", mode="before")
    @classmethod
    def _hyphens(cls, role: object) -> object:
        return role.replace("_", "-") if isinstance(role, str) else role


class NdFile(Strict):
    """Filters on the lens, and what else is at hand."""

    on: Annotated[list[FilterFile], Field(max_length=6)] = []  # noqa: RUF012  copied by Pydantic
    at_hand: Annotated[list[FilterFile], Field(max_length=40)] = []  # noqa: RUF012


class TonesFile(Strict):
    """How a frame's tones are spread: bin edges in EV100, ascending, and the share in each bin."""

    edges_ev100: Annotated[list[float], Field(min_length=2, max_length=2001)]
    shares: Annotated[list[Annotated[float, Field(ge=0, le=1)]], Field(min_length=1)]
    lost_share: Annotated[float, Field(ge=0, le=1)] = 0.0

    @model_validator(mode="after")
    def _agree(self) -> Self:
        if len(self.edges_ev100) != len(self.shares) + 1:
            raise ValueError("tones need one edge more than shares")
        if sorted(set(self.edges_ev100)) != self.edges_ev100:
            raise ValueError("edges_ev100 must ascend")
        return self

    def to_tones(self) -> SceneTones:
        """The tones as the core knows them."""
        return SceneTones(tuple(self.edges_ev100), tuple(self.shares), self.lost_share)


EXAMPLE_BRIEF: JsonDict = {
    "phone": "wherry-3",
    "lens": "main",
    "support": "handheld",
    "readings": [
        {"role": "subject", "ev100": 9.3, "place": -2},
        {"role": "keep-bright", "ev100": 14.9, "place": None},
    ],
    "strategy": {"iso": "floor", "iso_cap": 800, "exposure": "centre"},
    "motion": [{"subject": "walker", "distance_m": 6}],
    "flicker": {"mains_hz": 50},
    "output": {"use": "print-a4", "snr": "acceptable"},
    "nd": {"at_hand": [{"name": "ND 64", "factor": 64}]},
}


class BriefLight(Strict):
    """The part of a brief that is not a decision's: the phone, the light, and what is wanted back.

    `phone` is a shipped or kept id, or a whole profile.
    """

    model_config = ConfigDict(extra="forbid", json_schema_extra={"examples": [EXAMPLE_BRIEF]})

    phone: str | PhoneProfile
    readings: Annotated[list[ReadingFile], Field(min_length=1, max_length=100)]
    mean_ev100: Annotated[float, Field(ge=-30, le=40)] | None = None
    light_shift_stops: Annotated[
        float, Field(ge=-20, le=20, description="expected change of light")
    ] = 0.0
    about: Annotated[
        str, Field(max_length=400, description="what the picture is of, in your own words")
    ] = ""
    nd: NdFile = NdFile()
    tones: TonesFile | None = None
    ways: Literal["needed", "all"] = Field(
        default="needed",
        description="all: trades even when nothing collides, and every lens compared",
    )

    @model_validator(mode="before")
    @classmethod
    def _left_open(cls, given: Any) -> Any:
        """An ask that is null means what a brief without it means."""
        if not isinstance(given, dict):
            return given
        defaults = {ask.name: ask.default for ask in asks_of_a_brief()}
        open_here = {
            name
            for name, value in given.items()
            if value is None and defaults.get(name) is not None
        }
        return {name: value for name, value in given.items() if name not in open_here}

    def to_brief(self, find_phone: Callable[[str], PhoneProfile]) -> Brief:
        """The brief as the core knows it; NotFound when the phone is not in the kit."""
        profile = find_phone(self.phone) if isinstance(self.phone, str) else self.phone
        return brief_of(self, profile.to_phone())


def asks_of_a_brief() -> tuple[Ask[Any], ...]:
    """The asks that a brief writes under their own names."""
    return tuple(ask for ask in all_asks() if ask.in_brief)


if TYPE_CHECKING:

    class BriefFile(BriefLight):
        """One intended picture; its asks are fields too."""
else:
    BriefFile = create_model(
        "BriefFile",
        __base__=BriefLight,
        __doc__="""One intended picture. `lens` may be "any": the best lens is used.""",
        **asked_fields(asks_of_a_brief(), on_a_sheet=False),
    )


def brief_of(file: BriefLight, phone: Phone) -> Brief:
    """A brief for a phone already at hand."""
    asked = {**asked_by(file, asks_of_a_brief()), LENS_FILTERS.name: value_of(file.nd.on)}
    brief = Brief(
        phone=phone,
        readings_measured=tuple(
            PlacedReading(
                r.role,
                r.ev100,
                r.place,
                name=r.name,
                channel_stops=r.channel_stops,
                within_stops=r.within,
                plus_minus_stops=r.plus_minus_stops,
                why_plus_minus=r.why_plus_minus,
            )
            for r in file.readings
        ),
        mean_measured_ev100=file.mean_ev100,
        tones_measured=file.tones.to_tones() if file.tones else None,
        filters_at_hand=value_of(file.nd.at_hand),
        light_shift_stops=file.light_shift_stops,
        about=file.about,
        asked=asked,
    )
    return with_phone_gap(brief)
