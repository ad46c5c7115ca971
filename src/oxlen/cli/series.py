"""`oxlen series`."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable
from dataclasses import replace

from oxlen.cli.meter import parse_spot
from oxlen.cli.output import print_json
from oxlen.core.errors import BadInput
from oxlen.core.light.meter import Spot
from oxlen.core.series.white import WhiteCurve, white_curve
from oxlen.formats.shop_series import SeriesChecked, file_checked
from oxlen.shop.check_files import check_files, look_at
from oxlen.shop.export import (
    LIST,
    HandOver,
    SeriesPicture,
    export_files,
    folder_sink,
    refuse_same_names,
)
from oxlen.shop.uses import FULL, Use, use_of


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
    grey, files = _grey(arguments), arguments.files
    to = HandOver(
        pattern=arguments.name,
        uses=_uses(arguments),
        white=_white(arguments, grey),
        keeps_settings=arguments.keep_settings,
    )
    pictures = [
        SeriesPicture(path, path.name, number, recipe=None)
        for number, path in enumerate(files, start=1)
    ]
    names = refuse_same_names(pictures, to)
    done = export_files(
        files,
        arguments.reference,
        to,
        sink=folder_sink(arguments.out, names),
        grey=grey,
        progress=_reporter(len(files)),
    )
    print_json({"list": LIST, "files": [vars(each) for each in done]})
    return 0


def _uses(arguments: argparse.Namespace) -> tuple[Use, ...]:
    """The uses asked for, or one as large as `--size`."""
    if arguments.use and arguments.size is not None:
        raise BadInput("Give either --use or --size.", "size")
    if arguments.use:
        return tuple(use_of(each) for each in dict.fromkeys(arguments.use))
    return (replace(FULL, side_px=arguments.size),)


def _white(arguments: argparse.Namespace, grey: Spot | None) -> WhiteCurve | None:
    if arguments.white is None:
        return None
    curve = white_curve(look_at(arguments.reference, grey), arguments.white)
    if curve is None:
        raise BadInput("The reference shows no background to take to white.", "white")
    return curve


def _grey(arguments: argparse.Namespace) -> Spot | None:
    return None if arguments.grey is None else parse_spot(f"grey={arguments.grey}")


def _reporter(count: int) -> Callable[[int], None]:
    """Says on a terminal how many files are done."""

    def report(done: int) -> None:
        if sys.stderr.isatty():
            print(f"\r{done} of {count}", end="", file=sys.stderr)

    return report
