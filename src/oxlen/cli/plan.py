"""`oxlen plan` and `oxlen schema`."""

from __future__ import annotations

import argparse
from pathlib import Path

from oxlen.cli.output import print_json, read_text
from oxlen.core.decisions.plan import plan as decide
from oxlen.core.errors import NotFound
from oxlen.formats.json_text import parse_json
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.plan.brief import BriefFile
from oxlen.formats.plan.writing import plan_file
from oxlen.formats.refusal import parse_model
from oxlen.formats.schemas import SCHEMAS


def plan(arguments: argparse.Namespace) -> int:
    """Print the plan for a brief."""
    data = parse_json(read_text(arguments.brief), "The brief")
    brief = parse_model(BriefFile, data, "The brief")
    ask = brief.ways == "all"
    core_brief = brief.to_brief(lambda phone_id: find_phone(phone_id, arguments.data))
    print_json(plan_file(decide(core_brief, ask=ask), ask=ask).model_dump(mode="json"))
    return 0


def schema(arguments: argparse.Namespace) -> int:
    """Print the JSON Schema of a file format."""
    print_json(SCHEMAS[arguments.name].model_json_schema())
    return 0


def find_phone(phone_id: str, data: Path | None) -> PhoneProfile:
    """A phone of the user's own kit when there is one of that id, else a shipped one."""
    from oxlen.store.kit.phones import kept_profile
    from oxlen.store.library import existing_library

    library = existing_library(data)
    if library is not None:
        try:
            with library.reader() as connection:
                return kept_profile(connection, phone_id)
        except NotFound:
            pass
    return shipped_profile(phone_id)
