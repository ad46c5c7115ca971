"""Takes, plans and sequences as they are kept."""

import json

from oxlen.core.errors import NotFound
from oxlen.store.takes import (
    Judgement,
    NewTake,
    add_plan,
    add_sequence,
    add_take,
    change_take,
    pair_raw,
    plan_of,
    set_take_deleted,
    take,
    takes_of,
)
from tests.in_library import NOW, InLibrary
from tests.pictures.making import corners, dng, jpeg


class Takes(InLibrary):
    def setUp(self):
        _, taken = self.taken_in(jpeg(corners(80, 60)), "shot.jpg")
        _, raw = self.taken_in(dng(), "shot.dng")
        self.sheet_id, self.jpeg, self.dng = taken.sheet_id, taken.sha256, raw.sha256

    def add(self, connection, **more):
        new = NewTake(self.sheet_id, "slip", self.jpeg, settings=json.dumps({"iso": 100}), **more)
        return add_take(connection, new, NOW)

    def test_a_take_remembers_the_plan_it_was_shot_by(self):
        with self.library.writer() as connection:
            plan_id = add_plan(
                connection, sheet_id=self.sheet_id, sheet_version=3, plan='{"a": 1}', now=NOW
            )
            sequence_id = add_sequence(connection, plan_id=plan_id, frames=2, now=NOW)
            ids = [
                self.add(connection, plan_id=plan_id, sequence_id=sequence_id, sequence_place=at)
                for at in (0, 1)
            ]
            self.assertEqual(plan_of(connection, plan_id), '{"a": 1}')
            kept = [take(connection, take_id) for take_id in ids]
        self.assertEqual([item.sequence_place for item in kept], [0, 1])
        self.assertEqual([item.sequence_frames for item in kept], [2, 2])
        self.assertEqual(
            {(item.plan_id, item.state, item.shot_on) for item in kept}, {(plan_id, "new", "slip")}
        )

    def test_a_raw_goes_beside_its_processed_file(self):
        with self.library.writer() as connection:
            take_id = self.add(connection)
            pair_raw(connection, self.sheet_id, processed_sha256=self.jpeg, raw_sha256=self.dng)
            self.assertEqual(take(connection, take_id).raw_sha256, self.dng)

    def test_kept_noted_binned_and_taken_back(self):
        with self.library.writer() as connection:
            before = takes_of(connection, self.sheet_id)
            take_id = self.add(connection)
            change_take(connection, take_id, Judgement(state="kept"))
            change_take(connection, take_id, Judgement(note="the third wave"))
            item = take(connection, take_id)
            self.assertEqual((item.state, item.note), ("kept", "the third wave"))
            set_take_deleted(connection, take_id, NOW)
            self.assertEqual(takes_of(connection, self.sheet_id), before)
            set_take_deleted(connection, take_id, None)
            self.assertEqual(len(takes_of(connection, self.sheet_id)), len(before) + 1)

    def test_what_is_not_there_is_named(self):
        with self.library.writer() as connection:
            for call in (
                lambda: take(connection, 999),
                lambda: plan_of(connection, 999),
                lambda: change_take(connection, 999, Judgement(state="kept")),
                lambda: add_take(connection, NewTake(self.sheet_id, "auto", "0" * 64), NOW),
            ):
                with self.assertRaises(NotFound):
                    call()
