"""Limits of holding, motion, lamps and noise, by numbers worked by hand."""

import math
import unittest

import numpy as np

from oxlen.core.compute.registry import computation
from oxlen.core.decisions.exposure.ask import MOTION, OUTPUT, SKY, Hold, Strategy
from oxlen.core.decisions.exposure.limits.noise import NOISE_DARK
from oxlen.core.decisions.exposure.limits.show import NO_TIME_S
from oxlen.core.decisions.exposure.scene_ask import Sky
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.plan import plan, searched
from oxlen.core.decisions.sequence.ask import FRAMES, Frames
from oxlen.core.decisions.solver.frozen import tolerated_blur_um
from oxlen.core.decisions.solver.snr import NO_ISO, iso_ceiling, output_gain, tone_snr
from oxlen.core.errors import NotFound, OutOfRange
from oxlen.core.hold.burst import burst_stops, share_sharp
from oxlen.core.hold.hand import keep_one_of
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.kit.uses import use_of
from oxlen.core.motion.looks import look_of, vanishing_shutter_s
from oxlen.core.motion.presets import mover_preset
from oxlen.core.motion.subject import Mover, approach_shift_mm
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief, ask_freeze, ask_lamp, ask_output, ask_show, replace
from tests.core.random_briefs import random_brief
from tests.counts import seeds

WHERRY = shipped_profile("wherry-3").to_phone()


def brief(ev=8.0, **wishes):
    """A brief on the Wherry's main lens: f 5.66 mm, 4080 × 3060 pixels of 2 µm."""
    return ask_brief(WHERRY, readings=(PlacedReading("subject", ev),), **wishes)


def limit(made, limit_id):
    """The limit of that id; None when there is none."""
    return next((item for item in searched(made).limits if item.id == limit_id), None)


class Holding(unittest.TestCase):
    def test_burst_stretches_the_hand_limit_as_its_chance_says(self):
        for frames in (2, 6, 12):
            stops = burst_stops(frames)
            self.assertAlmostEqual(keep_one_of(share_sharp(stops), frames), 0.9, places=9)
        # Tries are not quite independent: however many, nothing is advised past two stops.
        self.assertEqual(burst_stops(200), 2.0)
        shares = [float(share_sharp(past)) for past in (0.0, 1.0, 2.0)]
        np.testing.assert_allclose(shares, [0.9, 0.55, 0.14], atol=0.005)
        single, burst = (limit(brief(hold=Hold(n)), "hold").high for n in (1, 6))
        self.assertAlmostEqual(math.log2(burst / single), burst_stops(6))

    def test_own_stabiliser_and_risk_count(self):
        self.assertAlmostEqual(limit(brief(hold=Hold(stabiliser_stops=1)), "hold").high, 2 / 24)
        self.assertAlmostEqual(limit(brief(hold=Hold(risk_stops=1)), "hold").high, 16 / 24)

    def test_no_hand_limit_on_a_tripod_or_while_panning(self):
        panned = (ask_freeze("rider", Mover(6, 8), pan_residual_share=0.06),)
        self.assertIsNone(limit(brief(support="tripod"), "hold"))
        self.assertIsNone(limit(brief(freeze=panned), "hold"))


class Freezing(unittest.TestCase):
    # Blur rate of 1.4 m/s at 5 m: 5660·1.4/(5 − 0.00566) = 1586.6 µm/s.
    WALKER = ask_freeze("walker", Mover(1.4, 5.0))

    def test_by_circle_pixel_and_output(self):
        circle = math.hypot(4080, 3060) * 2 / 1500
        rows = [
            (self.WALKER, circle),
            (replace(self.WALKER, tolerance=3000.0), circle / 2),
            (replace(self.WALKER, sharp_by="pixel"), 4.0),
            (replace(self.WALKER, sharp_by="output"), 2 * 3060 * 2 / 1440),
        ]
        for freeze, blur_um in rows:
            with self.subTest(freeze.sharp.by, tolerance=freeze.sharp.value):
                found = limit(brief(freeze=(freeze,)), "freeze").high
                self.assertAlmostEqual(found, blur_um / (5660 * 1.4 / (5 - 0.00566)), places=9)

    def test_straight_on_grows_until_the_circle_is_full(self):
        made = brief(freeze=(ask_freeze("runner", Mover(4, 8, 0.0)),))
        found = limit(made, "freeze")
        shift = approach_shift_mm(0.25 * 3060 * 0.002, 4.0, found.high, distance_m=8.0)
        self.assertAlmostEqual(shift * 1000, math.hypot(4080, 3060) * 2 / 1500)
        self.assertEqual(found.computation, "approach_motion")

    def test_a_pan_leaves_its_residual(self):
        still = limit(brief(freeze=(self.WALKER,)), "freeze").high
        panned = replace(self.WALKER, pan_residual_share=0.05)
        self.assertAlmostEqual(limit(brief(freeze=(panned,)), "freeze").high, 20 * still)

    def test_several_movers_have_limits_of_their_own(self):
        made = brief(freeze=(self.WALKER, ask_freeze("boat", Mover(3, 40))))
        self.assertIsNotNone(limit(made, "freeze-2"))
        self.assertEqual(plan(made).binding & {"freeze", "freeze-2"}, {"freeze"})


class Showing(unittest.TestCase):
    def test_streak_bounds_are_shares_of_the_height(self):
        found = limit(brief(show=(ask_show("sluice", Mover(2, 6), look_of("texture")),)), "show")
        rate = 5660 * 2 / (6 - 0.00566)
        self.assertAlmostEqual(found.low, 0.1 * 6120 / rate)
        self.assertAlmostEqual(found.high, 0.4 * 6120 / rate)

    def test_averaged_frames_share_the_time(self):
        sluice = (ask_show("sluice", Mover(2, 6), look_of("soft")),)
        item = limit(brief(show=sluice), "show").low
        eight = limit(brief(show=sluice, frames=Frames(8, 0.1)), "show").low
        self.assertAlmostEqual(8 * eight + 7 * 0.1, item)

    def test_words_for_what_no_shutter_gives(self):
        texture = ask_show("it", Mover(2, 6), look_of("texture"))
        rows = [
            ({"show": (texture,), "frames": Frames(40, 0.3)}, "40 copies of it, not flow"),
            (
                {"show": (replace(texture, width_m=2.0),), "frames": Frames(9, 0.2)},
                "9 frames have 1.6 s of gaps between them; as threads it takes 1.3 s in all",
            ),
            ({"show": (replace(texture, share_min=0.5),)}, "needs 1.6 s, the longest allows only"),
            ({"show": (texture,)}, "from 0.32 s to 1.3 s"),
        ]
        for wishes, words in rows:
            self.assertIn(words, limit(brief(**wishes), "show").reason)

    def test_dark_crossers_vanish_and_lamps_do_not(self):
        self.assertAlmostEqual(vanishing_shutter_s(7.0, 3.0, -1.0), 7 * 0.5 / 0.06)
        self.assertGreater(vanishing_shutter_s(0.2, 3.0, 8.0), 800)


class Lamps(unittest.TestCase):
    def test_only_whole_pulses_and_long_shutters(self):
        found = limit(brief(flicker=ask_lamp(100.0, "lamps", mains_hz=50)), "flicker")
        self.assertEqual(found.low, 0.01)
        self.assertNotIn(0.0125, found.only)
        self.assertIn(0.3, found.only)
        self.assertIn(plan(brief(flicker=ask_lamp(100.0, "lamps"))).slip.shutter_s, found.only)

    def test_no_even_step_is_a_conflict_with_bands_as_a_way_out(self):
        made = brief(14.0, flicker=ask_lamp(1.0, "a beacon", tolerance=0.001))
        made = replace(made, strategy=Strategy(iso_cap=200))
        decision = plan(made)
        self.assertIn("flicker", decision.conflict.between)
        self.assertIn("accept_bands", {trade.id for trade in decision.trades})


class Noise(unittest.TestCase):
    def test_the_ceiling_is_where_snr_meets_the_floor(self):
        made = brief(output=ask_output(snr_floor=10.0))
        for stops, floor in ((0.0, 10.0), (-3.0, 10.0), (0.0, 40.0), (-6.0, 3.0)):
            ceiling = iso_ceiling(made, stops, floor)
            found = float(tone_snr(made, np.array([ceiling]), stops)[0])
            self.assertAlmostEqual(found, floor, delta=1e-3 * floor)

    def test_averaging_four_frames_doubles_a_shot_noise_limited_snr(self):
        item, four = (
            float(tone_snr(brief(frames=Frames(n)), np.array([400.0]), -2.0)[0]) for n in (1, 4)
        )
        self.assertAlmostEqual(four / item, 2.0, delta=0.02)

    def test_unreachable_snr_leaves_no_iso(self):
        # Fixed pattern of 0.6 % caps a pixel's SNR at 167, an output pixel's at 354.
        self.assertLess(iso_ceiling(brief(), 0.0, 900.0), 1)
        self.assertIsNotNone(plan(brief(output=ask_output(snr_floor=900.0))).conflict)

    def test_more_pixels_at_the_output_show_more_noise(self):
        small, large = (
            iso_ceiling(brief(output=ask_output(*size)), 0.0, 20.0)
            for size in ((960, 720), (3508, 2480))
        )
        self.assertGreater(small, 2 * large)


class Filters(unittest.TestCase):
    def test_glass_lengthens_the_shutter_by_its_factor(self):
        bare, dark = (
            plan(brief(10.0, support="tripod", glass_on=glass)).slip
            for glass in ((), (LensFilter("ND 64", 64.0),))
        )
        self.assertAlmostEqual(math.log2(dark.shutter_s / bare.shutter_s), 6, delta=0.35)
        self.assertAlmostEqual(dark.ev100_set, 10.0, delta=0.21)

    def test_the_glass_needed_is_named_and_from_the_kit_first(self):
        soft = (ask_show("sluice", Mover(2, 6), look_of("soft")),)
        made = brief(12.0, support="tripod", show=soft)
        # 2.10 s at ISO 50 and f/1.8 expose for EV 1.62: 10.4 stops to lose.
        self.assertAlmostEqual(plan(made).conflict.short_by_stops, 10.38, places=1)
        two = (LensFilter("Pale", 4.0), LensFilter("Grey", 1000.0))
        rows = (((), "ND 2000"), ((LensFilter("Dark", 4000.0),), "Dark"), (two, "Pale and Grey"))
        for kit, name in rows:
            trades = plan(replace(made, glass_at_hand=kit)).trades
            self.assertIn(name, next(t.text for t in trades if t.id == "nd"))

    def test_what_is_at_hand_comes_before_waiting_and_a_purchase_comes_last(self):
        soft = (ask_show("sluice", Mover(2, 6), look_of("soft")),)
        made = brief(7.0, support="tripod", show=soft)
        self.assertEqual([t.id for t in plan(made).trades], ["own_filter", "hour", "nd"])
        # The filter that is in the kit waits for nobody.
        kit = (LensFilter("Grey", 64.0),)
        ids = [t.id for t in plan(replace(made, glass_at_hand=kit)).trades]
        self.assertLess(ids.index("nd"), ids.index("hour"))


class Refusals(unittest.TestCase):
    def test_unknown_names_and_absurd_numbers(self):
        for find in (look_of, mover_preset, use_of):
            with self.assertRaisesRegex(NotFound, "Use one of"):
                find("nothing")
        for make in (
            lambda: Hold(burst=0),
            lambda: LensFilter("hole", 0.5),
            lambda: ask_output(snr_floor=0),
            lambda: Frames(0),
            lambda: ask_lamp(0.5, "slow"),
        ):
            with self.assertRaises(OutOfRange):
                make()


class Opened(unittest.TestCase):
    """A limit opened to its formula shows its own bound."""

    def bound_by_formula(self, made, item):
        """The bound as the formula behind a limit gives it, and the bound itself."""
        out = computation(item.computation).run(item.inputs)
        if item.computation in ("handheld_limit", "max_shutter_sharp"):
            return out["t_max"], item.high
        if item.computation in ("shutter_for_streak", "ripples_passed"):
            frames, bound = made[FRAMES], item.low if item.low is not None else item.high
            return out["t"], frames.count * bound + (frames.count - 1) * frames.gap_s
        if item.computation == "approach_motion":
            return out["shift_mm"] * 1000, tolerated_blur_um(made, made[MOTION][0])
        if item.computation == "place_exposure":
            return out["ev100_set"], (item.low + item.high) / 2
        if item.computation == "headroom_check":
            return item.inputs["ev100_set"] - out["margin_stops"], item.low
        self.assertEqual(item.computation, "snr_mid_and_tone")
        floor = made[OUTPUT].snr_floor
        return out["snr"] * output_gain(made), min(
            floor, 10.0
        ) if item.kind is NOISE_DARK else floor

    def test_formulas_give_the_bounds_they_are_shown_for(self):
        seen = set()
        for seed in seeds(200, 400):
            made = random_brief(seed, lens_id=None)
            for item in searched(made).limits:
                if item.computation in (None, "flicker_safe_ladder") or item.high == NO_ISO:
                    continue
                if item.computation == "place_exposure" and None in (item.low, item.high):
                    continue
                if NO_TIME_S in (item.low, item.high):
                    self.assertNotIn("1/1000000 s", item.reason)
                    continue
                found, wanted = self.bound_by_formula(made, item)
                seen.add(item.computation)
                with self.subTest(item.id, seed=seed):
                    self.assertAlmostEqual(found / wanted if wanted else found + 1, 1, places=5)
        self.assertEqual(len(seen), 8)

    def test_lamps_on_the_mains_open_to_their_whole_pulses(self):
        for hertz in (50, 60):
            lamp = ask_lamp(2.0 * hertz, "a lamp", mains_hz=float(hertz))
            item = limit(brief(flicker=lamp), "flicker")
            steps = computation(item.computation).run(item.inputs)
            whole = next(value for value in steps.values() if isinstance(value, list))
            self.assertAlmostEqual(whole[0], 1 / (2 * hertz))
            for step in item.only:
                if step <= 0.5:
                    off = min(abs(math.log2(step / each)) for each in whole)
                    self.assertLess(off, 0.08)


class StarsNearThePole(unittest.TestCase):
    def test_aimed_at_the_pole_the_edge_of_the_frame_counts(self):
        def longest_s(declination_deg):
            made = brief(-8.0, support="tripod").asking(SKY, Sky(declination_deg=declination_deg))
            return limit(made, "stars").high

        # NPF grows with 1/cos δ; half of this lens's long side sees 36°, so no more than 54° count.
        level = longest_s(0.0)
        self.assertAlmostEqual(longest_s(40.0), level / math.cos(math.radians(40)), delta=0.01)
        self.assertAlmostEqual(longest_s(-40.0), longest_s(40.0))
        self.assertAlmostEqual(longest_s(89.0), level / math.cos(math.radians(54)), delta=0.4)
        self.assertEqual(longest_s(89.0), longest_s(75.0))
