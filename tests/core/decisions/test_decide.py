"""The decision: never breaks a limit, never leaves the ladders, says so when nothing fits."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from oxlen.core.decisions.exposure.ask import EXPOSURE_AIMS, ISO_STRATEGIES, Strategy
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.plan import plan, searched
from oxlen.core.errors import BadInput, NotFound, OutOfRange
from oxlen.core.hold.hand import SUPPORTS
from oxlen.core.light.exposure import ev100
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief, replace

WHERRY = shipped_profile("wherry-3").to_phone()
DABBER = shipped_profile("dabber").to_phone()


def brief(ev, place=0.0, phone=WHERRY, **more):
    """A brief with one subject reading."""
    return ask_brief(phone, readings=(PlacedReading("subject", ev, place),), **more)


@st.composite
def briefs(draw):
    phone = draw(st.sampled_from([WHERRY, DABBER]))
    lens = draw(st.sampled_from(phone.lenses))
    reading = st.builds(
        PlacedReading,
        st.sampled_from(["subject", "keep-bright", "keep-dark", "neutral"]),
        st.floats(-9, 18),
        st.one_of(st.none(), st.floats(-4, 3)),
    )
    strategy = Strategy(
        draw(st.sampled_from(sorted(ISO_STRATEGIES))),
        draw(st.one_of(st.none(), st.sampled_from([100, 400, 800, 3200]))),
        draw(st.sampled_from(sorted(EXPOSURE_AIMS))),
        draw(st.one_of(st.none(), st.floats(1e-4, 20))),
    )
    return ask_brief(
        phone,
        lens.id,
        draw(st.sampled_from(lens.modes)).id,
        draw(st.sampled_from(SUPPORTS)),
        tuple(draw(st.lists(reading, min_size=1, max_size=4))),
        strategy,
        draw(st.sampled_from(["processed", "raw", "both"])),
    )


def keeps_all_limits(made, iso, shutter, *, conflict=None):
    """By hand and pair by pair, without the grid the decision uses.

    Where limits collide, the nearest may be half a stop further off a tone than was asked.
    """
    exposed = ev100(made.lens.f_number, shutter, iso)
    for limit in searched(made).limits:
        spare = 0.5 if conflict and limit.kind.id == "tone" else 0.0
        if spare and limit.low is not None and exposed < limit.low - spare - 1e-9:
            return False
        if spare and limit.high is not None and exposed > limit.high + spare + 1e-9:
            return False
        if spare:
            continue
        value = {"iso": iso, "shutter_s": shutter, "ev100_set": exposed}[limit.axis]
        low = limit.low
        if low is not None and limit.base_iso and iso < limit.base_iso:
            low += np.log2(limit.base_iso / iso)
        if low is not None and value < low - 1e-9 * max(1, abs(low)):
            return False
        if limit.high is not None and value > limit.high * (1 + 1e-9):
            return False
    return True


class Laws(unittest.TestCase):
    @settings(max_examples=150, deadline=None)
    @given(briefs())
    def test_slip_keeps_every_limit_and_stays_on_the_ladders(self, made):
        decision = plan(made)
        slip, ladder = decision.slip, made.mode.manual
        if slip is None:
            self.assertIsNotNone(decision.conflict)
            return
        self.assertIn(slip.iso, ladder.iso)
        self.assertIn(slip.shutter_s, ladder.shutter_s)
        self.assertTrue(
            keeps_all_limits(made, slip.iso, slip.shutter_s, conflict=decision.conflict)
        )
        if decision.window:
            self.assertIsNone(decision.conflict)
            self.assertLessEqual(abs(slip.residual_stops), ladder.half_step_stops + 1e-9)
        elif decision.conflict is None:
            little = max(0.5, 1.5 * ladder.half_step_stops)
            self.assertLessEqual(abs(slip.residual_stops), little + 1e-9)

    @settings(max_examples=80, deadline=None)
    @given(briefs())
    def test_conflict_means_no_pair_fits(self, made):
        decision = plan(made)
        fits = [
            (iso, t)
            for iso in made.mode.manual.iso
            for t in made.mode.manual.shutter_s
            if abs(decision.search.aim.ev100 - ev100(made.lens.f_number, t, iso))
            <= max(0.5, 1.5 * made.mode.manual.half_step_stops) + 1e-9
            and keeps_all_limits(made, iso, t)
        ]
        self.assertEqual(decision.conflict is not None, not fits)

    @settings(max_examples=80, deadline=None)
    @given(st.floats(-4, 16), st.floats(0.01, 4))
    def test_more_light_never_raises_iso_under_floor(self, ev, more):
        floor = Strategy(iso="floor")
        dim, bright = plan(brief(ev, strategy=floor)), plan(brief(ev + more, strategy=floor))
        if dim.slip and bright.slip:
            self.assertLessEqual(bright.slip.iso, dim.slip.iso)

    @settings(max_examples=80, deadline=None)
    @given(st.floats(-4, 14), st.sampled_from([100, 400, 1600]))
    def test_a_tighter_limit_never_widens_the_window(self, ev, cap):
        loose, tight = plan(brief(ev)), plan(brief(ev, strategy=Strategy(iso_cap=cap)))
        if tight.window:
            self.assertGreaterEqual(loose.window.iso_max, tight.window.iso_max)
            self.assertLessEqual(loose.window.shutter_min_s, tight.window.shutter_min_s)

    def test_same_brief_same_plan(self):
        self.assertEqual(plan(brief(9)).slip, plan(brief(9)).slip)


class Worked(unittest.TestCase):
    """Cases worked by hand from the shipped profiles."""

    def test_floor_takes_the_lowest_iso(self):
        # f/1.8 at ISO 50 for EV 12: t = 100 · 3.24/(50 · 4096) = 1/632 s, step 1/640 s.
        slip = plan(brief(12)).slip
        self.assertEqual((slip.iso, round(1 / slip.shutter_s)), (50, 640))
        self.assertAlmostEqual(slip.residual_stops, -0.018, places=2)

    def test_place_moves_the_exposure_stop_for_stop(self):
        self.assertAlmostEqual(plan(brief(12, 2.0)).search.aim.ev100, 10.0)

    def test_hold_limit_makes_iso_pay(self):
        # Wherry main: 2^3/24 = 1/3 s. EV 2 at 1/3 s and f/1.8 needs ISO 243.
        decision = plan(brief(2, strategy=Strategy(iso="floor")))
        self.assertEqual(decision.slip.iso, 250)
        self.assertIn("hold", decision.binding)
        self.assertEqual(plan(brief(2, support="tripod")).slip.iso, 50)

    def test_a_still_scene_in_the_hand_stays_a_stop_or_two_inside_it(self):
        # EV 4.4: two stops inside 1/3 s are 1/12 s at ISO 184; SNR at the screen stays over 40.
        slip = plan(brief(4.4)).slip
        self.assertLessEqual(slip.shutter_s, 1 / 12)
        self.assertEqual(slip.iso, 200)
        # In the dark frame stop is what noise leaves: 1/6 s would want ISO 3890.
        dark = plan(brief(-0.5)).slip
        self.assertTrue(1 / 6 <= dark.shutter_s <= 1 / 3)
        # By day the light alone is shorter.
        self.assertEqual(plan(brief(12)).slip.iso, 50)

    def test_braced_holds_one_and_a_half_stops_longer(self):
        held, braced = (
            next(limit.high for limit in searched(brief(2, support=s)).limits if limit.id == "hold")
            for s in ("handheld", "braced")
        )
        self.assertAlmostEqual(np.log2(braced / held), 1.5)

    def test_ceiling_buys_two_stops_of_safety_up_to_the_cap(self):
        strategy = Strategy(iso="ceiling", iso_cap=800)
        self.assertLessEqual(plan(brief(3, strategy=strategy)).slip.shutter_s, 1 / 12)
        self.assertEqual(plan(brief(1, strategy=strategy)).slip.iso, 800)

    def test_shutter_first_keeps_the_shutter_asked(self):
        strategy = Strategy(iso="shutter_first", shutter_s=0.002)
        slip = plan(brief(8, strategy=strategy)).slip
        self.assertEqual((slip.shutter_s, slip.iso), (0.002, 640))

    def test_highlight_guard_moves_the_aim_and_says_so(self):
        made = ask_brief(
            WHERRY,
            readings=(PlacedReading("subject", 9.0, 0.0), PlacedReading("keep-bright", 12.1)),
        )
        decision = plan(made)
        self.assertGreaterEqual(decision.slip.ev100_set, 12.1 - 2.5)
        self.assertIn("highlights", decision.binding)
        self.assertIn("Highlight protection", decision.reasons[0].text)

    def test_the_guard_goes_by_the_strongest_colour_and_names_it(self):
        def guarded(first_stops):
            sky = PlacedReading("keep-bright", 14.0, name="sky", channel_stops=first_stops)
            cloud = PlacedReading("keep-bright", 14.2, name="cloud")
            return plan(
                ask_brief(WHERRY, readings=(PlacedReading("subject", 11.2, 0.0), sky, cloud))
            )

        plain, blue = guarded(0.0), guarded(0.6)
        # The cloud clips as EV 14.2, the blue sky as 14.6.
        self.assertAlmostEqual(plain.search.aim.guard_ev100, 14.2 - 2.5)
        self.assertAlmostEqual(blue.search.aim.guard_ev100, 14.6 - 2.5)
        self.assertGreaterEqual(blue.slip.ev100_set, 14.6 - 2.5)
        self.assertIn("strongest colour is 0.6 stop brighter", blue.reasons[0].text)
        self.assertNotIn("strongest colour", plain.reasons[0].text)
        with self.assertRaisesRegex(OutOfRange, "channel_stops"):
            PlacedReading("keep-bright", 14.0, channel_stops=-1.0)

    def test_raw_headroom_leaves_more_room(self):
        readings = (PlacedReading("subject", 9.0, 0.0), PlacedReading("keep-bright", 14.0))
        processed = plan(ask_brief(WHERRY, readings=readings)).search.aim.ev100
        raw = plan(ask_brief(WHERRY, readings=readings, file_format="raw")).search.aim.ev100
        self.assertAlmostEqual(processed - raw, 3.26 - 2.5)

    def test_conflict_names_the_bounds_and_the_stops_missing(self):
        # f/1.8, 1/3 s, ISO 3200 expose for EV −1.72; EV −5 is 3.28 stops lower.
        decision = plan(brief(-5))
        conflict = decision.conflict
        self.assertEqual(conflict.between, ("hold", "device_iso"))
        self.assertAlmostEqual(conflict.short_by_stops, 3.28, places=1)
        tripod = next(trade for trade in decision.trades if trade.id == "tripod")
        self.assertLess(abs(tripod.slip.residual_stops), 0.21)

    def test_too_much_light(self):
        conflict = plan(brief(20)).conflict
        self.assertEqual(conflict.between, ("device_shutter", "device_iso"))
        self.assertIn("too bright", conflict.sentence)

    def test_a_white_frame_is_never_an_answer(self):
        readings = (PlacedReading("subject", 19.0, 0.0), PlacedReading("keep-bright", 19.9))
        decision = plan(ask_brief(WHERRY, readings=readings))
        self.assertIsNone(decision.slip)
        self.assertIsNone(decision.compromise)
        self.assertEqual({trade.id for trade in decision.trades}, {"hour", "nd"})
        # Brighter than that it is the Sun: nothing but a certified filter, or out of the frame.
        glaring = (PlacedReading("subject", 20.5, 0.0),)
        ways = {trade.id for trade in plan(ask_brief(WHERRY, readings=glaring)).trades}
        self.assertEqual(ways, {"solar_filter"})

    def test_cap_below_the_phones_lowest_iso(self):
        decision = plan(brief(10, strategy=Strategy(iso_cap=25)))
        self.assertIsNone(decision.slip)
        self.assertEqual(set(decision.conflict.between), {"device_iso", "iso_cap"})

    def test_under_exposure_by_the_meter_is_said_in_words(self):
        decision = plan(replace(brief(4, -3.0), scene_mean_ev100=4.0))
        self.assertIn("under-exposed. That is intended", decision.reasons[0].text)

    def test_default_places(self):
        dark = ask_brief(
            WHERRY, readings=(PlacedReading("keep-dark", 0.0),), strategy=Strategy(exposure="dark")
        )
        self.assertAlmostEqual(plan(dark).search.aim.ev100, 3.0)
        bright = ask_brief(
            WHERRY,
            readings=(PlacedReading("keep-bright", 15.0),),
            strategy=Strategy(exposure="highlights"),
        )
        self.assertAlmostEqual(
            plan(bright).search.aim.ev100,
            12.5 + WHERRY.lens("main").mode(None).manual.half_step_stops,
        )

    def test_refusals(self):
        with self.assertRaisesRegex(BadInput, "Add a reading"):
            plan(ask_brief(WHERRY))
        with self.assertRaisesRegex(NotFound, "no lens named porthole"):
            plan(brief(5, lens_id="porthole"))
