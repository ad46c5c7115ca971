"""The run at the spot: steps in working order, with what must be counted and cared for."""

import unittest
from itertools import pairwise
from math import log2

from oxlen.core.checklist.exposures import PlannedExposure, planned_exposures
from oxlen.core.checklist.steps import run_list
from oxlen.core.decisions.exposure.ask import SKY, Strategy
from oxlen.core.decisions.exposure.scene_ask import Sky
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.plan import plan
from oxlen.core.decisions.sequence.ask import Frames
from oxlen.core.motion.looks import look_of
from oxlen.core.motion.subject import Mover
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief, ask_show

WHERRY = shipped_profile("wherry-3").to_phone()


def steps(ev100, **wishes):
    """The run of a brief, by id."""
    made = ask_brief(WHERRY, readings=[PlacedReading("subject", ev100)], **wishes)
    return run_list(plan(made))


class RunList(unittest.TestCase):
    def test_steps_follow_the_order_people_work_in_and_dial_iso_first(self):
        found = steps(9.0, support="tripod")
        order = list(dict.fromkeys(step.part for step in found))
        self.assertEqual(
            order, ["set_up", "steady", "dial", "compose", "shoot", "look", "put_back"]
        )
        dialled = [step.id for step in found if step.part == "dial"]
        self.assertEqual(dialled[:2], ["iso", "shutter_s"])
        self.assertEqual(dialled[-1], "lock")
        slip = plan(
            ask_brief(WHERRY, readings=[PlacedReading("subject", 9.0)], support="tripod")
        ).slip
        iso = next(step for step in found if step.id == "iso")
        self.assertEqual(iso.value, f"{slip.iso:g}")
        self.assertEqual(len({step.id for step in found}), len(found))

    def test_cautions_come_where_they_apply_and_defer_to_local_rules(self):
        water = ask_show("sluice", Mover(2.0, 6.0), look_of("texture"))
        (care,) = [s for s in steps(4.0, show=(water,), support="tripod") if s.part == "care"]
        self.assertIn("tide", care.text)
        self.assertIn("Local rules", care.detail)
        (glare,) = [s for s in steps(16.5) if s.part == "care"]
        self.assertIn("sun", glare.text)
        self.assertEqual([s for s in steps(9.0) if s.part == "care"], [])

    def test_long_exposures_and_series_are_counted_with_their_totals(self):
        dark = steps(-2.0, support="tripod", strategy=Strategy(iso_cap=100.0))
        (shot,) = [step for step in dark if step.part == "shoot"]
        self.assertGreater(shot.expose_s, 1.0)
        series = steps(9.0, support="tripod", frames=Frames(count=20, gap_s=1.0))
        first, shot = [step for step in series if step.part == "shoot"]
        self.assertEqual(first.id, "ordinary")
        self.assertEqual(shot.frames, 20)
        self.assertIn("20 frames", shot.detail)
        self.assertIn("MB", shot.detail)
        self.assertGreater(shot.every_s, 1.0)

    def test_a_night_has_its_test_frame_its_dry_lens_and_its_cautions(self):
        def night_of(count):
            made = ask_brief(
                WHERRY,
                readings=[PlacedReading("keep-dark", -7.5, place_stops=-3.0)],
                support="tripod",
                frames=Frames(count=count, gap_s=1.0),
            )
            return run_list(plan(made.asking(SKY, Sky())))

        night = night_of(120)
        named = {step.id: step for step in night}
        order = [step.id for step in night]
        self.assertLess(order.index("test-frame"), order.index("lens-dry"))
        # Focus before the test frame that checks it; ISO and shutter once it is done with.
        late = ["focus", "test-frame", "screen-dark", "iso", "shutter_s", "lock", "shoot"]
        self.assertEqual(sorted(late, key=order.index), late)
        self.assertEqual(named["iso"].part, "expose")
        self.assertLess(order.index("lens-dry"), order.index("shoot"))
        self.assertIn(
            f"ISO {WHERRY.lens(None).mode(None).manual.iso[-1]:g}", named["test-frame"].value
        )
        self.assertIn("no light", named["check-on-it"].text)
        # A frame on auto would undo in the dark what was just dialled by torch.
        self.assertNotIn("ordinary", named)
        care = " ".join(step.text for step in night if step.id.startswith("care-"))
        self.assertIn("tide", care)
        self.assertIn("warm clothes", care)
        self.assertEqual(named["shoot"].remind_s, 900)
        short = {step.id: step for step in night_of(10)}
        self.assertNotIn("check-on-it", short)
        self.assertIsNone(short["shoot"].remind_s)

    def test_a_bracket_is_a_step_for_each_frame_and_no_slip_no_run(self):
        spots = [PlacedReading("subject", 9.0), PlacedReading("keep-bright", 15.0)]
        made = ask_brief(WHERRY, readings=spots, support="tripod", frames=Frames(combine="bracket"))
        decision = plan(made)
        shots = [step for step in run_list(decision) if step.part == "shoot"]
        self.assertEqual(len(shots), len(decision.dialled.exposures))
        self.assertGreater(len(shots), 1)
        undecided = steps(-20.0, strategy=Strategy(iso_cap=100.0))
        self.assertEqual([step.id for step in undecided], ["care-night", "undecided"])
        self.assertIn("Tell someone where you are", undecided[0].text)

    def test_a_camera_that_can_be_set_shoots_what_the_checklist_says(self):
        def exposures(*spots, **wishes):
            made = ask_brief(WHERRY, readings=list(spots), support="tripod", **wishes)
            return plan(made), planned_exposures(plan(made))

        deck, lamp = PlacedReading("subject", 9.0), PlacedReading("keep-bright", 15.0)
        single, (one,) = exposures(deck)
        slip = single.slip
        self.assertEqual(one, PlannedExposure(slip.iso, slip.shutter_s, frames=1, every_s=0.0))
        _, (series,) = exposures(deck, frames=Frames(count=20, gap_s=1.5))
        self.assertEqual(series.frames, 20)
        self.assertAlmostEqual(series.every_s, series.shutter_s + 1.5)
        _, bracket = exposures(deck, lamp, frames=Frames(combine="bracket"))
        light = [log2(each.iso * each.shutter_s) for each in bracket]
        self.assertGreater(len(bracket), 1)
        # Six stops of light, with the headroom of the brightest: several stops, and each step
        # narrow enough to be merged.
        self.assertGreater(max(light) - min(light), 2.0)
        apart = [abs(b - a) for a, b in pairwise(light)]
        self.assertLessEqual(max(apart), 3.2)


if __name__ == "__main__":
    unittest.main()
