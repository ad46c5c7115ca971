"""What to save, how many pixels, and how the phone is set up and put back."""

import re
import unittest

from oxlen.core.checklist.set_up import put_back_steps, set_up_steps
from oxlen.core.decisions.colour.ask import LIGHT_COLOUR, LightColour, LitBy
from oxlen.core.decisions.exposure.ask import (
    DRAWING,
    FORMAT,
    OUTPUT,
    SKY,
    STRATEGY,
    Output,
    Strategy,
)
from oxlen.core.decisions.exposure.scene_ask import Drawing, Sky
from oxlen.core.decisions.focus.ask import FOCUS, Focus
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.decisions.plan import plan
from oxlen.core.decisions.saving.advice import Situation, advise, by_strategy
from oxlen.core.decisions.saving.ask import SAVING, Saving
from oxlen.core.decisions.saving.situation import situation_of
from oxlen.core.kit.file_cost import WrittenFiles
from oxlen.core.motion.subject import Mover
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief, ask_freeze, replace

WHERRY, DABBER = (shipped_profile(phone_id).to_phone() for phone_id in ("wherry-3", "dabber"))
FILES = WrittenFiles(4.2, 24.5, 11.5, processed_fps=12, raw_fps=4, raw_burst=12)
NO_RAW = WrittenFiles(4.2, None)
SURE, UNSURE = 8.0, 45.0

# What is known, the file an experienced photographer would save, and the reason's id.
ADVISED = [
    ("message, sun", {"use": "message", "colour_doubt_mired": SURE}, "processed", "share"),
    ("message, unknown light", {"use": "message"}, "processed", "share"),
    ("message, edited heavily", {"use": "message", "editing": "heavy"}, "raw", "editing"),
    ("web, overcast", {"use": "web", "colour_doubt_mired": 12.0}, "processed", "enough"),
    ("web, sunset", {"use": "web", "colour_doubt_mired": UNSURE}, "both", "colour"),
    ("web, unknown light", {"use": "web"}, "both", "colour"),
    ("screen, window", {"use": "screen", "colour_doubt_mired": 20.0}, "processed", "enough"),
    (
        "A4, overcast",
        {"use": "print-a4", "output_px": 8.7e6, "colour_doubt_mired": 12.0},
        "processed",
        "enough",
    ),
    (
        "A1 print",
        {"use": "print-a1", "output_px": 17.4e6, "colour_doubt_mired": SURE},
        "both",
        "print",
    ),
    (
        "A1, heavy editing",
        {"use": "print-a1", "output_px": 17.4e6, "editing": "heavy"},
        "raw",
        "editing",
    ),
    (
        "lit box",
        {"use": "shop", "colour_doubt_mired": 5.0, "is_controlled": True},
        "processed",
        "controlled",
    ),
    (
        "lit box, heavy editing",
        {"colour_doubt_mired": 5.0, "is_controlled": True, "editing": "heavy"},
        "raw",
        "editing",
    ),
    (
        "two lamps of two colours",
        {"colour_doubt_mired": 5.0, "is_controlled": True, "mixed_lamps": True},
        "both",
        "colour",
    ),
    ("lamp of unknown colour", {"is_controlled": True}, "both", "colour"),
    (
        "window a stop too bright",
        {"over_processed_stops": 0.7, "over_raw_stops": -0.1, "colour_doubt_mired": SURE},
        "raw",
        "range",
    ),
    (
        "window beyond RAW too",
        {"over_processed_stops": 2.0, "over_raw_stops": 1.2, "colour_doubt_mired": SURE},
        "raw",
        "range",
    ),
    (
        "window just inside",
        {"over_processed_stops": 0.0, "colour_doubt_mired": SURE},
        "processed",
        "enough",
    ),
    ("shadows lifted 2 stops", {"lift_stops": 2.0, "colour_doubt_mired": SURE}, "raw", "lift"),
    (
        "shadows lifted half a stop",
        {"lift_stops": 0.5, "colour_doubt_mired": SURE},
        "processed",
        "enough",
    ),
    ("stars", {"stars": True, "colour_doubt_mired": 40.0}, "raw", "stars"),
    (
        "burst of 8 a second",
        {"fps": 8.0, "frames": 10, "colour_doubt_mired": SURE},
        "processed",
        "burst",
    ),
    (
        "burst of 8 a second, wide range",
        {"fps": 8.0, "frames": 10, "over_processed_stops": 1.0},
        "processed",
        "burst",
    ),
    (
        "burst of 3 a second, 10 frames",
        {"fps": 3.0, "frames": 10, "editing": "heavy"},
        "raw",
        "editing",
    ),
    (
        "burst of 3 a second, 40 frames",
        {"fps": 3.0, "frames": 40, "editing": "heavy"},
        "processed",
        "burst",
    ),
    (
        # 500 MB take 20 files of 24.5 MB, and 43 packed ones of 11.5 MB.
        "storage for 20 of 40, packed for all",
        {"frames": 40, "free_mb": 500.0, "editing": "heavy"},
        "raw",
        "editing",
    ),
    (
        "storage for 34 of 40 packed",
        {"frames": 40, "free_mb": 400.0, "editing": "heavy"},
        "processed",
        "storage",
    ),
    ("the dial 29 mired short", {"dial_short_mired": 29.0}, "raw", "dial"),
    (
        "the dial hardly short",
        {"dial_short_mired": 8.0, "colour_doubt_mired": SURE},
        "processed",
        "enough",
    ),
    ("storage for all", {"frames": 40, "free_mb": 2000.0, "editing": "heavy"}, "raw", "editing"),
    (
        "a mode without RAW",
        {"files": NO_RAW, "editing": "heavy", "stars": True},
        "processed",
        "no-raw",
    ),
    ("large print of stars", {"stars": True, "output_px": 17.4e6}, "raw", "stars"),
]


class Advised(unittest.TestCase):
    def test_each_situation_gets_the_file_and_the_reason_an_expert_gives(self):
        self.assertGreaterEqual(len(ADVISED), 25)
        for name, known, file_format, because in ADVISED:
            found = advise(Situation(**{"files": FILES, **known}))
            with self.subTest(name):
                self.assertEqual((found.file_format, found.because), (file_format, because))
                self.assertTrue(found.reason)

    def test_strategies_differ_where_people_do_and_none_breaks_what_the_phone_can(self):
        plain = Situation(FILES, use="screen", colour_doubt_mired=SURE)
        print_ = Situation(FILES, use="print-a4", colour_doubt_mired=SURE)
        box = Situation(FILES, colour_doubt_mired=5.0, is_controlled=True)
        rows = [
            ("both", plain, "both"),
            ("raw_to_edit", plain, "processed"),
            ("raw_to_edit", print_, "raw"),
            ("processed_when_controlled", box, "processed"),
            ("processed_when_controlled", plain, "both"),
            ("advise", plain, "processed"),
        ]
        for strategy, at, file_format in rows:
            self.assertEqual(by_strategy(strategy, at).file_format, file_format, strategy)
        fast = Situation(FILES, fps=8.0, editing="heavy")
        for strategy in ("both", "raw_to_edit", "processed_when_controlled", "advise"):
            self.assertEqual(by_strategy(strategy, fast).file_format, "processed", strategy)


def brief(phone=WHERRY, *, bright=None, **said):
    readings = [PlacedReading("subject", 9.0, 0.0)]
    if bright is not None:
        readings.append(PlacedReading("keep-bright", bright))
    return ask_brief(phone, readings=tuple(readings), **said)


class Line(unittest.TestCase):
    def line(self, made, **saving):
        return plan(made.asking(SAVING, Saving(**saving))).dialled["format"]

    def test_advice_decides_the_exposure_with_it(self):
        sure = LightColour(lamps=(LitBy("the panel", 5600.0),))
        made = brief(bright=12.1, support="tripod").asking(LIGHT_COLOUR, sure)
        as_asked, advised = (
            plan(made.asking(SAVING, Saving(strategy=phone_id)))
            for phone_id in ("as_asked", "advise")
        )
        # 3.1 stops over the subject: processed holds 2.5, RAW 3.26.
        self.assertEqual(advised.dialled["format"].value, "raw")
        self.assertLess(advised.slip.ev100_set, as_asked.slip.ev100_set - 0.3)
        self.assertIn("RAW would be better", as_asked.dialled["format"].notes[0])

    def test_merging_is_named_where_the_dark_is_noisy_and_nothing_moves(self):
        readings = (PlacedReading("subject", 2.0, 0.0), PlacedReading("keep-dark", -1.0))
        still = ask_brief(WHERRY, readings=readings, support="tripod", file_format="raw")
        at = still.asking(STRATEGY, Strategy(shutter_s=0.2))
        stated = " ".join(plan(at).dialled[FORMAT.name].notes)
        found = re.search(r"of 6 frames raises shadow SNR from (\d+) to (\d+)", stated)
        now, then = map(int, found.groups())
        self.assertTrue(2.0 * now < then < 2.6 * now, stated)
        walker = replace(at, freeze=(ask_freeze("walker", Mover(1.4, 60.0), "circle"),))
        self.assertNotIn("Merged", " ".join(plan(walker).dialled[FORMAT.name].notes))

    def test_what_it_costs(self):
        made = brief(file_format="both")
        figures = self.line(made, pictures=30, free_mb=600.0).figures
        self.assertAlmostEqual(figures["frame_mb"], 28.7)
        self.assertAlmostEqual(figures["all_mb"], 861.0)
        self.assertEqual((figures["fits"], figures["burst"]), (20, 12))
        # 4080 px at 300 an inch.
        self.assertAlmostEqual(figures["print_300_dpi_cm"], 4080 / 300 * 2.54)
        packed = self.line(brief(file_format="raw"), compression="packed")
        self.assertAlmostEqual(packed.figures["frame_mb"], 11.5)
        self.assertIn("packed", packed.label)

    def test_more_pixels_only_where_they_show_more(self):
        large = Output(use="print-a1")
        on_tripod = brief(support="tripod").asking(OUTPUT, large)
        self.assertTrue(any("50 MP" in note for note in self.line(on_tripod).notes))
        in_hand = brief().asking(OUTPUT, large)
        self.assertFalse(any("50 MP" in note for note in self.line(in_hand).notes))
        small = brief(support="tripod").asking(OUTPUT, Output(use="web"))
        self.assertFalse(any(" MP serves" in note for note in self.line(small).notes))

    def test_the_situation_is_read_from_the_brief(self):
        at = situation_of(brief(bright=12.1))
        self.assertAlmostEqual(at.over_processed_stops, 0.6)
        self.assertAlmostEqual(at.over_raw_stops, 3.1 - 3.26)
        self.assertFalse(at.colour_is_sure)


class SetUp(unittest.TestCase):
    def texts(self, made, shutter_s=0.01):
        return [step.text for step in set_up_steps(made, shutter_s)]

    def test_only_what_applies_is_listed(self):
        plain = " ".join(self.texts(brief()))
        self.assertIn("volume key", plain)
        for words in ("Self-timer", "Silence", "close-up", "Faster"):
            self.assertNotIn(words, plain)
        night = brief(support="tripod", file_format="raw").asking(SKY, Sky())
        reported = " ".join(self.texts(night, 10.0))
        for words in ("RAW saving on", "Use a remote", "Silence", "Grid on"):
            self.assertIn(words, reported)
        walker = ask_freeze("walker", Mover(1.4, 6.0), "circle")
        self.assertIn("Faster shooting on", self.texts(brief(freeze=(walker,))))
        near = brief().asking(FOCUS, Focus(distance_m=0.12))
        self.assertTrue(any("close-up lens" in text for text in self.texts(near)))
        drawn = replace(brief(DABBER, support="tripod")).asking(DRAWING, Drawing())
        self.assertTrue(any("Self-timer 3 s" in text for text in self.texts(drawn)))

    def test_what_was_changed_is_put_back_in_reverse(self):
        steps = set_up_steps(brief(DABBER, support="tripod", file_format="raw"), 10.0)
        back = put_back_steps(steps)
        self.assertEqual(back[0], "Notifications and sounds on again")
        self.assertLess(back.index("Self-timer off"), back.index("RAW saving off"))
        self.assertEqual(len(back), sum(1 for step in steps if step.put_back))
