"""`oxlen compute`."""

from __future__ import annotations

import argparse
from typing import Any

from oxlen.cli.output import print_json, read_text
from oxlen.core.compute.computation import Computation
from oxlen.core.compute.registry import COMPUTATIONS, computation
from oxlen.core.errors import BadInput
from oxlen.formats.json_text import parse_json


def compute(arguments: argparse.Namespace) -> int:
    """Print the result of a computation, or the list of all."""
    if arguments.list:
        print_json([describe(entry) for entry in COMPUTATIONS.values()])
        return 0
    if arguments.id is None:
        raise BadInput("Give a computation, or use --list to see all.", "id")
    entry = computation(arguments.id)
    if arguments.inputs is None:
        raise BadInput(f"{entry.id} needs its inputs as JSON: {', '.join(entry.inputs)}.", "inputs")
    text = read_text("-") if arguments.inputs == "-" else arguments.inputs
    print_json(entry.run(parse_json(text, "The inputs")))
    return 0


def describe(entry: Computation) -> dict[str, Any]:
    """A registry entry as data: what it is, its formula, inputs and outputs with units."""
    return {
        "id": entry.id,
        "title": entry.title,
        "formula": entry.formula,
        "source": entry.source,
        "inputs": dict(entry.inputs),
        "outputs": dict(entry.outputs),
    }
