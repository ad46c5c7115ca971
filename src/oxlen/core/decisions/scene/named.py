"""What the names in a brief say about its surroundings: a table of things, and what each brings."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from oxlen.core.decisions.surroundings.ask import Hazard

Trait = Literal["unlit", "own_hour", "venue", "alive", "never_poses", "sky", "moves"]
"""*unlit*: nobody can or should light it. *own_hour*: another hour brings another picture. *venue*:
lit by lamps of others. *alive*: never still from frame to frame. *never_poses*: cannot be asked to
hold still. *sky*: so far that focus is at infinity. *moves*: its frames do not fit together."""


@dataclass(frozen=True)
class Thing:
    """Things of one sort: the words they are named by, the care they call for, their traits."""

    words: tuple[str, ...]
    hazard: Hazard | None = None
    traits: frozenset[Trait] = frozenset()


def _thing(words: str, hazard: Hazard | None = None, *traits: Trait) -> Thing:
    return Thing(tuple(words.split(", ")), hazard, frozenset(traits))


THINGS: tuple[Thing, ...] = (
    _thing(
        "singer, band, drummer, guitarist, musician, actor, dancer, performer, concert, gig, "
        "stage, choir, led wall, spotlight",
        "strobe",
        "venue",
        "unlit",
        "own_hour",
    ),
    _thing("strobe, strobe light, disco", "strobe", "venue", "unlit", "own_hour"),
    _thing("skater, rink, hockey", "ice", "venue", "unlit", "own_hour", "moves"),
    _thing("ice, snow, glacier, frozen lake", "ice"),
    _thing(
        "aquarium, fish, tank, shark, jellyfish, octopus",
        None,
        "venue",
        "unlit",
        "own_hour",
        "alive",
        "never_poses",
        "moves",
    ),
    _thing("firework, rocket", "fireworks", "unlit", "own_hour", "moves", "never_poses"),
    _thing("lightning, thunder, thunderstorm", "storm", "unlit", "own_hour"),
    _thing(
        "moon, lunar eclipse, aurora, northern lights, milky way, comet, planet, stars",
        None,
        "sky",
        "unlit",
        "own_hour",
        "never_poses",
    ),
    _thing("drone", "drone", "unlit", "own_hour", "moves", "never_poses"),
    _thing(
        "train, locomotive, tram, railway, railway track, rails, level crossing",
        "railway",
        "unlit",
        "own_hour",
        "never_poses",
    ),
    _thing("welding, welder, weld, welding arc", "welding", "own_hour"),
    _thing(
        "gull, heron, seal, otter, fox, deer, owl, bird, eagle, swan, bat, badger, kingfisher, "
        "osprey, whale, dolphin, puffin, goose, geese, duck, hare",
        "wildlife",
        "unlit",
        "alive",
        "never_poses",
        "moves",
    ),
    _thing("cat, dog, horse, pony, cow, sheep, goat", None, "alive", "never_poses", "moves"),
    _thing("bee, butterfly, spider, snail, insect, fly, beetle", None, "alive", "never_poses"),
    _thing("mouth, tooth, teeth, patient, eye, skin, wound, baby, child, face", None, "alive"),
    _thing("crowd, audience, market, festival, parade, people", "crowd", "moves"),
    _thing("night market", "crowd", "venue", "own_hour", "unlit", "moves"),
    _thing("stall", "crowd", "venue"),
    _thing("cliff, ledge, quarry, precipice", "cliff"),
    _thing(
        "quay, jetty, weir, waterfall, falls, sluice, swell, surf, tide, wave, river, rapids, "
        "pontoon",
        "water",
    ),
    _thing("traffic, road, motorway, car, motorbike", "traffic"),
)
SUN = re.compile(
    r"(the )?((low|setting|rising|midday|noon|hazy|partial|partially|total|annular|eclipsed|"
    r"crescent|bright) )*(sun|sun's disc|sun disc|sun disk|solar disc|solar disk)( in eclipse)?"
)
ECLIPSE = re.compile(r"(solar|sun|partial solar|total solar|annular) eclipse|eclipse of the sun")
ARC = re.compile(r"\b(electric |welding )?arc\b")


@lru_cache(maxsize=4096)
def things_in(name: str) -> tuple[Thing, ...]:
    """The sorts of things that a name names, singular or plural."""
    text = name.casefold()
    return tuple(thing for thing in THINGS if _pattern(thing).search(text))


@lru_cache(maxsize=64)
def _pattern(thing: Thing) -> re.Pattern[str]:
    words = "|".join(re.escape(word) for word in thing.words)
    return re.compile(rf"\b({words})(s|es|\u2019s|'s)?\b")


def names_the_sun(name: str) -> bool:
    """Whether a name is that of the Sun itself, and not of something it shines on.

    >>> names_the_sun("the low Sun"), names_the_sun("hull in the sun")
    (True, False)
    """
    text = name.casefold().strip()
    return SUN.fullmatch(text) is not None or ECLIPSE.search(text) is not None


def names_an_arc(name: str) -> bool:
    """Whether a name is that of an electric arc.

    >>> names_an_arc("welding arc"), names_an_arc("arch of the bridge")
    (True, False)
    """
    return ARC.search(name.casefold()) is not None


def traits_of(names: Iterable[str]) -> frozenset[Trait]:
    """All that some names say of what they name."""
    found = (thing.traits for name in names for thing in things_in(name))
    return frozenset().union(*found)
