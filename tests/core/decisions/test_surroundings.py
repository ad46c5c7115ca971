"""Surroundings: what names and light say of them, what is warned of, and what is not offered."""

import math
import unittest

from oxlen.core.checklist.steps import run_list
from oxlen.core.decisions.exposure.ask import LENS_FILTERS
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.lens.ask import ANY_LENS, Framing
from oxlen.core.decisions.plan import plan
from oxlen.core.decisions.scene.facts import scene_facts
from oxlen.core.decisions.scene.named import names_the_sun, things_in
from oxlen.core.decisions.sequence.ask import FRAMES, Frames
from oxlen.core.decisions.surroundings.ask import SURROUNDINGS, Surroundings
from oxlen.core.decisions.surroundings.cautions import LOCAL_RULES, cautions
from oxlen.core.decisions.surroundings.standing import stand_limit_s
from oxlen.core.frames.passing import LEAST_FRAMES, covered_frames, empties, frames_to_empty
from oxlen.core.motion.looks import look_of
from oxlen.core.motion.subject import Mover
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.plan.writing import plan_file
from tests.core.asking import ask_brief, ask_freeze, ask_lamp, ask_show, replace

WHERRY = shipped_profile("wherry-3").to_phone()


def brief(*readings, **asked):
    """A brief of (name, role, EV100) readings."""
    spots = tuple(PlacedReading(role, ev, name=name) for name, role, ev in readings)
    return ask_brief(WHERRY, readings=spots, **asked)


def warned(made):
    return {caution.id for caution in cautions(made)}


class Named(unittest.TestCase):
    def test_the_sun_is_told_from_what_it_shines_on(self):
        for name in ("sun", "The Sun", "low sun", "partial solar eclipse", "eclipse of the Sun"):
            self.assertTrue(names_the_sun(name), name)
        for name in ("sunlit hull", "hull in the sun", "sunset sky", "lunar eclipse", "sunshade"):
            self.assertFalse(names_the_sun(name), name)

    def test_things_are_known_by_whole_words_in_singular_and_plural(self):
        for name, hazard in (
            ("steam trains", "railway"),
            ("drone", "drone"),
            ("gulls on the wall", "wildlife"),
            ("the weir", "water"),
            ("fireworks", "fireworks"),
            ("welder's mask", "welding"),
            ("quayside shed", None),
            ("training board", None),
            ("iced bun", None),
            ("carved transom", None),
        ):
            found = {thing.hazard for thing in things_in(name)}
            with self.subTest(name):
                self.assertIn(hazard, found or {None})

    def test_a_title_warns_and_rules_nothing_out(self):
        made = replace(brief(("stall", "subject", 5.0)), glass_at_hand=())
        titled = type(made)(**{**vars_of(made), "about": "Welding at the fish market"})
        self.assertIn("welding", warned(titled))
        self.assertNotIn("unlit", scene_facts(titled).traits)


def vars_of(made):
    names = ("phone", "readings_measured", "filters_at_hand", "asked")
    return {name: getattr(made, name) for name in names}


class Cautions(unittest.TestCase):
    def test_they_are_the_same_with_a_slip_and_without(self):
        water = ask_show("swell", Mover(1.0, 8.0), look_of("soft"))
        fits = brief(("weir", "subject", 1.0), show=(water,), support="tripod")
        collides = replace(fits, support="handheld")
        self.assertEqual(warned(fits), warned(collides))
        self.assertIsNone(plan(collides).slip)
        for made in (fits, collides):
            published = plan_file(plan(made)).cautions
            self.assertEqual(published[-1], LOCAL_RULES)
            self.assertEqual(published[:-1], [caution.words for caution in cautions(made)])
            care = [step.text for step in run_list(plan(made)) if step.part == "care"]
            self.assertEqual(care, published[:-1])

    def test_each_is_short_and_said_once(self):
        every = Surroundings(
            has=("sun", "welding", "storm", "railway", "wildlife", "cliff", "drone", "crowd")
        )
        found = cautions(brief(("hull", "subject", 12.0)).asking(SURROUNDINGS, every))
        words = [caution.words for caution in found]
        self.assertEqual(len(words), len(set(words)))
        self.assertEqual([caution.id for caution in found][:2], ["sun", "welding"])
        self.assertTrue(all(len(word) <= 170 for word in words), words)
        self.assertTrue(found[0].is_grave)

    def test_a_plain_grey_day_is_not_warned_of_anything(self):
        self.assertEqual(cautions(brief(("shed", "subject", 11.0))), ())
        self.assertEqual(plan_file(plan(brief(("shed", "subject", 11.0)))).cautions, [])


class Glare(unittest.TestCase):
    def test_no_longer_lens_is_chosen_or_offered_beside_the_sun(self):
        made = brief(("boat", "subject", 12.5), ("sun", "keep-bright", 26.0), lens_id=ANY_LENS)
        decided = plan(made)
        self.assertLessEqual(decided.brief.lens.focal35_mm, 24)
        self.assertIsNone(decided.compromise)
        for trade in decided.trades:
            self.assertLessEqual(trade.brief.lens.focal35_mm, 24, trade.id)

    def test_auto_never_taps_the_sun_and_says_so_where_nothing_else_is_there(self):
        beside = plan(brief(("boat", "subject", 12.5), ("sun", "keep-bright", 26.0)))
        self.assertIn("Tap boat", beside.auto_steps.steps)
        alone = plan(brief(("sun", "subject", 31.0)))
        self.assertEqual(alone.auto_steps.steps, ())
        self.assertIn("certified filter", alone.auto_steps.why_not)

    def test_the_certified_filter_is_worn_by_the_brief_it_leads_to(self):
        way = plan(brief(("sun", "subject", 31.0), support="tripod")).trades[0]
        self.assertEqual(way.id, "solar_filter")
        self.assertEqual([filter.factor for filter in way.brief[LENS_FILTERS]], [100_000.0])
        # Density 5 is 16.6 stops: EV 31 is exposed as EV 14.4 would be.
        bare = math.log2(way.slip.f_number**2 / way.slip.shutter_s) - math.log2(way.slip.iso / 100)
        self.assertAlmostEqual(bare, 31 - math.log2(1e5), delta=0.35)


class Stand(unittest.TestCase):
    def test_a_deck_allows_what_its_turning_leaves_within_the_circle(self):
        for stand, deg_s in (("boat", 2.0), ("bridge", 0.3), ("vehicle", 4.0)):
            made = brief(("village", "subject", 4.0)).asking(
                SURROUNDINGS, Surroundings(stand=stand)
            )
            mode, lens = made.mode, made.lens
            circle_mm = math.hypot(mode.width_px, mode.height_px) * mode.pixel_pitch_um / 1.5e6
            wanted = circle_mm / (lens.focal_mm * math.radians(deg_s))
            self.assertAlmostEqual(stand_limit_s(made), wanted, places=6)
            for support in ("handheld", "tripod"):
                slip = plan(replace(made, support=support)).slip
                self.assertLessEqual(slip.shutter_s, wanted * (1 + 1e-9))
        own = Surroundings(stand="boat", stand_deg_s=8.0)
        rough = brief(("village", "subject", 4.0)).asking(SURROUNDINGS, own)
        calm = rough.asking(SURROUNDINGS, Surroundings(stand="boat"))
        self.assertAlmostEqual(stand_limit_s(calm) / stand_limit_s(rough), 4.0)
        self.assertIsNone(stand_limit_s(rough.asking(SURROUNDINGS, Surroundings())))


class NotOffered(unittest.TestCase):
    def ids(self, made):
        parts = [trade.id.split("+") for trade in plan(made).trades]
        return {part for each in parts for part in each}

    def test_lamps_of_others_are_not_dimmed_moved_or_waited_for(self):
        dancer = ask_freeze("dancer", Mover(4.0, 9.0))
        made = brief(
            ("floor", "subject", 8.0), freeze=(dancer,), flicker=ask_lamp(100, mains_hz=50)
        )
        hall = made.asking(SURROUNDINGS, Surroundings(lit_by="stage"))
        own = made.asking(SURROUNDINGS, Surroundings(lit_by="lamps"))
        self.assertIn("steady_lamp", self.ids(own))
        self.assertFalse(self.ids(hall) & {"steady_lamp", "lamp", "light", "hour"})
        self.assertIn("accept_bands", self.ids(hall))

    def test_light_is_added_only_where_a_lamp_reaches(self):
        for distance_m, is_lit in ((2.0, True), (9.0, True), (15.0, False), (60.0, False)):
            made = brief(("face", "subject", 9.0), ("sky", "keep-bright", 14.0))
            made = replace(made, framing=Framing(distance_m))
            with self.subTest(distance_m):
                self.assertEqual("fill" in self.ids(made), is_lit)

    def test_white_focus_and_saving_are_decided_while_the_exposure_collides(self):
        decided = plan(brief(("face", "subject", 7.8), ("window", "keep-bright", 13.6)))
        self.assertIsNone(decided.slip)
        fields = [setting.field for setting in decided.dialled.settings]
        self.assertEqual(fields, ["lens", "white", "focus", "format"])
        self.assertEqual(decided.dialled.exposures, ())


class TwoFrames(unittest.TestCase):
    def test_each_of_two_wishes_gets_a_frame_that_keeps_it(self):
        runner = ask_freeze("runner", Mover(4.0, 6.0))
        basin = ask_show("basin", Mover(0.5, 40.0), look_of("glass"), width_m=1.0)
        made = brief(("runner", "subject", 10.5), freeze=(runner,), show=(basin,), support="tripod")
        collided = plan(made)
        ways = {trade.id: trade for trade in collided.trades}
        self.assertLessEqual({"two-frames", "drop-show"}, set(ways))
        decided = plan(ways["two-frames"].brief)
        self.assertIsNone(decided.conflict)
        first, second = (
            {setting.field: setting.value for setting in each.settings if setting.on_map}
            for each in decided.dialled.exposures
        )
        limits = {limit.id: limit for limit in collided.search.limits}
        self.assertLessEqual(first["shutter_s"], limits["freeze"].high)
        self.assertGreaterEqual(second["shutter_s"], limits["show"].low)
        steps = [step.id for step in run_list(decided) if step.part == "shoot"]
        self.assertEqual(
            [caution for caution in steps if caution != "ordinary"],
            ["shoot-0", "second-filter", "shoot-1"],
        )


class Passing(unittest.TestCase):
    def test_more_frames_or_longer_gaps_never_bring_a_passer_back(self):
        for width_m, speed in ((0.6, 1.3), (7.0, 3.0), (1.7, 6.0)):
            for gap_s in (0.1, 0.5, 2.0, 10.0):
                covered = covered_frames(width_m, speed, gap_s)
                count = frames_to_empty(covered)
                self.assertTrue(empties(count, covered))
                self.assertGreaterEqual(count, LEAST_FRAMES)
                self.assertTrue(empties(count + 2, covered))
                self.assertLessEqual(covered_frames(width_m, speed, 2 * gap_s), covered)

    def test_a_median_empties_a_square_and_draws_no_water(self):
        crowd = ask_show("crowd", Mover(1.3, 12.0), look_of("vanish"), width_m=0.6)
        water = ask_show("weir", Mover(1.0, 6.0), look_of("soft"), width_m=0.6)
        for look, count, fits in ((crowd, 9, True), (crowd, 5, False), (water, 15, False)):
            made = brief(("square", "subject", 12.0), show=(look,), support="tripod")
            made = made.asking(FRAMES, Frames(count, 1.0, combine="median"))
            with self.subTest(look=look.look, count=count):
                self.assertEqual(plan(made).conflict is None, fits)
                self.assertTrue(fits or plan(made).trades)
