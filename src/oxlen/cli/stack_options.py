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
    parser.add_argument("--mixed", action="store_true", help="frames have different settings")
    parser.add_argument(
        "--horizon",
        nargs="+",
        default=[],
        metavar="X,Y",
        help="points of the horizon line, as shares of width and height",
    )
    parser.add_argument("--close-gaps", action="store_true", help="close gaps in star trails")
    parser.add_argument("--dark", type=Path, metavar="FILE", help="dark frame (lens covered)")
    parser.add_argument(
        "--land",
        type=Path,
        nargs="+",
        default=[],
        metavar="FILE",
        help="foreground frames, blended under the horizon line",
    )
    parser.add_argument(
        "--land-lift", type=float, default=0.0, metavar="STOPS", help="foreground brighter by"
    )
    parser.add_argument(
        "--work", type=Path, metavar="DIR", help="work folder, to continue after a crash"
    )
