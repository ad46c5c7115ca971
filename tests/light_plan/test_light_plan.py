"""Clocks, what pictures teach of a place's light, and when a sheet works."""

import unittest
from dataclasses import replace
from datetime import UTC, date, datetime
from zoneinfo import ZoneInfo

import numpy as np

from oxlen.core.decisions.exposure.ask import LAMPS, LAND, SKY, Lamps
from oxlen.core.decisions.exposure.motion_ask import FrozenMotion
from oxlen.core.decisions.exposure.scene_ask import Land, Sky
from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.errors import BadInput
from oxlen.core.labels import duration_label
from oxlen.core.sky.day import day_light
from oxlen.core.sky.place import Place
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.light_plan.compass import compass
from oxlen.light_plan.day import hours_of_day
from oxlen.light_plan.learning import light_lesson
from oxlen.light_plan.night import focus_words
from oxlen.light_plan.night_place import NightPlace
from oxlen.light_plan.when import DayAsked, sheet_windows
from oxlen.light_plan.zone import (
    clock,
    hours_of_clock,
    midnight_unix_s,
    noon_unix_s,
    zone_at,
    zone_named,
)
from tests.core.asking import ask_brief

YARD = Place(44.6, -63.9)
ZONE = ZoneInfo("America/Halifax")
WHERRY = shipped_profile("wherry-3").to_phone()
ON = DayAsked(NightPlace(YARD, ZONE), date(2027, 6, 4))


class Clocks(unittest.TestCase):
    def test_every_place_has_a_clock_at_sea_and_at_the_poles_too(self):
        for north, east in ((0, -30), (90, 0), (-90, 0), (0, 180), (51.5, 0), (-17, -179.9)):
            zone_named(None, Place(north, east))
        self.assertEqual(zone_at(YARD), "America/Halifax")
        with self.assertRaisesRegex(BadInput, "Nowhere"):
            zone_named("Nowhere", YARD)

    def test_days_on_which_clocks_change_begin_at_their_own_midnight(self):
        for day, hours in (
            (date(2027, 3, 14), 23),
            (date(2027, 11, 7), 25),
            (date(2027, 6, 4), 24),
        ):
            following = date.fromordinal(day.toordinal() + 1)
            long_s = midnight_unix_s(following, ZONE) - midnight_unix_s(day, ZONE)
            self.assertEqual(long_s, 3600 * hours, day)
            whole = hours_of_day(YARD, day, ZONE)
            self.assertEqual(len(whole.quarters), 4 * hours + 1)
            self.assertEqual(whole.quarters[-1].at[:16], f"{following}T00:00")
            inside = [moment.unix_s for moment in whole.moments]
            begins = midnight_unix_s(day, ZONE)
            self.assertTrue(all(begins <= at <= begins + long_s for at in inside))
            self.assertEqual(clock(noon_unix_s(day, ZONE), ZONE), "12:00")

    def test_hours_to_be_out_go_by_the_clock_before_and_after_it_is_changed(self):
        times = np.array(
            [
                datetime(2027, month, day, hour, 15, tzinfo=ZONE).timestamp()
                for month, day in ((3, 1), (3, 14), (7, 1), (11, 7), (12, 1))
                for hour in (0, 4, 13, 23)
            ]
        )
        hours = hours_of_clock(times, ZONE)
        np.testing.assert_allclose(hours, [0.25, 4.25, 13.25, 23.25] * 5)

    def test_labels_are_said_as_people_say_them(self):
        self.assertEqual(
            [compass(day) for day in (0, 44, 359, 202, 203)],
            [
                "north",
                "north-east",
                "north",
                "south",
                "south-west",
            ],
        )
        self.assertEqual(duration_label(59), "59 s")
        self.assertEqual(duration_label(3 * 3600 + 29), "3 h")


class Lessons(unittest.TestCase):
    def predicted(self, hour):
        at = datetime(2027, 6, 4, hour, 30, tzinfo=UTC).timestamp()
        found = day_light(YARD, at - 43200)
        return at, float(np.interp(at, found.unix_s, found.ev100["open"]))

    def test_the_median_of_what_was_off_is_learned_rooms_and_nights_left_out(self):
        read = [
            (at, ev - 1.2 + spread)
            for (at, ev), spread in zip(
                (self.predicted(hour) for hour in range(13, 20)),
                (0.0, 0.1, -0.1, 0.3, -0.2, 0.0, 0.1),
                strict=True,
            )
        ]
        room = [(at, ev - 7) for at, ev in [self.predicted(15)]]
        night = [(datetime(2027, 6, 4, 5, tzinfo=UTC).timestamp(), -6.0)]
        lesson = light_lesson(YARD, [*read, *room, *night])
        self.assertEqual(lesson.pictures, 7)
        self.assertAlmostEqual(lesson.offset_stops, -1.2, delta=0.05)
        self.assertTrue(0.05 < lesson.plus_minus_stops < 0.3)
        self.assertIsNone(light_lesson(YARD, read[:2]))


class Windows(unittest.TestCase):
    def brief(self, ev100, **asked):
        return ask_brief(WHERRY, readings=[PlacedReading("subject", ev100)], **asked)

    def test_each_kind_of_light_has_its_hours(self):
        stars = self.brief(-8.0, support="tripod").asking(SKY, Sky())
        lamp = self.brief(6.0).asking(LAMPS, Lamps(mains_hz=50))
        street = self.brief(-1.0, support="tripod")
        for brief, words, first in (
            (stars, "Moon down", "23:20"),
            (lamp, "any time", "00:00"),
            (street, "Night light", "00:00"),
        ):
            found = sheet_windows(brief, ON, read_unix_s=None)
            with self.subTest(words):
                self.assertIn(words, found.words)
                self.assertEqual(clock(found.spans[0][0], ZONE), first)

    def test_land_with_a_frame_at_dusk_has_the_minutes_of_its_light(self):
        dusk = self.brief(2.0, support="tripod").asking(LAND, Land(shot="dusk"))
        found = sheet_windows(dusk, ON, read_unix_s=None)
        self.assertEqual(len(found.spans), 1)
        begins, ends = found.spans[0]
        # The Sun sets at 20:55 here; it sinks from 4 to 9 degrees down in about 40 minutes.
        self.assertTrue("21:15" < clock(begins, ZONE) < clock(ends, ZONE) < "22:15")
        self.assertIn("At dusk", found.words)
        white = replace(ON, where=NightPlace(Place(78.0, 15.0), UTC), day=date(2027, 6, 21))
        self.assertEqual(sheet_windows(dusk, white, read_unix_s=None).words, "No dusk on this day")

    def test_where_no_hour_works_it_says_what_stands_in_the_way(self):
        polar = replace(ON, where=NightPlace(Place(78.0, 15.0), UTC), day=date(2026, 12, 21))
        by_day = sheet_windows(self.brief(12.0, support="handheld"), polar, read_unix_s=None)
        self.assertEqual((by_day.spans, by_day.words), ((), "No daylight on this day"))
        stays_light = replace(polar, day=date(2027, 6, 21))
        stars = self.brief(-8.0, support="tripod").asking(SKY, Sky())
        found = sheet_windows(stars, stays_light, read_unix_s=None)
        self.assertEqual(found.words, "Not dark with the Moon down this night")
        # A gull close by is never frozen in the light under the trees.
        gull = FrozenMotion(speed_m_s=14.0, distance_m=2.0)
        frozen = self.brief(6.0, support="handheld", freeze=(gull,))
        none = sheet_windows(frozen, ON, read_unix_s=None)
        self.assertEqual(none.spans, ())
        self.assertRegex(none.words, "^No time of this day works: .* against ")

    def test_a_sheet_whose_light_nobody_read_has_no_hours(self):
        found = sheet_windows(ask_brief(WHERRY, readings=[]), ON, read_unix_s=None)
        self.assertEqual(found.spans, ())
        self.assertIn("not measured yet", found.words)

    def test_light_read_early_makes_midday_too_bright_for_it_or_not(self):
        brief = self.brief(9.0, support="handheld")
        dawn = datetime(2027, 6, 4, 8, 45, tzinfo=UTC).timestamp()
        by_dawn = sheet_windows(brief, ON, read_unix_s=dawn)
        at_noon = sheet_windows(brief, ON, read_unix_s=None)
        first = [day.slips[len(day.slips) // 2][1] for day in (by_dawn, at_noon)]
        self.assertNotEqual(first[0], first[1])
        self.assertIn("05:45", by_dawn.words)
        cloudy = replace(ON, cloud="overcast")
        self.assertEqual(
            [at for at, _ in sheet_windows(brief, cloudy, read_unix_s=dawn).slips],
            [at for at, _ in by_dawn.slips],
        )

    def test_a_lens_says_where_its_infinity_lies_or_that_nobody_knows(self):
        lens = WHERRY.lens("main")
        self.assertIn("0.93", focus_words(lens))
        unknown = replace(lens, focus=replace(lens.focus, scales=()))
        self.assertIn("ladder on a bright star", focus_words(unknown))
        self.assertIn("autofocus only", focus_words(replace(lens, focus=None)))
