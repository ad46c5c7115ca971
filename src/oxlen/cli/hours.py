"""`oxlen hours`, `oxlen night` and `oxlen sky`."""

from __future__ import annotations

import argparse
from dataclasses import replace
from datetime import date

from oxlen.cli.output import print_json
from oxlen.cli.plan import find_phone
from oxlen.core.errors import BadInput
from oxlen.core.night.ask import NightAsk
from oxlen.core.review.night_frame import next_time
from oxlen.core.sky.brightness import class_magnitude
from oxlen.core.sky.daylight import CLOUDS
from oxlen.core.sky.place import Place
from oxlen.formats.outing.hours import NightFrameFile
from oxlen.light_plan.day import hours_of_day
from oxlen.light_plan.night import night_plan
from oxlen.light_plan.night_place import NightPlace
from oxlen.light_plan.zone import zone_named
from oxlen.metering.night_sky import read_night_frame


def hours(arguments: argparse.Namespace) -> int:
    """Print the light of a day."""
    if arguments.cloud not in CLOUDS:
        raise BadInput(f"Unknown sky {arguments.cloud}. Use one of {', '.join(CLOUDS)}.")
    place = Place(arguments.lat, arguments.lon)
    zone = zone_named(arguments.tz, place)
    found = hours_of_day(place, _day(arguments.date), zone, cloud=arguments.cloud)
    print_json(found.model_dump(mode="json"))
    return 0


def night(arguments: argparse.Namespace) -> int:
    """Print a night: when it is dark, and what to dial on a phone."""
    place = Place(arguments.lat, arguments.lon)
    magnitude, plus_minus = class_magnitude(arguments.dark_sky_class)
    if arguments.magnitude is not None:
        magnitude, plus_minus = arguments.magnitude, 0.1
    where = NightPlace(place, zone_named(arguments.tz, place), magnitude, plus_minus=plus_minus)
    where = replace(where, wanted=replace(where.wanted, least_altitude_deg=arguments.above))
    found = night_plan(
        where,
        _day(arguments.date),
        phone=find_phone(arguments.phone, arguments.data).to_phone(),
        lens_id=arguments.lens,
        asked=NightAsk(magnitude),
    )
    print_json(found.model_dump(mode="json"))
    return 0


def sky(arguments: argparse.Namespace) -> int:
    """Print what a picture of the night sky tells."""
    seen = read_night_frame(arguments.picture, arguments.picture.name)
    found = NightFrameFile(
        file=arguments.picture.name,
        stars=seen.stars,
        sky_ev100=seen.sky_ev100,
        magnitude=seen.magnitude,
        dark_sky_class=seen.dark_sky_class,
        trail_px=seen.trail_px,
        corner_trail_px=seen.corner_trail_px,
        star_width_px=seen.width_px,
        told=list(next_time(seen)),
    )
    print_json(found.model_dump(mode="json"))
    return 0


def _day(written: str) -> date:
    try:
        return date.fromisoformat(written)
    except ValueError:
        raise BadInput(f"Write the date as 2027-03-20, not {written}.", "date") from None
