"""The order in which an outing's pictures are taken."""

import unittest
from itertools import pairwise

from oxlen.core.decisions.framework.brief import PlacedReading
from oxlen.core.outing.light_windows import slip_by_the_hour, spans_of
from oxlen.core.outing.order import outing_order
from oxlen.formats.phone.shipped import shipped_profile
from tests.core.asking import ask_brief

HOUR = 3600.0


def order(windows, *, takes=600, walk=300, start=0.0):
    return outing_order(windows, takes_s=takes, walk_s=walk, from_s=start)


class Order(unittest.TestCase):
    def test_what_closes_first_is_taken_first_and_nothing_before_its_light(self):
        found = order([(1, [(0, 5 * HOUR)]), (2, [(0, HOUR)]), (3, [(2 * HOUR, 3 * HOUR)])])
        self.assertEqual([picture.id for picture in found], [2, 1, 3])
        self.assertEqual([picture.begins_unix_s for picture in found], [0, 900, 2 * HOUR])

    def test_a_second_window_serves_and_what_fits_nowhere_comes_last(self):
        found = order(
            [(1, [(0, 500)]), (2, [(0, 900), (4 * HOUR, 5 * HOUR)]), (3, []), (4, [(0, 650)])]
        )
        self.assertEqual([picture.id for picture in found], [4, 2, 1, 3])
        self.assertEqual(found[1].begins_unix_s, 4 * HOUR)
        self.assertEqual([picture.begins_unix_s for picture in found[2:]], [None, None])

    def test_each_lies_in_a_window_with_the_walk_between(self):
        windows = [(n, [(n * 700, n * 700 + 2400)]) for n in range(1, 8)]
        found = order(windows)
        spans = dict(windows)
        begun = [picture for picture in found if picture.begins_unix_s is not None]
        for picture in begun:
            first, last = spans[picture.id][0]
            self.assertTrue(first <= picture.begins_unix_s <= last - 600)
        times = [picture.begins_unix_s for picture in begun]
        self.assertTrue(all(b - a >= 900 for a, b in pairwise(times)))


class Hours(unittest.TestCase):
    def test_a_sheet_works_where_its_slip_keeps_every_limit(self):
        phone = shipped_profile("wherry-3").to_phone()
        brief = ask_brief(phone, readings=[PlacedReading("subject", 12.0)], support="handheld")
        shifts = [(quarter * 900.0, float(stops)) for quarter, stops in enumerate((0, -4, -24, 0))]
        found = slip_by_the_hour(brief, shifts)
        self.assertEqual([picture.works for picture in found], [True, True, False, True])
        self.assertIn("against", found[2].words)
        self.assertIn("ISO", found[0].words)
        self.assertEqual(spans_of(found, step_s=900), ((0, 1800), (2700, 3600)))
