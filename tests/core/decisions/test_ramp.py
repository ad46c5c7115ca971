"""Light that changes while a series is shot: its rate, and the steps the run goes through."""

import itertools
import unittest

import numpy as np

from oxlen.core.checklist.steps import run_list
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.plan import plan
from oxlen.core.decisions.sequence.ask import Frames
from oxlen.core.decisions.sequence.ramp import ramp_steps, rate_stops_min
from oxlen.core.errors import BadInput
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief

WHERRY = shipped_profile("wherry-3").to_phone()


def decided(rate, *, count=60, gap_s=20.0, ev100=9.0):
    frames = Frames(count=count, gap_s=gap_s, combine="series", ramp_stops_min=rate)
    readings = [PlacedReading("subject", ev100)]
    return plan(ask_brief(WHERRY, readings=readings, support="tripod", frames=frames))


class Ramp(unittest.TestCase):
    def test_the_rate_is_the_slope_of_all_readings(self):
        draw = np.random.default_rng(2)
        times = np.linspace(0, 1200, 13)
        light = 9.0 - 0.25 * times / 60 + draw.normal(0, 0.05, 13)
        rate = rate_stops_min(list(zip(times, light, strict=True)))
        self.assertAlmostEqual(rate, -0.25, delta=0.02)
        for few in ([(0.0, 9.0)], [(0.0, 9.0), (5.0, 8.0)]):
            with self.assertRaises(BadInput):
                rate_stops_min(few)

    def test_every_frame_is_exposed_within_half_a_step_as_the_light_falls(self):
        item = decided(-0.2)
        steps = ramp_steps(item)
        self.assertEqual((steps[0].first, steps[-1].last), (1, 60))
        self.assertEqual(steps[0].shutter_s, item.slip.shutter_s)
        half = item.brief.mode.manual.half_step_stops
        for before, after in itertools.pairwise(steps):
            self.assertEqual(before.last + 1, after.first)
            self.assertGreaterEqual(after.shutter_s * after.iso, before.shutter_s * before.iso)
        self.assertTrue(all(abs(step.residual_stops) <= half + 0.02 for step in steps))
        in_all = np.log2(steps[-1].shutter_s * steps[-1].iso / steps[0].shutter_s / steps[0].iso)
        self.assertAlmostEqual(in_all, 0.2 * steps[-1].at_s / 60, delta=0.35)

    def test_a_shutter_that_would_run_into_the_next_frame_gives_way_to_iso(self):
        steps = ramp_steps(decided(-1.0, count=40, gap_s=20.0, ev100=3.0))
        self.assertLessEqual(max(step.shutter_s for step in steps), 20.0)
        self.assertGreater(steps[-1].iso, steps[0].iso)

    def test_the_run_tells_the_steps_and_steady_light_takes_one(self):
        shot = [step for step in run_list(decided(-0.2)) if step.part == "shoot"]
        ramped = [step for step in shot if step.id.startswith("ramp")]
        self.assertGreater(len(ramped), 3)
        self.assertIn("Frames 1 to", ramped[0].text)
        self.assertIn("from the start", ramped[1].text)
        self.assertEqual(sum(step.frames for step in ramped), 60)
        still = [step for step in run_list(decided(0.0)) if step.part == "shoot"]
        self.assertEqual(still[-1].frames, 60)
        self.assertEqual(len(ramp_steps(decided(0.0))), 1)
        line = decided(-0.2).dialled["frames"]
        self.assertIn("The light falls by 0.2 stops a minute", line.reason)
