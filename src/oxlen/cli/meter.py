"""`oxlen meter`."""

from __future__ import annotations

import argparse
import sys

from oxlen.cli.output import print_json
from oxlen.core.errors import BadInput
from oxlen.core.light.meter import DEFAULT_SPOT_RADIUS, Spot
from oxlen.core.units import require_between, require_finite
from oxlen.pictures.exposure_tags import Exposure
from oxlen.pictures.reading import read_picture
from oxlen.pictures.report import reading_report

HAND_RANGES = {"iso": (1, 1e7), "shutter": (1e-7, 1e5), "f_number": (0.3, 128)}


def meter(arguments: argparse.Namespace) -> int:
    """Print the reading of a picture; what could not be read goes to stderr."""
    for name, (low, high) in HAND_RANGES.items():
        if getattr(arguments, name) is not None:
            require_between(name, getattr(arguments, name), low=low, high=high)
    require_finite("meter-offset", arguments.meter_offset, "stops")
    by_hand = Exposure(iso=arguments.iso, shutter_s=arguments.shutter, f_number=arguments.f_number)
    reading = read_picture(
        arguments.picture,
        spots=[parse_spot(text) for text in arguments.spot],
        by_hand=by_hand,
        meter_offset_stops=arguments.meter_offset,
    )
    for note in reading.notes:
        print(f"oxlen: {note}", file=sys.stderr)
    print_json(reading_report(reading))
    return 0


def parse_spot(text: str) -> Spot:
    """A spot from NAME=X,Y[,R]; BadInput or OutOfRange says what is wrong.

    >>> parse_spot("hull=0.5,0.4").r
    0.02
    """
    name, equals, numbers = text.partition("=")
    parts = numbers.split(",")
    if not name or not equals or len(parts) not in (2, 3):
        raise BadInput(f"A spot is NAME=X,Y or NAME=X,Y,R, not {text}.", "spot")
    try:
        values = [float(part) for part in parts]
    except ValueError:
        raise BadInput(f"The spot {text} has a value that is not a number.", "spot") from None
    return Spot(
        name, values[0], values[1], r=values[2] if len(values) == 3 else DEFAULT_SPOT_RADIUS
    )
