"""Kept pictures measured by workers: a worker that dies is not remembered as a bad picture."""

import unittest
from pathlib import Path
from unittest import mock

from oxlen.core.errors import WorkFailed
from oxlen.core.light.meter import Spot
from oxlen.store.library import Library
from oxlen.workers.pictures import PicturesInWorkers


class Remembered(unittest.TestCase):
    def test_a_figure_is_asked_for_once_and_a_dead_worker_is_asked_again(self):
        pool = mock.Mock()
        pool.do.side_effect = [WorkFailed("it died"), "a tone", "another"]
        pictures = PicturesInWorkers(Library(Path("nowhere")), pool)
        spot = Spot("paint", 0.5, 0.5, r=0.1)
        reported = [pictures.spot_tone("a" * 64, spot) for _ in range(3)]
        self.assertEqual(reported, [None, "a tone", "a tone"])
        pool.do.side_effect = [WorkFailed("it died"), "a light"]
        self.assertEqual([pictures.frame_light("a" * 64) for _ in range(2)], [None, "a light"])
        self.assertEqual(pool.do.call_count, 4)
