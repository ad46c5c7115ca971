"""An outing as one file, `oxlen-outing/3`: a zip of `outing.json` and the pictures it names.

The first version had no copies without identity, the second no series.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from oxlen.formats.strict import Strict, Title

FORMAT = "oxlen-outing/3"
CONTENTS = "outing.json"
PICTURES = "pictures"
MOST_SHEETS, MOST_TAKES, MOST_SERIES = 2000, 20_000, 500

Uid = Annotated[str, Field(pattern=r"^[0-9a-f]{32}$")]
Digest = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
Stamp = Annotated[str, Field(min_length=10, max_length=40)]
Words = Annotated[str, Field(max_length=120)]


class OutingFacts(Strict):
    """What is known of the outing itself; position, date and time zone may be unknown."""

    uid: Uid
    title: Title
    place: Words = ""
    light_window: Words = ""
    latitude_deg: Annotated[float, Field(ge=-90, le=90)] | None = None
    longitude_deg: Annotated[float, Field(ge=-180, le=180)] | None = None
    date: Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")] | None = None
    time_zone: Annotated[str, Field(max_length=60)] | None = None


class CarriedPlan(Strict):
    """A slip something was shot by, as the JSON it is kept as; `frames` where it is a sequence."""

    plan: dict[str, Any]
    frames: Annotated[int, Field(ge=1, le=1000)] | None = None


class CarriedTake(Strict):
    """A picture shot for a sheet; `settings` is what was found in its file.

    `plan` is the place of its slip among those of the sheet, `frame` its place in a sequence,
    counted from 0.
    """

    sha256: Digest
    raw_sha256: Digest | None = None
    shot_on: Literal["slip", "auto", "unknown"] = "unknown"
    settings: dict[str, Any] = {}  # noqa: RUF012  copied by Pydantic
    glass_stops: Annotated[float, Field(ge=0, le=24)] = 0.0
    state: Literal["new", "kept", "rejected"] = "new"
    note: Annotated[str, Field(max_length=1000)] = ""
    rating: Annotated[int, Field(ge=0, le=5)] = 0
    keywords: Annotated[str, Field(max_length=500)] = ""
    why: Annotated[str, Field(max_length=500)] = ""
    taken_at: Annotated[str, Field(max_length=40)] | None = None
    plan: Annotated[int, Field(ge=0)] | None = None
    frame: Annotated[int, Field(ge=0, le=1000)] | None = None


class CarriedSheet(Strict):
    """A sheet with its takes; `body` is an `oxlen-sheet` of any version."""

    uid: Uid
    changed_at: Stamp
    body: dict[str, Any]
    plans: Annotated[list[CarriedPlan], Field(max_length=MOST_TAKES)] = []  # noqa: RUF012
    takes: Annotated[list[CarriedTake], Field(max_length=MOST_TAKES)] = []  # noqa: RUF012


class CarriedSeries(Strict):
    """A series: its leading sheet and its others by uid, what is locked, and as what.

    `pattern` is the leading sheet as it was locked, an `oxlen-sheet` of any version.
    """

    uid: Uid
    title: Title
    lead: Uid
    sheets: Annotated[list[Uid], Field(max_length=MOST_SHEETS)]
    locked: Annotated[list[Annotated[str, Field(max_length=20)]], Field(min_length=1, max_length=8)]
    pattern: dict[str, Any]


class OutingFile(Strict):
    """Everything of an outing but the pixels: `pictures` are names by content hash.

    `cleaned` names the original of each copy that place, names and serial numbers were taken from;
    `left_out` are pictures that could not be cleaned.
    """

    format: Literal["oxlen-outing/1", "oxlen-outing/2", "oxlen-outing/3"] = "oxlen-outing/3"
    outing: OutingFacts
    sheets: Annotated[list[CarriedSheet], Field(max_length=MOST_SHEETS)]
    pictures: dict[Digest, Annotated[str, Field(min_length=1, max_length=255)]]
    cleaned: dict[Digest, Digest] = {}  # noqa: RUF012  copied by Pydantic
    left_out: Annotated[list[Annotated[str, Field(max_length=255)]], Field(max_length=50_000)] = []  # noqa: RUF012
    phones: Annotated[list[dict[str, Any]], Field(max_length=200)] = []  # noqa: RUF012
    series: Annotated[list[CarriedSeries], Field(max_length=MOST_SERIES)] = []  # noqa: RUF012
