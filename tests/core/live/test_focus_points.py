"""What a live camera is set to for a distance, by what was measured of it."""

import unittest

from oxlen.core.live.focus_points import (
    FocusPoint,
    dioptres_focused,
    dioptres_to_set,
    focus_words,
    with_focus_point,
)

INFINITY, NEAR = FocusPoint(None, 0.4), FocusPoint(0.25, 3.8)


class FocusPoints(unittest.TestCase):
    def test_the_cameras_error_is_carried_between_and_beyond_what_was_measured(self):
        points = with_focus_point((NEAR,), INFINITY)
        # Errors of +0.4 at 0 dioptres and -0.2 at 4: +0.1 in the middle.
        for true, camera in ((0.0, 0.4), (2.0, 2.1), (4.0, 3.8), (6.0, 5.8)):
            with self.subTest(true=true):
                self.assertAlmostEqual(dioptres_to_set(points, true), camera)
                self.assertAlmostEqual(dioptres_focused(points, camera), true, delta=0.03)

    def test_unmeasured_it_is_as_the_camera_says_and_never_beyond_infinity(self):
        self.assertEqual(dioptres_to_set((), 1.5), 1.5)
        self.assertEqual(dioptres_to_set((FocusPoint(1.0, 0.2),), 0.1), 0.0)

    def test_the_same_distance_measured_again_goes_before_the_first(self):
        again = with_focus_point((INFINITY, NEAR), FocusPoint(None, 0.1))
        self.assertEqual(again, (FocusPoint(None, 0.1), NEAR))
        self.assertEqual(focus_words(again), "Focus measured at infinity and 25 cm.")


if __name__ == "__main__":
    unittest.main()
