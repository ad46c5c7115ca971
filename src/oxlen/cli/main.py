"""`oxlen`: the commands, their arguments, and the one door errors leave by."""

from __future__ import annotations

import argparse
import os
import sqlite3
import sys
from collections.abc import Callable, Sequence
from importlib import import_module
from pathlib import Path

from oxlen.cli.series_options import add_series_options
from oxlen.cli.stack_options import add_stack_options
from oxlen.core.errors import OxlenError

Command = Callable[[argparse.Namespace], int]
DEFAULT_PORT = 8710


def main(argv: Sequence[str] | None = None) -> int:
    """Run a command; the exit code is 0, or 2 with a sentence on stderr."""
    arguments = _parser().parse_args(argv)
    # Commands load what they need themselves: `meter` must start fast and needs no server.
    command: Command = getattr(import_module(arguments.module), arguments.function)
    try:
        return command(arguments)
    except OxlenError as error:
        print(f"oxlen: {error.message}", file=sys.stderr)
        return 2
    except sqlite3.Error as error:
        print(f"oxlen: The database cannot be used: {error}. Try oxlen check.", file=sys.stderr)
        return 2
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    except OSError as error:
        print(f"oxlen: {error.filename or 'file'}: {error.strerror or error}.", file=sys.stderr)
        return 2


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="oxlen", description="Meter a scene and solve for the settings to dial in."
    )
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    _meter(commands)
    _measure(commands)
    _phones(commands)
    _plan(commands)
    _compute(commands)
    _stack(commands)
    _series(commands)
    _sky(commands)
    _bench_shoot(commands)
    _serve(commands)
    _archive(commands)
    return parser


def _add(
    commands: argparse._SubParsersAction[argparse.ArgumentParser],
    name: str,
    module: str,
    *,
    function: str,
    words: str,
) -> argparse.ArgumentParser:
    parser = commands.add_parser(name, help=words, description=words)
    parser.set_defaults(module=module, function=function)
    return parser


def _sky(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    by_place = [
        _add(commands, name, "oxlen.cli.hours", function=name, words=words)
        for name, words in (
            ("hours", "Show the light of a day at a place."),
            ("night", "Plan a night under the stars at a place."),
        )
    ]
    for parser in by_place:
        parser.add_argument("--lat", type=float, required=True, help="degrees north")
        parser.add_argument("--lon", type=float, required=True, help="degrees east")
        parser.add_argument("--date", required=True, metavar="YYYY-MM-DD")
        parser.add_argument("--tz", help="time zone; the place's own otherwise")
    by_day, by_night = by_place
    by_day.add_argument("--cloud", default="clear", help="clear, partly or overcast")
    by_night.add_argument("--phone", default="wherry-3", metavar="ID")
    by_night.add_argument("--lens", metavar="ID")
    by_night.add_argument("--data", type=Path, metavar="DIR", help="folder of your data")
    by_night.add_argument(
        "--class", dest="dark_sky_class", type=int, default=4, help="dark-sky class, 1 to 9"
    )
    by_night.add_argument("--magnitude", type=float, help="measured sky brightness, mag/arcsec²")
    by_night.add_argument(
        "--above", type=float, default=10.0, help="minimum height of the Milky Way core, degrees"
    )
    parser = _add(
        commands,
        "sky",
        "oxlen.cli.hours",
        function="sky",
        words="Read a picture of the night sky: its brightness, trails and focus.",
    )
    parser.add_argument("picture", type=Path, metavar="PICTURE")


def _meter(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    parser = _add(
        commands, "meter", "oxlen.cli.meter", function="meter", words="Read the light in a picture."
    )
    parser.add_argument("picture", type=Path, metavar="PICTURE")
    parser.add_argument(
        "--spot",
        action="append",
        default=[],
        metavar="NAME=X,Y[,R]",
        help="a disc: x and y as shares of width and height, r of the shorter side",
    )
    parser.add_argument("--iso", type=float, help="the ISO, when the file does not say it")
    parser.add_argument("--shutter", type=float, metavar="S", help="the shutter in seconds")
    parser.add_argument("--f-number", type=float, metavar="N", help="the f-number")
    parser.add_argument(
        "--meter-offset", type=float, default=0.0, metavar="STOPS", help="of the phone's profile"
    )


def _measure(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    module, spot = "oxlen.cli.measure", "a disc: x and y as shares of the frame, r of its height"
    words = "Measure the colour of the light from a white or grey patch."
    white = _add(commands, "white", module, function="white", words=words)
    white.add_argument("picture", type=Path, metavar="PICTURE")
    white.add_argument("--spot", required=True, metavar="X,Y[,R]", help=spot)
    white.add_argument("--dial", type=float, metavar="K", help="the kelvin it was taken at")
    words = "Find the sharpest focus slider value from several pictures."
    ladder = _add(commands, "focus-ladder", module, function="focus_ladder", words=words)
    ladder.add_argument("files", type=Path, nargs="+", metavar="FILE")
    ladder.add_argument("--values", required=True, metavar="V1,V2,...", help="one for each file")
    ladder.add_argument("--spot", required=True, metavar="X,Y[,R]", help=spot)
    words = "Compare the sharpness of a spot with the rest of a picture."
    sharp = _add(commands, "sharp", module, function="sharp", words=words)
    sharp.add_argument("picture", type=Path, metavar="PICTURE")
    sharp.add_argument("--spot", required=True, metavar="X,Y[,R]", help=spot)
    words = "Compare a take with its plan: what is off, why, and what to change."
    check = _add(commands, "check-take", "oxlen.cli.check_take", function="check_take", words=words)
    check.add_argument("picture", type=Path, metavar="PICTURE")
    check.add_argument("--plan", required=True, metavar="PLAN", help="as printed by `oxlen plan`")
    check.add_argument("--reference", type=Path, metavar="PICTURE", help="planning picture")
    check.add_argument("--spot", action="append", default=[], metavar="NAME=X,Y[,R]", help=spot)


def _phones(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    module = "oxlen.cli.phones"
    words = "Make a phone profile from its pictures."
    made = _add(commands, "phone-from", module, function="phone_from", words=words)
    made.add_argument("files", type=Path, nargs="+", metavar="FILE")
    made.add_argument("--answers", metavar="FILE", help="answers to the four questions, as JSON")
    words = "Measure a value of a phone from pictures."
    parser = _add(commands, "measure-phone", module, function="measure_phone", words=words)
    parser.add_argument(
        "kind", metavar="KIND", help="such as noise, headroom, hand, readout or pace"
    )
    parser.add_argument("files", type=Path, nargs="*", metavar="FILE")
    parser.add_argument("--phone", default="wherry-3", metavar="ID", help="or a profile's .json")
    parser.add_argument("--lens", metavar="ID")
    parser.add_argument("--mode", metavar="ID")
    parser.add_argument("--given", metavar="JSON", help="other values, by name")
    parser.add_argument("--data", type=Path, metavar="DIR", help="folder of your data")


def _plan(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    parser = _add(
        commands,
        "plan",
        "oxlen.cli.plan",
        function="plan",
        words="Decide the settings for a brief.",
    )
    parser.add_argument("brief", metavar="BRIEF.json", help="a brief, or - for standard input")
    parser.add_argument("--data", type=Path, metavar="DIR", help="folder of your data")
    schema = _add(
        commands,
        "schema",
        "oxlen.cli.plan",
        function="schema",
        words="Print the JSON Schema of a file format.",
    )
    schema.add_argument("name", choices=["brief", "phone", "place", "preset"])


def _compute(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    parser = _add(
        commands,
        "compute",
        "oxlen.cli.compute",
        function="compute",
        words="Compute one of the formulas.",
    )
    parser.add_argument("id", nargs="?", metavar="ID")
    parser.add_argument("inputs", nargs="?", metavar="JSON", help="inputs by name, - for stdin")
    parser.add_argument("--list", action="store_true", help="all formulas, with units and sources")


def _stack(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    words = "Stack several pictures into one."
    parser = _add(commands, "stack", "oxlen.cli.stack", function="stack", words=words)
    add_stack_options(parser)


def _series(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    shop = commands.add_parser("series", help="Work on pictures of a series for a shop.")
    kinds = shop.add_subparsers(required=True, metavar="WHAT")
    words = "Compare each picture of a series with a reference: light, colour, place, sharpness."
    check = _add(kinds, "check", "oxlen.cli.series", function="check", words=words)
    words = "Make the pictures of a series match the reference, and write them with a list."
    export = _add(kinds, "export", "oxlen.cli.series", function="export", words=words)
    add_series_options(check, export)


def _bench_shoot(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    words = "Photograph a shipped scene with the bench phone."
    parser = _add(
        commands, "bench-shoot", "oxlen.cli.bench_shoot", function="bench_shoot", words=words
    )
    parser.add_argument("scene", nargs="?", metavar="SCENE")
    parser.add_argument("--slip", metavar="FILE", help="a slip or a plan as JSON, - for stdin")
    parser.add_argument("--auto", action="store_true", help="use the phone's auto")
    parser.add_argument("--out", type=Path, metavar="DIR")
    parser.add_argument("--seed", type=int, default=0, help="random seed of the take")
    parser.add_argument("--phone", default="wherry-3", metavar="ID")
    parser.add_argument("--support", default="handheld", metavar="HOW")
    parser.add_argument("--format", choices=["processed", "raw", "both"], default="both")
    parser.add_argument("--list", action="store_true", help="list the scenes")


def _serve(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    for name, function, words in (
        ("serve", "serve", "Start the app with your own data."),
        ("demo", "demo", "Start the app with the Kettle Reach demo data."),
    ):
        parser = _add(commands, name, "oxlen.cli.serve", function=function, words=words)
        parser.add_argument("--port", type=int, default=DEFAULT_PORT)
        parser.add_argument("--data", type=Path, metavar="DIR")
        parser.add_argument("--no-browser", action="store_true")
        parser.add_argument(
            "--network",
            type=int,
            metavar="MINUTES",
            help="share with paired phones for so many minutes",
        )
        parser.add_argument("--plain", action="store_true", help="without https")
        parser.add_argument(
            "--name",
            action="append",
            default=[],
            help="also use a name such as yard.local",
        )
        parser.add_argument("--address", help="use only this address")


def _archive(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    for name, words in (
        ("backup", "Back up all data into one zip file."),
        ("restore", "Replace all data with a backup, after checking it."),
    ):
        parser = _add(commands, name, "oxlen.cli.archive", function=name, words=words)
        parser.add_argument("file", type=Path, metavar="FILE")
        parser.add_argument("--data", type=Path, metavar="DIR")
    out = _add(
        commands,
        "outing-file",
        "oxlen.cli.archive",
        function="outing_file",
        words="Export one outing for another Oxlen.",
    )
    out.add_argument("outing", metavar="OUTING", help="its title or number")
    out.add_argument(
        "--with-identity",
        action="store_true",
        help="keep location, names and serial numbers in its pictures",
    )
    back = _add(
        commands,
        "outing-in",
        "oxlen.cli.archive",
        function="outing_in",
        words="Import an outing file. Nothing is duplicated.",
    )
    for command_parser in (out, back):
        command_parser.add_argument("file", type=Path, metavar="FILE")
        command_parser.add_argument("--data", type=Path, metavar="DIR")
    words = "Check all data: database, pictures, sheets."
    parser = _add(commands, "check", "oxlen.cli.archive", function="check", words=words)
    parser.add_argument("--mend", action="store_true", help="delete orphaned files")
    parser.add_argument("--data", type=Path, metavar="DIR")
