"""The state of a sheet's edits after every event: nothing that waits is lost or sent twice."""

import itertools
import random
import unittest

from tests.web.modules import called

MODULE = "features/sheet/editing.ts"
AT_REST = {
    "waiting": None,
    "stored": None,
    "sending": False,
    "waits": None,
    "clash": None,
    "held": False,
    "behind": False,
}


def edit(mark, *, version=1, before="a", body="b"):
    return {
        "uid": "u",
        "version": version,
        "label": "l",
        "before": before,
        "body": body,
        "mark": mark,
    }


def after(*events, state=AT_REST):
    """The state after some events, one after another."""
    return called(MODULE, "editing", [[state, list(events)]], fold=True)[0]


class Editing(unittest.TestCase):
    def test_an_edit_waits_and_is_stored_until_it_was_kept(self):
        made = {"type": "edited", "edit": edit("1")}
        state = after(made, {"type": "began"})
        self.assertEqual((state["waiting"], state["stored"]), (edit("1"), edit("1")))
        late = after({"type": "delayed", "why": "the disk is full"}, state=state)
        self.assertEqual((late["waits"], late["held"]), ("the disk is full", True))
        self.assertEqual(late["stored"], edit("1"))

    def test_a_newer_edit_goes_on_from_the_version_that_was_kept(self):
        """Sent before, and by its old version it would meet itself as someone else's."""
        state = after(
            {"type": "edited", "edit": edit("1")},
            {"type": "edited", "edit": edit("2", body="c")},
            {"type": "kept", "edit": edit("1"), "version": 7, "body": "b"},
        )
        expected = edit("2", version=7, before="b", body="c")
        self.assertEqual((state["waiting"], state["stored"]), (expected, expected))

    def test_what_clashes_stays_on_the_disk_until_it_is_decided(self):
        clash = {"edit": edit("1"), "found": {"clashes": ["x"]}}
        state = after({"type": "edited", "edit": edit("1")}, {"type": "clashed", "clash": clash})
        self.assertIsNone(state["waiting"])
        self.assertEqual(state["stored"], edit("1"))
        later = after({"type": "postponed", "why": "later"}, state=state)
        self.assertEqual((later["waiting"], later["held"], later["clash"]), (edit("1"), True, None))
        self.assertEqual(later["stored"], edit("1"))

    def test_unpaired_it_stays_on_the_disk_and_refused_it_goes(self):
        state = after({"type": "edited", "edit": edit("1")})
        unpaired, refused = (after({"type": kind}, state=state) for kind in ("unpaired", "refused"))
        self.assertEqual((unpaired["waiting"], unpaired["stored"]), (None, edit("1")))
        self.assertEqual((refused["waiting"], refused["stored"]), (None, None))

    def test_what_was_kept_over_a_reload_gives_way_to_a_newer_edit(self):
        restored = {"type": "restored", "edit": edit("old")}
        self.assertEqual(after(restored)["waiting"], edit("old"))
        state = after({"type": "edited", "edit": edit("new")}, restored)
        self.assertEqual(state["waiting"], edit("new"))

    def test_whatever_happens_an_edit_that_waits_is_on_the_disk(self):
        """Laws over 400 random walks: only a refusal, an arrival or a decision removes an edit."""
        draw, numbers = random.Random(3), itertools.count()
        plain = ("began", "rested", "unpaired", "decided", "changed elsewhere", "looked again")
        states = [AT_REST] * 400
        for _ in range(8):
            events = [
                draw.choice(
                    [
                        {"type": "edited", "edit": edit(str(next(numbers)))},
                        {"type": "delayed", "why": "busy"},
                        {"type": "postponed", "why": "later"},
                        {"type": draw.choice(plain)},
                    ]
                )
                for _ in states
            ]
            given = [[state, event] for state, event in zip(states, events, strict=True)]
            states, before = called(MODULE, "editing", given), states
            for old, event, new in zip(before, events, states, strict=True):
                if new["waiting"] is not None:
                    self.assertIsNotNone(new["stored"])
                if event["type"] == "edited":
                    self.assertEqual(new["waiting"], event["edit"])
                elif old["stored"] is not None:
                    self.assertEqual(new["stored"], old["stored"], event)


if __name__ == "__main__":
    unittest.main()
