"""The tables of expert verdicts: every case holds."""

import unittest

from tests.expert.table import cases, misses


class ExpertVerdicts(unittest.TestCase):
    def hold(self, table, least):
        read = cases(table)
        self.assertGreaterEqual(len(read), least)
        for case in read:
            with self.subTest(case["id"]):
                self.assertEqual(misses(case), [])

    def test_every_case_of_the_table_holds(self):
        self.hold("cases", 40)

    def test_every_hard_scene_gets_an_answer_to_sign(self):
        self.hold("scenes", 17)
