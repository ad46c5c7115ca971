"""Answers are those that were recorded: nothing changes unnoticed."""

import unittest

from tests.recorded.answers import KINDS, digests, recorded

SEE = "see tools/recorded.py --against HEAD; where it is wanted, tools/recorded.py --anew"
TOGETHER = 8


class Recorded(unittest.TestCase):
    """A test for every few seeds: each is quick, and tells which part of the code it runs."""

    def compare(self, kind, seeds):
        before = recorded()
        for seed in seeds:
            with self.subTest(f"{kind} {seed}: {SEE}"):
                self.assertEqual(digests(kind, seed), before[f"{kind} {seed}"])

    def test_the_record_is_of_these_answers_and_no_others(self):
        wanted = {f"{kind} {seed}" for kind, (seeds, _) in KINDS.items() for seed in seeds}
        self.assertEqual(set(recorded()), wanted)


def _some(kind, seeds):
    return lambda test: test.compare(kind, seeds)


for kind, (all_seeds, _) in KINDS.items():
    for first in all_seeds[::TOGETHER]:
        name = f"test_{kind}s_{first:03d}_on"
        setattr(Recorded, name, _some(kind, all_seeds[first : first + TOGETHER]))
