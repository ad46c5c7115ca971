"""`oxlen phone-from` and `oxlen measure-phone`, as people run them."""

import json
import tempfile
import unittest
from pathlib import Path

from oxlen.devices.standins import mystery_pictures as pictures
from oxlen.devices.standins.mystery_phone import mystery_phone
from tests.cli.test_commands import oxlen

PHONE = mystery_phone(5, size=(1024, 768))


class Phones(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def written(self, files):
        for file in files:
            (self.folder / file.name).write_bytes(file.content)
        return sorted(self.folder.iterdir())

    def test_a_profile_is_printed_planned_with_and_measured_on(self):
        files = self.written(pictures.everyday(PHONE))
        answers = self.folder / "answers.json"
        answers.write_text('{"iso_low": 100, "shutter_slowest_s": 10}')
        made = oxlen("phone-from", *files, "--answers", answers)
        self.assertEqual(made.returncode, 0, made.stderr)
        profile = json.loads(made.stdout)
        self.assertEqual(profile["format"], "oxlen-phone/2")
        lens = profile["lenses"][0]
        self.assertEqual(set(lens["focal_mm"]), {"value", "plus_minus", "origin", "date"})
        self.assertEqual(lens["modes"][0]["base_iso"]["origin"], "typed")
        # The printed profile is itself what a brief may hold as its phone.
        brief = {"phone": profile, "readings": [{"role": "subject", "ev100": 4}]}
        planned = oxlen("plan", "-", stdin=json.dumps(brief))
        self.assertEqual(planned.returncode, 0, planned.stderr)
        own = self.folder / "own.json"
        own.write_text(made.stdout)
        row = [self.folder / picture.name for picture in pictures.shot_in_a_row(PHONE, 0.1, 8)]
        self.written(pictures.shot_in_a_row(PHONE, 0.1, 8))
        found = oxlen("measure-phone", "pace", *row, "--phone", own)
        self.assertEqual(found.returncode, 0, found.stderr)
        gap = json.loads(found.stdout)["figures"][0]
        self.assertLess(abs(gap["value"] / PHONE.hidden.frame_gap_s - 1), 0.05)

    def test_two_phones_are_refused_in_a_sentence(self):
        other = mystery_phone(4, size=(1024, 768))
        files = [*self.written(pictures.everyday(PHONE))]
        (self.folder / "other.jpg").write_bytes(next(iter(pictures.everyday(other))).content)
        mixed = oxlen("phone-from", *files, self.folder / "other.jpg")
        self.assertEqual(mixed.returncode, 2)
        self.assertIn("These pictures are from 2 phones", mixed.stderr)
        self.assertEqual(mixed.stdout, "")
