"""What a sheet holds: everything the photographer chose, as one JSON document."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import ConfigDict, Field
from pydantic.config import JsonDict

from oxlen.core.decide.brief import ANY_LENS, Role
from oxlen.formats.phone_profile import Positive, Slug, Strict
from oxlen.formats.preset_file import ChoicesFile

Share = Annotated[float, Field(ge=0, le=1)]
Place = Annotated[float, Field(ge=-12, le=8)]
Title = Annotated[str, Field(min_length=1, max_length=120)]


class SpotBody(Strict):
    """A spot on the picture: a disc with a role and a wanted tone in stops from mid."""

    id: Slug
    name: Annotated[str, Field(max_length=60)] = ""
    role: Role = "subject"
    x: Share
    y: Share
    r: Annotated[float, Field(ge=0.002, le=0.5)] = 0.02
    place: Place | None = None


class AutoNumbers(Strict):
    """The numbers the phone shows on auto."""

    kind: Literal["auto"] = "auto"
    iso: Positive
    shutter_s: Positive
    lens: str | None = None


class LuxNumber(Strict):
    """An incident reading in lux."""

    kind: Literal["lux"] = "lux"
    lux: Positive


class EvNumber(Strict):
    """An EV at ISO 100 from a hand meter."""

    kind: Literal["ev"] = "ev"
    ev100: Annotated[float, Field(ge=-12, le=24)]


class UsualLevel(Strict):
    """A line of the table of usual light levels."""

    kind: Literal["level"] = "level"
    level: Slug


ReadingSource = Annotated[
    AutoNumbers | LuxNumber | EvNumber | UsualLevel, Field(discriminator="kind")
]


class ReadingBody(Strict):
    """Light measured without a picture."""

    id: Slug
    name: Annotated[str, Field(max_length=60)] = ""
    role: Role = "subject"
    place: Place | None = None
    source: ReadingSource


class HandSettings(Strict):
    """Exposure of a picture whose file does not say it."""

    iso: Annotated[float, Field(ge=1, le=1e7)]
    shutter_s: Annotated[float, Field(ge=1e-7, le=1e5)]
    f_number: Annotated[float, Field(ge=0.3, le=128)]


class HeldPair(Strict):
    """Steps the photographer chose by hand on the map, instead of the plan's."""

    iso: Positive
    shutter_s: Positive


EXAMPLE_SHEET: JsonDict = {
    "title": "Tarred hull on the slip",
    "phone": "wherry-3",
    "lens": "main",
    "support": "handheld",
    "readings": [
        {"id": "sky", "role": "subject", "place": 0, "source": {"kind": "ev", "ev100": 12.3}}
    ],
}


class SheetBody(ChoicesFile):
    """One intended picture: where its light comes from, and the choices a preset could hold."""

    model_config = ConfigDict(extra="forbid", json_schema_extra={"examples": [EXAMPLE_SHEET]})

    title: Title = "Untitled sheet"
    intent: Annotated[str, Field(max_length=1000)] = ""
    state: Literal["planned", "shot", "kept"] = "planned"
    phone: Annotated[str, Field(max_length=60)] = "wherry-3"
    lens: str | None = None
    mode: str | None = None
    picture: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")] | None = None
    picture_glass_stops: Annotated[
        float, Field(ge=0, le=24, description="taken by the glass the picture was shot through")
    ] = 0.0
    scene: Slug | None = None
    by_hand: HandSettings | None = None
    spots: Annotated[list[SpotBody], Field(max_length=40)] = []  # noqa: RUF012  copied by Pydantic
    readings: Annotated[list[ReadingBody], Field(max_length=40)] = []  # noqa: RUF012  copied by Pydantic
    light_shift_stops: Annotated[
        float, Field(ge=-20, le=20, description="light expected by then against light read")
    ] = 0.0
    held: HeldPair | None = None

    @property
    def lens_id(self) -> str | None:
        """The lens named; None where the first, or any, will do."""
        return None if self.lens == ANY_LENS else self.lens
