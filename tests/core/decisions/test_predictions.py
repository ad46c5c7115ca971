"""What a pair of steps is reported to give, against the formulas worked by hand."""

import math
import unittest

import numpy as np

from oxlen.core.decisions.exposure.ask import LENS_FILTERS, MOTION, Hold, Strategy
from oxlen.core.decisions.exposure.limits.hold import steadier_offers
from oxlen.core.decisions.framework.brief import PlacedReading, SceneTones
from oxlen.core.decisions.plan import plan, searched
from oxlen.core.decisions.sequence.ask import Frames
from oxlen.core.decisions.sequence.bracket import tonal_span
from oxlen.core.decisions.solver.frontier import compromise, figures_of_steps
from oxlen.core.decisions.solver.grid import excess_stops
from oxlen.core.decisions.solver.predict import hand_blur_px, motion_blur_px, share_brighter
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.motion.looks import look_of
from oxlen.core.motion.subject import Mover
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief, ask_freeze, ask_output, ask_show, replace

WHERRY = shipped_profile("wherry-3").to_phone()
MAIN = WHERRY.lens("main")
MODE = MAIN.mode(None)
SHORT_SIDE_PX = min(MODE.width_px, MODE.height_px)
CIRCLE_PX = math.hypot(MODE.width_px, MODE.height_px) / 1500
TIMES_S = np.array([1 / 1000, 1 / 60, 0.5])


def brief(ev=8.0, **wishes):
    """A brief on the Wherry's main lens."""
    return ask_brief(WHERRY, readings=(PlacedReading("subject", ev),), **wishes)


class HandBlur(unittest.TestCase):
    def test_it_fills_the_circle_at_the_hand_limit_and_goes_with_time(self):
        limit_s = 2**MAIN.stabiliser_stops / MAIN.focal35_mm
        blur = hand_blur_px(brief(), limit_s * np.array([0.25, 1.0, 3.0]))
        np.testing.assert_allclose(blur, CIRCLE_PX * np.array([0.25, 1.0, 3.0]), rtol=1e-6)

    def test_a_rest_and_an_own_stabiliser_steady_it_by_their_stops(self):
        bare = hand_blur_px(brief(hold=Hold(stabiliser_stops=0.0)), TIMES_S)
        for wishes, stops in (
            ({"support": "braced", "hold": Hold(stabiliser_stops=0.0)}, 1.5),
            ({"hold": Hold(stabiliser_stops=2.5)}, 2.5),
            ({"support": "braced"}, MAIN.stabiliser_stops + 1.5),
        ):
            with self.subTest(wishes=wishes):
                steadied = hand_blur_px(brief(**wishes), TIMES_S)
                np.testing.assert_allclose(np.log2(bare / steadied), stops)

    def test_none_on_a_tripod_and_a_pan_counts_for_itself(self):
        panned = (ask_freeze("dinghy", Mover(4.0, 20.0), pan_residual_share=0.06),)
        for wishes in ({"support": "tripod"}, {"freeze": panned}):
            np.testing.assert_array_equal(hand_blur_px(brief(**wishes), TIMES_S), 0)


class MotionBlur(unittest.TestCase):
    def blur(self, *movers, **more):
        freeze = tuple(ask_freeze(f"mover {i}", mover, **more) for i, mover in enumerate(movers))
        return motion_blur_px(brief(freeze=freeze), TIMES_S)

    def test_what_crosses_smears_by_its_way_on_the_sensor(self):
        # f·v·t/(D − f), in pixels.
        on_sensor_mm = MAIN.focal_mm * 1.4 * TIMES_S / (9.0 - MAIN.focal_mm / 1000)
        wanted = 1000 * on_sensor_mm / MODE.pixel_pitch_um
        np.testing.assert_allclose(self.blur(Mover(1.4, 9.0)), wanted, rtol=1e-9)
        np.testing.assert_allclose(
            self.blur(Mover(1.4, 9.0), pan_residual_share=0.06), 0.06 * wanted, rtol=1e-3
        )

    def test_what_comes_on_grows_away_from_the_middle(self):
        # A point y off the axis moves to y·D/(D − v·t): by y/9 over 1 m of 10.
        y_px = 0.4 * SHORT_SIDE_PX
        for angle in (0.0, 180.0):
            found = self.blur(Mover(2.0, 10.0, angle), off_axis_share=0.4)
            moved = 2.0 * TIMES_S
            np.testing.assert_allclose(found, y_px * moved / (10.0 - moved), rtol=1e-6)
        # What would have passed the camera by the end is counted up to it.
        self.assertLess(float(self.blur(Mover(30.0, 10.0, 0.0))[-1]), 1e6)

    def test_the_fastest_counts_and_goes_with_the_hand_in_squares(self):
        both = self.blur(Mover(1.4, 9.0), Mover(6.0, 12.0))
        np.testing.assert_array_equal(both, self.blur(Mover(6.0, 12.0)))
        made = brief(freeze=(ask_freeze("walker", Mover(1.4, 9.0)),))
        found = figures_of_steps(searched(made), 100.0, 1 / 60)
        self.assertAlmostEqual(found.blur_px, math.hypot(found.hand_px, found.motion_px))
        self.assertAlmostEqual(found.blur_share, found.blur_px / SHORT_SIDE_PX)


class Steps(unittest.TestCase):
    def test_any_steps_get_the_figures_the_plan_would_give_them(self):
        decision = plan(brief(4.0, glass_on=(LensFilter("ND 8", 8.0),)))
        slip = decision.slip
        self.assertEqual(
            figures_of_steps(decision.search, slip.iso, slip.shutter_s), decision.figures
        )

    def test_the_noise_of_steps_off_the_aim_is_the_noise_of_their_light(self):
        search = searched(brief(8.0))
        at_mid = figures_of_steps(search, 100.0, 1.8**2 / 2**8)
        under = figures_of_steps(search, 100.0, 1.8**2 / 2**10)
        # A quarter of the light: half the SNR by shot noise alone, a little less with the rest.
        self.assertTrue(0.47 < under.snr_subject / at_mid.snr_subject < 0.53)

    def test_a_streak_counts_the_gaps_between_averaged_frames(self):
        show = (ask_show("sluice", Mover(2.0, 6.0), look_of("texture")),)
        made = brief(show=show, frames=Frames(4, 0.3))
        found = figures_of_steps(searched(made), 100.0, 0.1).streak_share
        elapsed = 4 * 0.1 + 3 * 0.3
        on_sensor_um = 1000 * MAIN.focal_mm * 2.0 * elapsed / (6.0 - MAIN.focal_mm / 1000)
        wanted = on_sensor_um / MODE.pixel_pitch_um / SHORT_SIDE_PX
        self.assertAlmostEqual(found, wanted, places=6)

    def test_shares_above_are_counted_from_the_bright_end(self):
        tones = SceneTones((2.0, 4.0, 6.0, 8.0), (0.5, 0.3, 0.2))
        found = share_brighter(tones, np.array([1.0, 4.0, 5.0, 6.0, 7.5, 9.0]))
        np.testing.assert_allclose(found, [1.0, 0.5, 0.35, 0.2, 0.05, 0.0])


class Compromises(unittest.TestCase):
    def test_it_is_the_least_of_all_pairs_and_cleaner_among_equals(self):
        walker = (ask_freeze("walker", Mover(1.4, 6.0)),)
        for made in (
            brief(2.0, freeze=walker, output=ask_output(snr_floor=30.0)),
            brief(8.0, show=(ask_show("swell", Mover(1.2, 12), look_of("glass")),)),
            brief(-3.0),
        ):
            search = searched(made)
            self.assertIsNone(search.preferred())
            pairs = search.pairs
            given = sum(np.maximum(0, excess_stops(limit, pairs)) for limit in search.limits)
            total = np.round(given + np.abs(pairs.residual_stops), 6)
            total[~search.bearable] = np.inf
            least = np.flatnonzero(total == total.min())
            cleanest = least[np.argmin(pairs.log_iso[least])]
            slip = compromise(search).slip
            with self.subTest(ev=made.readings[0].ev100):
                self.assertAlmostEqual(math.log2(slip.iso), float(pairs.log_iso[cleanest]))
                self.assertAlmostEqual(
                    math.log2(slip.shutter_s), float(pairs.log_shutter[cleanest])
                )


class Spans(unittest.TestCase):
    def test_a_scene_reaches_from_its_brightest_to_its_darkest_detail(self):
        readings = [("keep-bright", 13.0), ("keep-bright", 15.0), ("keep-dark", 7.0)]
        placed = (*(PlacedReading(role, ev) for role, ev in readings),)
        darker = (*placed, PlacedReading("keep-dark", 5.0))
        for given, stops in ((placed, 8.0), (darker, 10.0)):
            span = tonal_span(ask_brief(WHERRY, readings=given), 50.0)
            self.assertEqual((span.brightest_ev100, span.range_stops), (15.0, stops))
        # A strong colour clips before its light does.
        coloured = (*placed, PlacedReading("keep-bright", 14.0, channel_stops=1.5))
        self.assertEqual(
            tonal_span(ask_brief(WHERRY, readings=coloured), 50.0).brightest_ev100, 15.5
        )


class Offers(unittest.TestCase):
    def offered(self, made):
        return {trade.id: trade for trade in plan(made, ask=True).trades}

    def test_glass_is_taken_off_only_where_there_is_some(self):
        dark = {"ev": -1.0}
        worn = self.offered(brief(**dark, glass_on=(LensFilter("ND 8", 8.0),)))
        self.assertEqual(worn["no_glass"].brief[LENS_FILTERS], ())
        self.assertIn("Take off ND 8", worn["no_glass"].text)
        self.assertNotIn("no_glass", self.offered(brief(**dark)))

    def test_a_burst_is_offered_only_to_who_shoots_single_frames(self):
        for burst, offered in ((1, True), (3, False)):
            made = brief(-4.0, output=ask_output(snr_floor=20.0), hold=Hold(burst=burst))
            self.assertIsNotNone(plan(made).conflict)
            found = steadier_offers(plan(made).search, plan(made).conflict)
            self.assertEqual("burst" in {offer.id for offer in found}, offered)

    def test_accepted_blur_is_no_more_than_the_noise_makes_it(self):
        for mover, ev in (
            (Mover(6.0, 8.0, 0.0), 5.0),
            (Mover(6.0, 2.0, 180.0), 7.5),
            (Mover(1.4, 6.0), 5.0),
            (Mover(3, 5, 45), 6.0),
        ):
            made = brief(
                ev, freeze=(ask_freeze("cyclist", mover),), output=ask_output(snr_floor=30.0)
            )
            self.assertIsNotNone(plan(made).conflict)
            trade = self.offered(made)["accept_blur"]
            given = float(motion_blur_px(trade.brief, np.array([trade.slip.shutter_s]))[0])
            accepted = trade.brief[MOTION][0]
            with self.subTest(mover=mover):
                self.assertEqual(accepted.sharp.by, "pixel")
                self.assertAlmostEqual(accepted.sharp.value / given, 1.02, places=6)
                # A step shorter, and the noise floor has no ISO left for it.
                shutters = made.mode.manual.shutter_s
                shorter = shutters[shutters.index(trade.slip.shutter_s) - 1]
                closer = replace(trade.brief, strategy=Strategy(shutter_s=shorter))
                self.assertEqual(plan(closer).slip.shutter_s, trade.slip.shutter_s)
