"""Choices for a stack made one right after another, while their answers are on the way."""

import random
import unittest

from tests.web.modules import called

KEPT = {"combine": "median", "ending": "tif", "land": []}


def after(*events):
    state = {"asked": KEPT, "kept": KEPT, "sending": 0}
    return called("features/stack/asking.ts", "nextAsking", [[state, list(events)]], fold=True)[0]


def changed(**part):
    return {"type": "changed", "part": part}


def answered(kept):
    return {"type": "answered", "kept": kept}


class Asking(unittest.TestCase):
    def test_an_answer_to_an_earlier_choice_never_undoes_a_later_one(self):
        first = {**KEPT, "ending": "jpg"}
        both = {**first, "land": ["f3.jpg"]}
        state = after(
            changed(ending="jpg"),
            changed(land=["f3.jpg"]),
            answered(first),
            {"type": "found", "kept": first},
        )
        self.assertEqual(state["asked"], both)
        self.assertEqual(after(*self.two(), answered(both))["asked"], both)

    def two(self):
        return (
            changed(ending="jpg"),
            changed(land=["f3.jpg"]),
            answered({**KEPT, "ending": "jpg"}),
        )

    def test_a_choice_that_could_not_be_sent_gives_way_to_what_is_kept(self):
        self.assertEqual(after(changed(ending="jpg"), answered(None))["asked"], KEPT)
        state = after(*self.two(), answered(None))
        self.assertEqual(state["asked"], {**KEPT, "ending": "jpg"})

    def test_what_the_computer_made_of_it_is_shown(self):
        tidied = {**KEPT, "combine": "lighten", "ending": "tif"}
        state = after(changed(combine="lighten", ending="dng"), answered(tidied))
        self.assertEqual((state["asked"], state["sending"]), (tidied, 0))

    def test_whatever_the_order_the_last_answer_and_the_screen_agree(self):
        draw = random.Random(11)
        for _ in range(40):
            events, kept, sent = [], KEPT, []
            for _ in range(draw.randint(2, 9)):
                if sent and draw.random() < 0.5:
                    kept = {**kept, **sent.pop(0)}
                    events.append(answered(kept))
                else:
                    part = {draw.choice(list(KEPT)): str(draw.random())}
                    sent.append(part)
                    events.append(changed(**part))
            while sent:
                kept = {**kept, **sent.pop(0)}
                events.append(answered(kept))
            state = after(*events)
            self.assertEqual((state["asked"], state["kept"], state["sending"]), (kept, kept, 0))


if __name__ == "__main__":
    unittest.main()
