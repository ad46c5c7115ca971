"""There is always a way on: random briefs of any situation, each way solved anew and safe."""

import unittest

import numpy as np

from oxlen.core.decisions.exposure.ask import LAMPS, LENS_FILTERS
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.plan import plan
from oxlen.core.decisions.scene.named import names_an_arc, names_the_sun
from oxlen.core.decisions.solver.outcome import SpotState
from oxlen.core.decisions.surroundings.ask import (
    SCENE_LIGHT_WORDS,
    STAND_WORDS,
    SURROUNDINGS,
    Surroundings,
)
from oxlen.core.motion.subject import Mover
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief, ask_freeze, ask_output, replace
from tests.core.random_briefs import random_brief
from tests.counts import seeds

WHERRY = shipped_profile("wherry-3").to_phone()
NAMES = ("hull", "singer", "fish", "fireworks", "the train", "drones", "gull", "the Moon", "people")
GLARES = ("the low sun", "welding arc", "partial solar eclipse")
LIT = {"light", "lamp", "flash", "fill", "steady_lamp", "hour"}
FINE = (SpotState.AS_ASKED, SpotState.GIVEN_UP)


def any_situation(seed):
    """A random brief: its first spot may be named, glare, be seen from a deck, in other light."""
    draw, made = np.random.default_rng(seed + 10**6), random_brief(seed)
    first, *others = made.readings_measured
    kind = int(draw.integers(6))
    if kind < 3:
        first = replace(first, name=str(draw.choice(NAMES)))
    elif kind == 3:
        glare = str(draw.choice(GLARES))
        others.append(PlacedReading("keep-bright", float(draw.uniform(20, 31)), name=glare))
    lit_by = str(draw.choice([*SCENE_LIGHT_WORDS, ""])) or None
    scene = Surroundings(stand=str(draw.choice([*STAND_WORDS])), lit_by=lit_by)
    made = replace(made, readings=(first, *others))
    if kind == 5:
        return made.lit(float(draw.uniform(-3, 3)))
    return made.asking(SURROUNDINGS, scene) if kind == 4 else made


def parts_of(trade):
    return set(trade.id.split("+"))


class WaysOn(unittest.TestCase):
    def test_every_collision_has_a_way_on_that_is_true_and_safe(self):
        collided = 0
        for seed in seeds(120, 5000):
            brief = any_situation(seed)
            decided = plan(brief)
            if decided.conflict is None:
                continue
            collided += 1
            with self.subTest(seed):
                self.assertTrue(decided.trades, decided.conflict.sentence)
                ids = [trade.id for trade in decided.trades]
                self.assertEqual(len(ids), len(set(ids)))
                for trade in decided.trades:
                    self.assert_true(decided, trade)
                    self.assert_safe(decided.brief, trade)
        self.assertGreater(collided, 60)

    def assert_true(self, decided, trade):
        """It changes something, and what it changes is solved with every spot fine."""
        self.assertNotEqual(trade.text, "")
        self.assertTrue(all(spot.state in FINE for spot in trade.outcome), trade.id)
        if trade.on_auto:
            return
        self.assertNotEqual(trade.brief, decided.brief, trade.id)
        again = plan(trade.brief)
        self.assertIsNone(again.conflict, trade.id)
        self.assertEqual(
            (again.slip.iso, again.slip.shutter_s), (trade.slip.iso, trade.slip.shutter_s), trade.id
        )

    def assert_safe(self, brief, trade):
        """Nothing that hurts an eye, a singer, a driver or a gull; no tripod on a deck."""
        names = [reading.name for reading in brief.readings]
        parts = parts_of(trade)
        if any(names_the_sun(name) or names_an_arc(name) for name in names):
            after = [reading.name for reading in trade.brief.readings]
            if any(names_the_sun(name) or names_an_arc(name) for name in after):
                worn = set(trade.brief[LENS_FILTERS]) - set(brief[LENS_FILTERS])
                self.assertTrue(all("solar" in worn_filter.name for worn_filter in worn), trade.id)
                self.assertEqual(trade.brief.light_shift_stops, brief.light_shift_stops)
                self.assertLessEqual(trade.brief.lens.focal35_mm, brief.lens.focal35_mm)
        if any(name in ("singer", "fish", "the train", "gull", "the Moon") for name in names):
            self.assertFalse(parts & LIT - {"hour"}, trade.id)
            self.assertNotIn("still", parts)
        if any(name in ("singer", "fireworks", "drones", "the Moon") for name in names):
            self.assertNotIn("hour", parts)
        if brief[SURROUNDINGS].stand != "ground" and "firm_ground" not in parts:
            self.assertFalse(parts & {"tripod", "brace", "bracket"}, trade.id)
        if brief[SURROUNDINGS].lit_by == "stage":
            self.assertFalse(parts & {"lamp", "steady_lamp", "light", "hour"}, trade.id)


class DarkDetail(unittest.TestCase):
    """The darkest detail to hold never decides over all the rest."""

    def planned(self, tree_ev100, floor=10.0):
        lights = PlacedReading("subject", 2.5, 0.0, name="lights")
        trees = PlacedReading("keep-dark", tree_ev100, -3.0, name="trees")
        boat = ask_freeze("boat", Mover(1.0, 16.0))
        return plan(
            ask_brief(
                WHERRY,
                readings=(lights, trees),
                support="handheld",
                freeze=(boat,),
                output=ask_output(snr_floor=floor),
            )
        )

    def test_grainy_and_black_are_offered_with_what_they_cost(self):
        ways = {trade.id: trade for trade in self.planned(-1.0).trades}
        self.assertIn("SNR", ways["grainy"].cost)
        self.assertLess(ways["grainy"].figures.snr_dark, 10.0)
        black = {trade.id: trade for trade in self.planned(-4.0).trades}["black"]
        dark = next(spot for spot in black.outcome if spot.name == "trees")
        self.assertIs(dark.state, SpotState.GIVEN_UP)
        self.assertLess(dark.lands_stops, -6.0)
        self.assertIn(f"{-dark.misses_stops:.1f} stops darker", black.cost)

    def test_any_dark_spot_leaves_a_way_on(self):
        for tree_ev100 in np.arange(-10.0, 2.0, 0.5):
            decided = self.planned(float(tree_ev100))
            with self.subTest(tree_ev100):
                self.assertTrue(decided.conflict is None or decided.trades)

    def test_what_is_given_up_by_name_decides_nothing_any_more(self):
        decided = self.planned(-4.0)
        black = next(trade for trade in decided.trades if trade.id == "black")
        self.assertNotIn("noise_dark", {limit.id for limit in plan(black.brief).search.limits})
        self.assertIsNone(black.brief[LAMPS])
