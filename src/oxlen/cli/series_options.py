"""What `oxlen series check` and `oxlen series export` take."""

from __future__ import annotations

import argparse
from pathlib import Path


def add_series_options(check: argparse.ArgumentParser, export: argparse.ArgumentParser) -> None:
    """The arguments of both, and those of the export alone."""
    for parser in (check, export):
        parser.add_argument("files", type=Path, nargs="+", metavar="FILE")
        parser.add_argument("--reference", type=Path, required=True, metavar="FILE")
        parser.add_argument(
            "--grey",
            metavar="X,Y,R",
            help="a grey patch: x and y as shares of width and height, r of the shorter side",
        )
    export.add_argument("--out", type=Path, required=True, metavar="DIR")
    export.add_argument(
        "--name", default="{number:02d}", metavar="PATTERN", help="uses {number}, {name} and {use}"
    )
    export.add_argument("--size", type=int, metavar="PX", help="longest side at most")
    export.add_argument(
        "--use", action="append", metavar="USE", help="shop, menu, print or full; more than once"
    )
    export.add_argument(
        "--white", type=int, metavar="CODE", help="take the background to this code, 200 to 247"
    )
    export.add_argument(
        "--keep-settings", action="store_true", help="keep time, shutter and ISO in the files"
    )
