"""Numbers, times and dates are written alike on both sides, by one table of cases."""

import json
import re
import unittest
from datetime import date

from oxlen.core import labels
from tests.web.modules import ROOT, called

CASES = json.loads((ROOT / "tests" / "reference" / "number_cases.json").read_text("utf-8"))
MODULE = "ui/numbers.ts"
WRITERS = {
    "signed": ("signed", labels.signed),
    "ev": ("ev", labels.ev_label),
    "stops": ("stops", labels.stops_label),
    "percent": ("percent", labels.percent_label),
    "few": ("few", labels.few_label),
    "file size": ("fileSize", labels.file_size_label),
    "duration": ("duration", labels.duration_label),
    "exposure time": ("exposureTime", labels.time_label),
    "day": ("dayLabel", lambda day: labels.day_label(date.fromisoformat(day))),
}
OWN_WAY = re.compile(r"toFixed|toPrecision|toLocale|\bIntl\.")


class Numbers(unittest.TestCase):
    def test_both_sides_write_every_case_as_the_table_says(self):
        self.assertEqual(set(CASES), set(WRITERS))
        for kind, cases in CASES.items():
            name, write = WRITERS[kind]
            expected = [text for _, text in cases]
            with self.subTest(kind):
                self.assertEqual([write(*values) for values, _ in cases], expected)
                self.assertEqual(called(MODULE, name, [values for values, _ in cases]), expected)

    def test_they_agree_on_any_value_halves_too(self):
        values = [[n / 8] for n in range(-80, 81)] + [[n / 7.3] for n in range(-40, 41)]
        for kind in ("signed", "ev", "stops", "few"):
            name, write = WRITERS[kind]
            with self.subTest(kind):
                self.assertEqual(called(MODULE, name, values), [write(*value) for value in values])
        spans = [[1.7**n] for n in range(22)]
        self.assertEqual(
            called(MODULE, "duration", spans), [labels.duration_label(*span) for span in spans]
        )

    def test_exposure_times_of_every_third_of_a_stop_agree(self):
        times = [[2 ** (n / 3)] for n in range(-42, 25)]
        self.assertEqual(
            called(MODULE, "exposureTime", times), [labels.time_label(*time) for time in times]
        )

    def test_no_page_writes_numbers_its_own_way(self):
        found = [
            str(path.relative_to(ROOT))
            for path in sorted((ROOT / "web" / "src").rglob("*.ts*"))
            if OWN_WAY.search(path.read_text("utf-8"))
        ]
        self.assertEqual(found, ["web/src/ui/numbers.ts"])


if __name__ == "__main__":
    unittest.main()
