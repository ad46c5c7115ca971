"""The open preset, `oxlen-preset/1`: a sheet's choices without its light, to be used again."""

from __future__ import annotations

import itertools
import re
from typing import TYPE_CHECKING, Annotated, Any, Literal

from pydantic import ConfigDict, Field, create_model
from pydantic.config import JsonDict

from oxlen.core.ask import Ask
from oxlen.core.decisions import all_asks
from oxlen.formats.plan.asked import asked_fields
from oxlen.formats.strict import Name, Slug, Strict

EXAMPLE_PRESET: JsonDict = {
    "format": "oxlen-preset/1",
    "id": "walkers-on-the-quay",
    "name": "Walkers on the quay",
    "choices": {"support": "handheld", "motion": [{"subject": "walker", "distance_m": 6}]},
}


def asks_of_a_preset() -> tuple[Ask[Any], ...]:
    """Every ask but those that only make sense for one phone."""
    return tuple(ask for ask in all_asks() if not ask.of_phone)


if TYPE_CHECKING:

    class ChoicesFile(Strict):
        """All choices of a sheet except phone, light and manual steps."""
else:
    ChoicesFile = create_model(
        "ChoicesFile",
        __base__=Strict,
        __doc__="""All choices of a sheet except phone, light and manual steps.

        Anything a preset omits is set as in a new sheet.
        """,
        **asked_fields(asks_of_a_preset(), on_a_sheet=True),
    )


class PresetFile(Strict):
    """Choices that worked, by name."""

    model_config = ConfigDict(extra="forbid", json_schema_extra={"examples": [EXAMPLE_PRESET]})

    format: Literal["oxlen-preset/1"] = "oxlen-preset/1"
    id: Slug
    name: Name
    group: Annotated[str, Field(max_length=40, description="group it is listed in")] = ""
    note: Annotated[str, Field(max_length=600)] = ""
    light_ev100: Annotated[
        tuple[float, float] | None,
        Field(description="subject light it suits, darkest to brightest"),
    ] = None
    needs: Annotated[str, Field(max_length=200, description="what it needs")] = ""
    choices: ChoicesFile


def preset_named(name: str, taken: set[str], **about: Any) -> PresetFile:
    """A preset under a name, with an id that none of the others has."""
    stem = re.sub(r"[^a-z0-9]+", "-", name.casefold()).strip("-")[:36].strip("-") or "preset"
    numbers = itertools.count(2)
    preset_id = stem
    while preset_id in taken:
        preset_id = f"{stem}-{next(numbers)}"
    return PresetFile(id=preset_id, name=name, **about)
