"""The open sheet, `oxlen-sheet/3`: everything the photographer chose, as one JSON document."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, Annotated, Any, Literal

from pydantic import BeforeValidator, ConfigDict, Field, create_model
from pydantic.config import JsonDict

from oxlen.core.decisions import all_asks
from oxlen.core.decisions.framework.brief import NEUTRAL, SUBJECT, Role, SpotRole
from oxlen.core.light.reading import HIGHEST_EV100, LOWEST_EV100
from oxlen.formats.plan.asked import asked_by, asked_fields
from oxlen.formats.strict import Iso, Seconds, Slug, Strict, Title

Share = Annotated[float, Field(ge=0, le=1)]
Place = Annotated[float, Field(ge=-12, le=8)]
SPOT_RADIUS = 0.02
"""Of a new spot, as a share of the picture's shorter side."""
SheetState = Literal["planned", "shot", "kept"]


class SpotBody(Strict):
    """A spot on the picture: a disc with a role and a wanted tone in stops from mid."""

    id: Slug
    name: Annotated[str, Field(max_length=60)] = ""
    role: SpotRole = SUBJECT
    x: Share
    y: Share
    r: Annotated[float, Field(ge=0.002, le=0.5)] = SPOT_RADIUS
    place: Place | None = None


class AutoNumbers(Strict):
    """The numbers the phone shows on auto."""

    kind: Literal["auto"] = "auto"
    iso: Iso
    shutter_s: Seconds
    lens: str | None = None


class LuxNumber(Strict):
    """An incident reading in lux."""

    kind: Literal["lux"] = "lux"
    lux: Annotated[float, Field(ge=1e-8, le=1e11, allow_inf_nan=False)]


class EvNumber(Strict):
    """An EV at ISO 100 from a hand meter."""

    kind: Literal["ev"] = "ev"
    ev100: Annotated[float, Field(ge=LOWEST_EV100, le=HIGHEST_EV100)]


class PredictedLight(Strict):
    """Light worked out beforehand, with how far it may be off and what it was worked from."""

    kind: Literal["predicted"] = "predicted"
    ev100: Annotated[float, Field(ge=LOWEST_EV100, le=HIGHEST_EV100)]
    plus_minus_stops: Annotated[float, Field(ge=0, le=6)]
    why: Annotated[str, Field(max_length=160)] = "predicted for that place and hour"


class UsualLevel(Strict):
    """A line of the table of usual light levels."""

    kind: Literal["level"] = "level"
    level: Slug


ReadingSource = Annotated[
    AutoNumbers | LuxNumber | EvNumber | PredictedLight | UsualLevel, Field(discriminator="kind")
]


class ReadingBody(Strict):
    """Light measured without a picture."""

    id: Slug
    name: Annotated[str, Field(max_length=60)] = ""
    role: Role = SUBJECT
    place: Place | None = None
    source: ReadingSource


class HandSettings(Strict):
    """Exposure of a picture whose file does not say it."""

    iso: Annotated[float, Field(ge=1, le=1e7)]
    shutter_s: Annotated[float, Field(ge=1e-7, le=1e5)]
    f_number: Annotated[float, Field(ge=0.3, le=128)]


class StepsByHand(Strict):
    """Steps the photographer chose by hand on the map, instead of the plan's."""

    iso: Iso
    shutter_s: Seconds


EXAMPLE_SHEET: JsonDict = {
    "title": "Tarred hull on the hard",
    "phone": "wherry-3",
    "lens": "main",
    "support": "handheld",
    "readings": [
        {"id": "sky", "role": "subject", "place": 0, "source": {"kind": "ev", "ev100": 12.3}}
    ],
}


def _this_version(written_as: Any) -> Any:
    """An edit of a page from before the update: its fields' former names are read too."""
    return "oxlen-sheet/3" if written_as == "oxlen-sheet/2" else written_as


class SheetLight(Strict):
    """The part of a sheet that is not a decision's: what it is of, and where its light is from."""

    model_config = ConfigDict(extra="forbid", json_schema_extra={"examples": [EXAMPLE_SHEET]})

    written_as: Annotated[Literal["oxlen-sheet/3"], BeforeValidator(_this_version)] = (
        "oxlen-sheet/3"
    )
    title: Title = "Untitled sheet"
    intent: Annotated[str, Field(max_length=1000)] = ""
    state: SheetState = "planned"
    phone: Annotated[str, Field(max_length=60)] = "wherry-3"
    picture: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")] | None = None
    picture_glass_stops: Annotated[
        float,
        Field(ge=0, le=24, description="light taken by the filters the picture was shot through"),
    ] = 0.0
    scene: Slug | None = None
    by_hand: HandSettings | None = None
    spots: Annotated[list[SpotBody], Field(max_length=40)] = []  # noqa: RUF012  copied by Pydantic
    readings: Annotated[list[ReadingBody], Field(max_length=40)] = []  # noqa: RUF012  copied by Pydantic
    light_shift_stops: Annotated[
        float, Field(ge=-20, le=20, description="expected change of light")
    ] = 0.0
    steps_by_hand: StepsByHand | None = None

    def asked(self) -> Mapping[str, Any]:
        """What the sheet asks for, by the ask's name."""
        return asked_by(self, all_asks())

    def __reduce__(self) -> tuple[Any, ...]:
        # Its asks' classes are made at import and have no name to be pickled by.
        return type(self).model_validate_json, (self.model_dump_json(),)


if TYPE_CHECKING:

    class SheetBody(SheetLight):
        """One intended picture; its asks are fields too, read through `asked`."""
else:
    SheetBody = create_model(
        "SheetBody",
        __base__=SheetLight,
        __doc__="""One intended picture: its light and its wishes.""",
        **asked_fields(all_asks(), on_a_sheet=True),
    )


def tapped_spot(body: SheetLight) -> SpotBody | None:
    """The spot one would tap to focus: the first that is the subject or neutral."""
    return next((spot for spot in body.spots if spot.role in (SUBJECT, NEUTRAL)), None)
