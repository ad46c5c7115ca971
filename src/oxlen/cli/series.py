"""`oxlen series`."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable

from oxlen.cli.meter import parse_spot
from oxlen.cli.output import print_json
from oxlen.core.light.meter import Spot
from oxlen.formats.shop_series import SeriesChecked, file_checked
from oxlen.shop.check_files import check_files
from oxlen.shop.export import LIST, HandOver, export_files


def check(arguments: argparse.Namespace) -> int:
    """Print how each file of a shop series differs from the reference."""
    files = arguments.files
    found = check_files(
        files, arguments.reference, grey=_grey(arguments), progress=_reporter(len(files))
    )
    checked = SeriesChecked(
        reference=arguments.reference.name,
        files=[file_checked(each.name, each.difference, why=each.why) for each in found],
    )
    print_json(checked.model_dump(mode="json"))
    return 0


def export(arguments: argparse.Namespace) -> int:
    """Write a shop series made to match, and print what became of each picture."""
    done = export_files(
        arguments.files,
        arguments.reference,
        HandOver(arguments.out, arguments.name, arguments.size),
        grey=_grey(arguments),
        progress=_reporter(len(arguments.files)),
    )
    print_json({"list": LIST, "files": [vars(each) for each in done]})
    return 0


def _grey(arguments: argparse.Namespace) -> Spot | None:
    return None if arguments.grey is None else parse_spot(f"grey={arguments.grey}")


def _reporter(count: int) -> Callable[[int], None]:
    """Says on a terminal how many files are done."""

    def report(done: int) -> None:
        if sys.stderr.isatty():
            print(f"\r{done} of {count}", end="", file=sys.stderr)

    return report
