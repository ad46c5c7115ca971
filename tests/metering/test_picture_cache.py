"""Pictures at hand: bounded in memory, and none closed while it is read."""

import threading
from unittest import mock

from oxlen.core.light.meter import Spot
from oxlen.metering import picture_cache
from tests.in_library import InLibrary
from tests.pictures.making import corners, jpeg


class Eviction(InLibrary):
    def setUp(self):
        self.pictures = [
            self.taken_in(jpeg(corners(40 + 8 * at, 60)), f"{at}.jpg")[1].sha256 for at in range(6)
        ]
        self.cache = picture_cache.PictureCache(self.library)
        self.addCleanup(self.cache.close)

    def test_a_picture_in_use_stays_open_and_the_rest_is_let_go(self):
        first, second, third = self.pictures[:3]
        with mock.patch.object(picture_cache, "MAX_OPEN_BYTES", 1), self.cache._in_use(first):
            self.cache.frame_light(second)
            self.cache.frame_light(third)
            self.assertEqual(set(self.cache._open), {first, third})
            self.assertIsNotNone(self.cache._open[first].picture.spot(Spot(0.25, 0.75, 0.1)))
        self.assertEqual(set(self.cache._open), {third})

    def test_spots_read_side_by_side_are_never_taken_for_unmetered(self):
        tones = {sha: self.cache.spot_tone(sha, Spot(0.25, 0.75, 0.1)) for sha in self.pictures}
        wrong = []

        def read_many(start):
            for step in range(30):
                sha = self.pictures[(start + step) % len(self.pictures)]
                tone = self.cache.spot_tone(sha, Spot(0.25, 0.75, 0.1 + 0.001 * step))
                if tone is None:
                    wrong.append(sha)

        with mock.patch.object(picture_cache, "MAX_OPEN_BYTES", 1):
            threads = [threading.Thread(target=read_many, args=(at,)) for at in range(4)]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
        self.assertEqual(wrong, [])
        self.assertTrue(all(tones.values()))
        self.assertEqual(len(self.cache._open), 1)
