"""`oxlen check-take`."""

from __future__ import annotations

import argparse

from oxlen.cli.meter import parse_spot
from oxlen.cli.output import print_json, read_text
from oxlen.core.errors import BadInput
from oxlen.formats.json_text import parse_json
from oxlen.formats.plan.plan import PlanFile
from oxlen.formats.refusal import parse_model
from oxlen.takes.check_writing import check_to_file, next_along, planned_take
from oxlen.takes.checking import (
    check_file,
    check_names,
)


def check_take(arguments: argparse.Namespace) -> int:
    """Print what is off in a take, why, and what to change."""
    plan = parse_model(PlanFile, parse_json(read_text(arguments.plan), "The plan"), "The plan")
    spots = tuple(parse_spot(text) for text in arguments.spot)
    against = planned_take(plan, spots, shutter_s=None, by_picture=arguments.reference is not None)
    if against is None:
        raise BadInput("This plan has no slip to compare with.", "plan")
    check_names(against)
    reference = None
    if arguments.reference is not None:
        reference = (arguments.reference, arguments.reference.name)
    found = check_file(arguments.picture, arguments.picture.name, reference=reference, plan=against)
    after = next_along(plan, found.check.change)
    print_json(check_to_file(found, after).model_dump(mode="json"))
    return 0
