"""What a camera can do, and what *Dial it* did: in words with their numbers."""

import unittest

from oxlen.core.live.camera import (
    Dial,
    LiveCamera,
    LiveSettings,
    abilities,
    brighter_stops,
    dialled,
)

SHUTTER = Dial(0.001, 0.01, can_set=True)


def words(wanted, got, **can):
    return {line.field: line.words for line in dialled(wanted, got, LiveCamera(**can))}


class Dialled(unittest.TestCase):
    def test_each_line_says_what_was_set_and_what_is_left(self):
        wanted = LiveSettings(1 / 125, 50, white_k=5500, focus_dioptres=0.5)
        can = {"shutter_s": SHUTTER, "focus_dioptres": Dial(0, 10, can_set=True)}
        found = words(wanted, LiveSettings(1 / 250, focus_dioptres=0.5), **can)
        self.assertEqual(found["iso"], "Dial ISO 50 by hand: this browser cannot set it.")
        self.assertEqual(found["shutter_s"], "The camera chose another value: 1.0 stop darker.")
        self.assertEqual(found["white_k"], "Dial 5500 K by hand: this browser cannot set it.")
        self.assertEqual(found["focus"], "Set.")

    def test_out_of_reach_it_names_the_reach(self):
        found = words(LiveSettings(1 / 25), LiveSettings(0.01), shutter_s=SHUTTER)
        # 1/25 s against 1/100 s are two stops.
        self.assertEqual(
            found["shutter_s"], "This camera takes 1/1000 s to 1/100 s here: 2.0 stops darker."
        )

    def test_what_is_not_told_is_to_be_checked(self):
        found = words(LiveSettings(1 / 125), LiveSettings(), shutter_s=SHUTTER)
        self.assertIn("does not tell what it set", found["shutter_s"])

    def test_white_balance_in_mired_and_focus_in_dioptres(self):
        can = {
            "white_k": Dial(2000, 9000, can_set=True),
            "focus_dioptres": Dial(0, 9, can_set=True),
        }
        found = words(
            LiveSettings(white_k=5000, focus_dioptres=1),
            LiveSettings(white_k=4000, focus_dioptres=1.5),
            **can,
        )
        self.assertIn("50 mired off", found["white_k"])  # 250 - 200
        self.assertIn("0.5 dioptres too near", found["focus"])

    def test_how_much_brighter_frames_are(self):
        wanted = LiveSettings(1 / 100, 50)
        self.assertAlmostEqual(brighter_stops(wanted, LiveSettings(1 / 50, 100)), 2.0)
        self.assertIsNone(brighter_stops(wanted, LiveSettings(1 / 50)))

    def test_what_is_not_there_has_a_way_around_it(self):
        found = abilities(LiveCamera(shutter_s=SHUTTER))
        there = {ability.name for ability in found if ability.is_there}
        self.assertEqual(there, {"Set the shutter"})
        self.assertTrue(all(ability.instead for ability in found if not ability.is_there))


if __name__ == "__main__":
    unittest.main()
