"""The Milky Way in the frame of a lens: places by plane trigonometry, moved by the hour."""

import math
import unittest
from datetime import date
from zoneinfo import ZoneInfo

from oxlen.core.night.ask import NightAsk
from oxlen.core.sky.dark_windows import Wanted
from oxlen.core.sky.horizon import HorizonPoint
from oxlen.core.sky.place import Place
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.light_plan.night import night_plan
from oxlen.light_plan.night_place import NightPlace

NIGHT = date(2027, 6, 4)
HILL_DEG = 6.0


def night(latitude_deg=45.0, hill_deg=0.0):
    horizon = [HorizonPoint(at, hill_deg) for at in range(0, 360, 30)]
    where = NightPlace(
        Place(latitude_deg, -1.25),
        ZoneInfo("Europe/London"),
        magnitude=21.0,
        plus_minus=0.3,
        wanted=Wanted(least_altitude_deg=8.0, horizon=horizon),
    )
    phone = shipped_profile("wherry-3").to_phone()
    return night_plan(where, NIGHT, phone=phone, asked=NightAsk())


class SkyFrames(unittest.TestCase):
    def test_core_and_horizon_are_where_plane_trigonometry_puts_them(self):
        found = night()
        upright, wide = found.frames
        self.assertEqual((upright.held, wide.held), ("upright", "wide"))
        self.assertAlmostEqual(upright.down_deg, wide.across_deg)
        for frame in found.frames:
            half = math.tan(math.radians(frame.down_deg / 2))
            level = [0.5 + math.tan(math.radians(frame.altitude_deg)) / half / 2]
            middle = min(frame.skyline, key=lambda point: abs(point[0] - 0.5))
            self.assertAlmostEqual(middle[1], level[0], delta=0.003)
            core = frame.moments[frame.best].core
            above = found.band.centre_altitude_deg - frame.altitude_deg
            self.assertAlmostEqual(core[0], 0.5, delta=0.003)
            self.assertAlmostEqual(
                core[1], 0.5 - math.tan(math.radians(above)) / half / 2, delta=0.003
            )

    def test_a_hill_lifts_the_skyline_by_its_height(self):
        (flat, _), (hilly, _) = night().frames, night(hill_deg=HILL_DEG).frames
        y = [min(f.skyline, key=lambda point: abs(point[0] - 0.5))[1] for f in (flat, hilly)]
        self.assertAlmostEqual((y[0] - y[1]) * flat.down_deg, HILL_DEG, delta=1.5)

    def test_the_core_moves_to_the_right_through_the_night_in_the_north(self):
        for latitude, is_right in ((45.0, True), (-35.0, False)):
            frame = night(latitude).frames[0]
            xs = [moment.core[0] for moment in frame.moments if moment.core]
            self.assertGreater(len(xs), 3)
            with self.subTest(latitude):
                self.assertEqual(xs == sorted(xs), is_right)
