"""Which thing a take shows: by order, by code, after an aim; each take exactly once."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from oxlen.core.series.assigning import (
    Slot,
    assigned,
    next_slot,
    slot_after_thing,
    wanted_slots,
)

WANTED = wanted_slots([1, 2, 3], ["front", "back"])


def slots(found):
    return [each.slot and (each.slot.thing, each.slot.view) for each in found.takes]


class Assigning(unittest.TestCase):
    def test_takes_follow_the_list_all_views_of_a_thing_first(self):
        found = assigned([10, 11, 12], WANTED, filled=set(), codes={})
        self.assertEqual(slots(found), [(1, "front"), (1, "back"), (2, "front")])
        self.assertEqual(next_slot(WANTED, {each.slot for each in found.takes}, None), WANTED[3])

    def test_what_is_open_at_the_start_is_shot_at_the_end(self):
        filled = set(WANTED) - {Slot(1, "back"), Slot(3, "back")}
        found = assigned([20, 21, 22], WANTED, filled=filled, codes={}, last=Slot(3, "front"))
        self.assertEqual(slots(found), [(3, "back"), (1, "back"), None])
        self.assertEqual(found.takes[2].how, "spare")

    def test_a_code_is_no_picture_and_names_the_thing_of_the_next(self):
        found = assigned([1, 2, 3, 4], WANTED, filled=set(), codes={1: 3, 4: 2})
        self.assertEqual(slots(found), [None, (3, "front"), (3, "back"), None])
        self.assertEqual([each.how for each in found.takes], ["code", "order", "order", "code"])
        # The last frame is a code: what comes with the next takes is of its thing.
        self.assertEqual(found.aim, Slot(2, "front"))

    def test_an_aim_is_shot_although_it_has_a_picture_and_the_order_goes_on_after_it(self):
        filled = {Slot(1, "front"), Slot(1, "back"), Slot(2, "front")}
        found = assigned([5, 6], WANTED, filled=filled, codes={}, aim=Slot(1, "back"))
        self.assertEqual(slots(found), [(1, "back"), (2, "back")])

    def test_a_skipped_thing_is_passed_with_all_its_views_and_stays_open(self):
        filled = {Slot(2, "front"), Slot(2, "back")}
        after = slot_after_thing(WANTED, filled, Slot(1, "front"))
        self.assertEqual(after, Slot(3, "front"))
        self.assertEqual(slot_after_thing(WANTED, filled, after), Slot(1, "front"))
        self.assertIsNone(slot_after_thing(WANTED, set(WANTED), Slot(1, "front")))

    @given(st.integers(0, 12), st.sets(st.sampled_from(WANTED)))
    def test_no_picture_is_given_twice_and_none_is_left_open(self, count, filled):
        takes = list(range(count))
        found = assigned(takes, WANTED, filled=filled, codes={})
        given_now = [each.slot for each in found.takes if each.slot]
        self.assertEqual([each.take for each in found.takes], takes)
        self.assertEqual(len(given_now), len(set(given_now)))
        self.assertEqual(len(given_now), min(count, len(set(WANTED) - filled)))
        self.assertFalse(filled & set(given_now))
