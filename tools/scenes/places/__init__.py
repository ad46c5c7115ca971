"""The places of Kettle Reach, by id."""

from collections.abc import Callable

from tools.scenes.places import bench, creek, evening, litbox, night, shed, yard
from tools.scenes.render import Place

PLACES: dict[str, Callable[[], Place]] = {
    "yard-overcast": yard.overcast,
    "white-hull-sun": yard.white_hull,
    "tarred-shed": shed.inside,
    "dinghy-passing": creek.dinghy,
    "sluice": creek.sluice,
    "bronze-bench": bench.fittings,
    "varnish-tins": litbox.tins,
    "lantern-evening": evening.quay,
    "stars-over-slip": night.slip,
}
