"""What many takes say, and the chance of one: against takes drawn from known figures."""

import unittest

import numpy as np

from oxlen.core.decisions.chance import chance_of
from oxlen.core.decisions.exposure.ask import SUPPORT
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.plan import plan
from oxlen.core.hold.burst import share_sharp
from oxlen.core.review.learned import (
    TakeLesson,
    accepted_snr,
    calibration,
    hold_learned,
    meter_learned,
    usual_mistakes,
)
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief

TRUE_STOPS = 3.1


def shots(count, seed=1):
    """Takes by a hand whose limit is known, at shutters around it."""
    draw = np.random.default_rng(seed)
    for past in draw.uniform(-3, 3, count):
        sharp = draw.random() < share_sharp(past)
        shutter_s = 2.0 ** (TRUE_STOPS + past) / 24
        yield TakeLesson(shutter_s=shutter_s, focal35_mm=24.0, blur="none" if sharp else "shake")


class Hand(unittest.TestCase):
    def test_the_limit_is_found_within_its_interval(self):
        inside = 0
        for seed in range(20):
            found = hold_learned(list(shots(60, seed)))
            inside += abs(found.stops - TRUE_STOPS) <= found.plus_minus
        self.assertGreaterEqual(inside, 17)
        many = hold_learned(list(shots(600)))
        self.assertAlmostEqual(many.stops, TRUE_STOPS, delta=0.3)
        self.assertLess(many.plus_minus, 0.4)

    def test_too_few_and_all_alike_say_nothing(self):
        self.assertIsNone(hold_learned(list(shots(12))))
        sharp = [TakeLesson(shutter_s=0.01, focal35_mm=24.0, blur="none")] * 40
        self.assertIsNone(hold_learned(sharp))
        rested = [TakeLesson(support="tripod", shutter_s=1.0, focal35_mm=24.0, blur="shake")] * 40
        self.assertIsNone(hold_learned(rested))


class Meter(unittest.TestCase):
    def test_the_bias_comes_from_kept_takes_whose_light_stayed(self):
        draw = np.random.default_rng(2)
        true = [TakeLesson(kept=True, off=((0.4 + e, 0.6),)) for e in draw.normal(0, 0.15, 40)]
        other = [
            TakeLesson(kept=True, light="light_changed", off=((-2.0, 0.6),)),
            TakeLesson(kept=False, off=((-2.0, 0.6),)),
        ] * 30
        found = meter_learned(true + other)
        self.assertEqual(found.takes, 40)
        self.assertAlmostEqual(found.stops, 0.4, delta=found.plus_minus)
        self.assertLess(found.plus_minus, 0.12)
        self.assertIsNone(meter_learned(true[:5]))
        # Once in use, later takes are as predicted: the bias stays what it was.
        later = [TakeLesson(kept=True, off=((0.0, 0.6),), taught_stops=0.4)] * 40
        self.assertAlmostEqual(meter_learned(true + later).stops, 0.4, delta=0.05)

    def test_noise_mistakes_and_calibration_are_counted(self):
        kept = [TakeLesson(kept=True, snr=float(snr), chance=0.9) for snr in range(10, 50)]
        self.assertAlmostEqual(accepted_snr(kept)[0], 13.9)
        shaken = [TakeLesson(kept=False, change="steady", chance=0.6)] * 3
        self.assertEqual(usual_mistakes([*kept, *shaken]), [("steady", 3)])
        stated = [TakeLesson(off=((0.1, 0.5), (-0.7, 0.5), (0.2, None)))]
        reported = calibration([*kept, *shaken, *stated])
        self.assertEqual((reported.stated, reported.held), (2, 1))
        self.assertEqual(reported.chances, ((0.5, 0.7, 3, 0), (0.85, 0.95, 40, 40)))


class Chances(unittest.TestCase):
    def brief(self, plus_minus, support="tripod"):
        phone = shipped_profile("wherry-3").to_phone()
        reading = PlacedReading("subject", 9.0, 0.0, name="hull", plus_minus_stops=plus_minus)
        return ask_brief(phone, readings=(reading,)).asking(SUPPORT, support)

    def test_a_sure_reading_on_a_tripod_comes_out_and_a_guess_gains_by_a_test(self):
        sure = chance_of(plan(self.brief(0.3)))
        self.assertGreaterEqual(sure.share, 0.96)
        self.assertNotIn("test", sure.words)
        guess = chance_of(plan(self.brief(3.0)))
        # Within a stop at 1.5 stops sigma: erf(1/1.5/√2) = 0.495, less what the steps miss.
        self.assertAlmostEqual(guess.share, 0.495, delta=0.03)
        self.assertGreater(guess.tested_share, 0.9)
        self.assertIn("After a test shot", guess.words)

    def test_the_hand_lowers_it(self):
        held = chance_of(plan(self.brief(0.3, "handheld")))
        self.assertLessEqual(held.share, chance_of(plan(self.brief(0.3))).share)
