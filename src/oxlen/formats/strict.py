"""What the models of the files share: no unknown fields, ids, names and common quantities."""

from __future__ import annotations

from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

Slug = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,40}$")]
MOST_ID = 2**53
"""The largest number of a row: SQLite and scripts have it exactly, and none is larger."""
Id = Annotated[int, Field(ge=1, le=MOST_ID)]
NO_NUL = {"pattern": r"^[^\x00]*$"}


def _without_nul(text: str) -> str:
    # SQLite's length() stops there: a name that begins with one would have none.
    if "\x00" in text:
        raise ValueError("contains a null character")
    return text


Name = Annotated[
    str, Field(min_length=1, max_length=60, json_schema_extra=NO_NUL), AfterValidator(_without_nul)
]
Title = Annotated[
    str, Field(min_length=1, max_length=120, json_schema_extra=NO_NUL), AfterValidator(_without_nul)
]
# Wider than any phone, and narrow enough that every formula can be worked with them.
Iso = Annotated[float, Field(ge=1, le=1e7, allow_inf_nan=False)]
Seconds = Annotated[float, Field(ge=1e-6, le=1e5, allow_inf_nan=False)]


class Strict(BaseModel):
    """Unknown fields are refused by name."""

    model_config = ConfigDict(extra="forbid")
