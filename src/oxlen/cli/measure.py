"""`oxlen white`, `oxlen focus-ladder` and `oxlen sharp`: what pictures tell of light and focus."""

from __future__ import annotations

import argparse

from oxlen.cli.output import print_json
from oxlen.core.errors import BadInput
from oxlen.core.light.meter import Spot
from oxlen.core.units import require_between

WHITE_RADIUS, FOCUS_RADIUS = 0.03, 0.06


def white(arguments: argparse.Namespace) -> int:
    """Print the colour of the light on a white or grey patch."""
    from oxlen.metering.white import read_white, to_dial_k

    if arguments.dial is not None:
        require_between("dial", arguments.dial, low=1000, high=25_000, unit="K")
    spot = place(arguments.spot, WHITE_RADIUS)
    found = read_white(arguments.picture, arguments.picture.name, spot, dial_k=arguments.dial)
    light = found.light
    print_json(
        {
            "cct_k": None if light is None else light.temperature.cct_k,
            "duv": None if light is None else light.temperature.duv,
            "xy": None if light is None else [light.x, light.y],
            "plus_minus_mired": found.plus_minus_mired,
            "source": found.source,
            "dial_k": None if light is None else to_dial_k(light),
            "taken_at_k": found.taken_at_k,
            "cast_mired": found.cast_mired,
            "warning": found.warning,
        }
    )
    return 0


def focus_ladder(arguments: argparse.Namespace) -> int:
    """Print where along the slider a patch is sharpest."""
    from oxlen.metering.ladder import focus_ladder as measure

    values = _numbers(arguments.values)
    found = measure(arguments.files, values, place(arguments.spot, FOCUS_RADIUS))
    print_json(
        {
            "value": found.result.value,
            "plus_minus": found.result.plus_minus,
            "go_on": found.result.go_on,
            "samples": [{"value": rung.value, "sharpness": rung.sharpness} for rung in found.rungs],
        }
    )
    return 0


def sharp(arguments: argparse.Namespace) -> int:
    """Print how sharp a spot is against the rest of the picture."""
    from oxlen.core.focus.local_sharpness import spot_verdict, verdict_words
    from oxlen.metering.sharp import picture_sharpness

    spot = place(arguments.spot, FOCUS_RADIUS)
    found = spot_verdict(picture_sharpness(arguments.picture, arguments.picture.name), spot)
    print_json({**vars(found), "words": verdict_words(found)})
    return 0


def place(text: str, radius: float) -> Spot:
    """A spot from X,Y[,R]; BadInput or OutOfRange says what is wrong.

    >>> place("0.5,0.4", 0.03).r
    0.03
    """
    values = _numbers(text)
    if len(values) not in (2, 3):
        raise BadInput(f"A spot is X,Y or X,Y,R, not {text}.", "spot")
    return Spot("spot", values[0], values[1], r=values[2] if len(values) == 3 else radius)


def _numbers(text: str) -> list[float]:
    try:
        return [float(part) for part in text.split(",")]
    except ValueError:
        raise BadInput(f"{text} has a value that is not a number.", "values") from None
