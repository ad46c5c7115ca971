"""The options of `oxlen stack`."""

from __future__ import annotations

import argparse
from pathlib import Path


def add_stack_options(parser: argparse.ArgumentParser) -> None:
    """Files, the rule, how they are laid, and what the night sky needs besides."""
    parser.add_argument("files", type=Path, nargs="+", metavar="FILE")
    parser.add_argument(
        "--combine",
        default="mean",
        metavar="RULE",
        help="mean, add, lighten, darken, median or sigma-clip",
    )
    parser.add_argument("--align", default="none", metavar="HOW", help="none, features or stars")
    parser.add_argument("--out", type=Path, metavar="FILE", help="a .tif, .jpg or, from RAW, .dng")
    parser.add_argument(
        "--mixed", action="store_true", help="frames have settings of their own, on purpose"
    )
    parser.add_argument(
        "--horizon",
        nargs="+",
        default=[],
        metavar="X,Y",
        help="places of the line under which the land stays, as shares of width and height",
    )
    parser.add_argument("--close-gaps", action="store_true", help="star trails without pauses")
    parser.add_argument("--dark", type=Path, metavar="FILE", help="a frame with the lens covered")
    parser.add_argument(
        "--land",
        type=Path,
        nargs="+",
        default=[],
        metavar="FILE",
        help="frames of the land alone, blended under the horizon",
    )
    parser.add_argument(
        "--land-lift", type=float, default=0.0, metavar="STOPS", help="the land so much lighter"
    )
    parser.add_argument(
        "--work", type=Path, metavar="DIR", help="kept there, it goes on after a crash"
    )
