"""The slip for light that has changed: each row what the plan itself says of that light."""

from oxlen.core.decisions.lens.ask import LENS
from oxlen.core.decisions.plan import solved
from oxlen.core.light.exposure import ev100
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.sheet.file import EvNumber, ReadingBody, SheetBody
from oxlen.phones.briefed_sheet import KitAtHand, briefed_sheet
from oxlen.views.answer import answer
from oxlen.views.light_table import light_table, steps_a_stop
from tests.core.random_briefs import random_brief
from tests.in_library import InLibrary


def body_at(light, **more):
    """A sheet with one reading."""
    reading = ReadingBody(id="a", source=EvNumber(kind="ev", ev100=light))
    return SheetBody(title="Jetty", readings=[reading], **more)


class LightTable(InLibrary):
    def table(self, body):
        profile = shipped_profile(body.phone)
        return light_table(briefed_sheet(body, profile, self.room, kit=KitAtHand()).brief)

    def test_every_row_is_the_plan_of_that_light_on_the_same_lens(self):
        body = body_at(9.0, support="handheld")
        lens = answer(body, shipped_profile, self.room).plan.slip.lens
        rows = self.table(body)
        self.assertEqual([row.shift_stops for row in rows], [k / 3 for k in range(-9, 10)])
        for row in rows:
            there = body_at(9.0 + row.shift_stops, support="handheld", lens=lens)
            slip = answer(there, shipped_profile, self.room).plan.slip
            with self.subTest(row.shift_stops):
                self.assertEqual((row.iso, row.shutter_s), (slip.iso, slip.shutter_s))
                f_number = shipped_profile("wherry-3").to_phone().lens(lens).f_number
                off = 9.0 + row.shift_stops - ev100(f_number, row.shutter_s, row.iso)
                self.assertLess(abs(off), 0.2)

    def test_the_row_of_the_light_as_read_is_the_slip_and_every_row_has_its_lens(self):
        nothing = 0
        for seed in range(60):
            brief = random_brief(seed)
            decided = solved(brief)
            rows = light_table(brief, decided, for_card=True)
            (now,) = (row for row in rows if row.shift_stops == 0)
            slip = decided.slip
            with self.subTest(seed):
                expected = (None, None) if slip is None else (slip.iso, slip.shutter_s)
                self.assertEqual((now.iso, now.shutter_s), expected)
                # Other light on this lens: where nothing fits, no other lens is taken unsaid.
                lens = decided.search.brief.lens.id
                for row in (rows[0], rows[-1]):
                    there = solved(brief.asking(LENS, lens).lit(row.shift_stops)).slip
                    self.assertEqual(row.iso, None if there is None else there.iso)
            nothing += slip is None
        self.assertTrue(10 < nothing < 50, nothing)

    def test_its_rows_go_by_the_steps_of_the_phones_shutter(self):
        self.assertEqual(steps_a_stop([2.0**k for k in range(-9, 1)]), 1)
        self.assertEqual(steps_a_stop([2 ** (k / 2) for k in range(-9, 1)]), 2)
        self.assertEqual(steps_a_stop([2 ** (k / 10) for k in range(-90, 1)]), 3)
        self.assertEqual(steps_a_stop([1 / 60]), 1)

    def test_where_nothing_fits_it_says_what_stands_against_it(self):
        walker = [{"subject": "runner", "distance_m": 3}]
        rows = self.table(body_at(2.5, motion=walker))
        darkest = rows[0]
        self.assertEqual((darkest.iso, darkest.shutter_s), (None, None))
        self.assertRegex(darkest.label, r"^\d+\.\d stops too dark$")
        self.assertIn("runner", darkest.costs)
        self.assertEqual(self.table(SheetBody(title="Bare")), [])
