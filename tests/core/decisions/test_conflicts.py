"""Conflict when nothing fits, and the words for it."""

import math
import unittest

from oxlen.core.decisions import limit_kinds
from oxlen.core.decisions.exposure.ask import Hold, Strategy
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.lens.ask import Framing
from oxlen.core.decisions.lens.comparison import lens_options
from oxlen.core.decisions.lens.moving import standing_m
from oxlen.core.decisions.plan import plan, searched
from oxlen.core.decisions.solver.outcome import SpotState
from oxlen.core.light.exposure import ev100
from oxlen.core.motion.looks import look_of
from oxlen.core.motion.subject import Mover
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief, ask_freeze, ask_lamp, ask_output, ask_show

WHERRY = shipped_profile("wherry-3").to_phone()
MANUAL = WHERRY.lens("main").mode(None).manual


def subject(ev):
    return PlacedReading("subject", ev)


def conflict(*readings, **wishes):
    return plan(ask_brief(WHERRY, readings=readings, **wishes)).conflict


class Conflicts(unittest.TestCase):
    def test_too_dark_is_short_by_the_light_that_the_bounds_leave_out(self):
        found = conflict(subject(-4.0), strategy=Strategy(iso_cap=800.0))
        hold_s = 2 ** WHERRY.lens("main").stabiliser_stops / WHERRY.lens("main").focal35_mm
        self.assertEqual((found.between, found.side), (("hold", "iso_cap"), "dark"))
        self.assertAlmostEqual(found.short_by_stops, float(ev100(1.8, hold_s, 800.0)) + 4.0)
        self.assertIn(f"{found.short_by_stops:.1f} stops too dark", found.sentence)

    def test_a_fixed_iso_leaves_the_shutter_alone_to_follow(self):
        strategy = Strategy(iso_fixed=200.0)
        decision = plan(ask_brief(WHERRY, readings=[subject(11.0)], strategy=strategy))
        wanted_s = 1.8**2 / 2**11 * 100 / 200
        nearest = min(MANUAL.shutter_s, key=lambda t: abs(math.log2(t / wanted_s)))
        self.assertEqual((decision.slip.iso, decision.slip.shutter_s), (200.0, nearest))
        iso = next(setting for setting in decision.dialled.settings if setting.field == "iso")
        self.assertEqual(iso.reason, "Your choice")
        dark = plan(ask_brief(WHERRY, readings=[subject(1.0)], strategy=strategy), ask=True)
        self.assertEqual(dark.conflict.between, ("hold", "iso_fixed"))
        freed = next(trade for trade in dark.trades if trade.id == "free_iso")
        self.assertGreater(freed.slip.iso, 200.0)
        bright = conflict(subject(16.0), strategy=Strategy(iso_fixed=3200.0))
        self.assertEqual((bright.between, bright.side), (("device_shutter", "iso_fixed"), "bright"))

    def test_too_bright_names_the_highlight_when_that_is_what_asks_for_less(self):
        shortest, lowest = MANUAL.shutter_s[0], MANUAL.iso[0]
        plain = conflict(subject(19.5), support="tripod")
        self.assertEqual(plain.between, ("device_shutter", "device_iso"))
        self.assertAlmostEqual(plain.short_by_stops, 19.5 - float(ev100(1.8, shortest, lowest)))
        guarded = conflict(subject(19.5), PlacedReading("keep-bright", 23.0), support="tripod")
        self.assertEqual((guarded.between[1], guarded.side), ("highlights", "bright"))
        self.assertGreater(guarded.short_by_stops, plain.short_by_stops)

    def test_a_guarded_highlight_stands_against_the_noise_it_brings(self):
        found = conflict(
            subject(8.0), PlacedReading("keep-bright", 11.2), output=ask_output(snr_floor=100.0)
        )
        self.assertEqual((found.between, found.side), (("highlights", "noise"), "dark"))
        # Without the highlight the same floor can be kept.
        self.assertIsNone(conflict(subject(8.0), output=ask_output(snr_floor=100.0)))

    def test_the_nearest_pair_gives_no_light_for_rounding(self):
        # Nominal steps are a few hundredths of a stop off thirds: no reason for a higher ISO.
        for third in range(-6, 7):
            dark, cloud = 10.0 + third / 3, 15.6 + third / 3
            spots = (PlacedReading("subject", dark, -2.0), PlacedReading("keep-bright", cloud))
            decision = plan(ask_brief(WHERRY, readings=spots, support="handheld"))
            with self.subTest(third):
                self.assertIsNotNone(decision.conflict)
                self.assertAlmostEqual(float(decision.search.nearest().iso[0]), MANUAL.iso[0])

    def test_a_narrow_window_is_met_at_the_lowest_iso_though_rounding_puts_it_outside(self):
        # The two tones are 0.30 stop apart; the step of ISO 50 is 0.015 stop outside.
        for third in range(-6, 7):
            dark, sky = 9.104 + third / 3, 14.999 + third / 3
            spots = (PlacedReading("subject", dark, -2.0), PlacedReading("keep-bright", sky))
            strategy = Strategy(exposure="split", lift_stops=1.2)
            made = ask_brief(WHERRY, readings=spots, strategy=strategy, file_format="raw")
            decision = plan(made)
            with self.subTest(third):
                self.assertEqual(decision.slip.iso, MANUAL.iso[0])
                self.assertTrue(all(spot.state is SpotState.AS_ASKED for spot in decision.outcome))

    def test_bounds_of_one_axis_that_pass_each_other(self):
        soft = (ask_show("sluice", Mover(2.0, 6.0), look_of("soft")),)
        made = ask_brief(WHERRY, readings=(subject(8.0),), show=soft)
        limits = {limit.id: limit for limit in searched(made).limits}
        found = plan(made).conflict
        self.assertEqual((found.between, found.side), (("show", "hold"), "steps"))
        gap = math.log2(limits["show"].low / limits["hold"].high)
        self.assertAlmostEqual(found.short_by_stops, gap)

    def test_a_floor_that_no_light_reaches_is_not_a_matter_of_stops(self):
        made = ask_brief(WHERRY, readings=(subject(8.0),), output=ask_output(snr_floor=500.0))
        decision = plan(made)
        self.assertEqual(decision.conflict.between, ("device_iso", "noise"))
        self.assertEqual(decision.conflict.short_by_stops, 0.0)
        self.assertIn("no ISO of this phone", decision.conflict.sentence)
        noise = next(limit for limit in searched(made).limits if limit.id == "noise")
        self.assertIn("at no ISO", noise.reason)
        offered = {trade.id for trade in decision.trades}
        self.assertIn("accept_noise", offered)
        self.assertFalse({"light", "hour"} & offered)

    def test_room_without_a_step_in_it_names_both_bounds(self):
        # Even exposures of a lamp of 7 pulses a second, held handheld: 1/7 s is the first.
        lamp = ask_lamp(7.0, "slow lamp")
        found = conflict(subject(7.0), flicker=lamp, hold=Hold(stabiliser_stops=1.0))
        self.assertEqual(found.between, ("flicker", "hold"))
        words = "No flicker needs 0.3 s or longer; your safe shutter is 1/12 s."
        self.assertEqual(found.sentence, words)


class ShutterWords(unittest.TestCase):
    def why(self, **wishes):
        decision = plan(ask_brief(WHERRY, readings=(subject(8.0),), **wishes))
        return next(reason for reason in decision.reasons if reason.value == "shutter_s").text

    def test_a_shutter_asked_for_is_named_only_where_it_comes_first(self):
        asked = Strategy(shutter_s=1 / 50)
        self.assertIn("Nearest possible to 1/50 s", self.why(strategy=asked, support="tripod"))
        floored = Strategy(iso="floor", shutter_s=1 / 50)
        self.assertNotIn("1/50", self.why(strategy=floored, support="tripod"))

    def test_what_freezes_gives_the_reason(self):
        walker = (ask_freeze("walker", Mover(1.4, 6.0)),)
        self.assertIn(
            "Freeze walker: 1/190 s, 1.0 stop spare", self.why(freeze=walker, support="tripod")
        )


class Lenses(unittest.TestCase):
    def test_a_subject_fills_its_share_from_where_one_is_told_to_stand(self):
        framing = Framing(3.0, 30.0, subject_m=1.8, subject_share=0.5)
        for lens in WHERRY.lenses:
            mode = lens.mode(None)
            height_m = min(mode.width_px, mode.height_px) * mode.pixel_pitch_um / 1e6
            focal_m = lens.focal_mm / 1000
            away_m = standing_m(framing, lens, mode)
            # Thin lens: the image is at f·D/(D − f) and is as much smaller as it is nearer.
            image_m = 1.8 * focal_m / (away_m - focal_m)
            with self.subTest(lens=lens.id):
                self.assertAlmostEqual(image_m / height_m, 0.5, places=9)

    def test_the_lens_in_use_says_so_and_others_say_what_they_give(self):
        found = {
            option.lens_id: option
            for option in lens_options(ask_brief(WHERRY, readings=(subject(9.0),)), limit_kinds())
        }
        self.assertIn("in use", found["main"].because)
        self.assertTrue(all("in use" not in found[x].because for x in found if x != "main"))
        self.assertRegex(found["ultra-wide"].because, "SNR .* (up|down)$")
        # No framing, nothing is reported of how the background grows.
        self.assertIsNone(found["long"].background_growth)
        framed = ask_brief(WHERRY, readings=(subject(9.0),), framing=Framing(3.0, 10.0))
        again = {option.lens_id: option for option in lens_options(framed, limit_kinds())}
        self.assertAlmostEqual(again["main"].background_growth, 1.0)
        self.assertGreater(again["long"].background_growth, 1.2)
