"""Field cards, the slip as text and code, and an outing in a calendar."""

import base64
import io
import json
import re
import unittest
from datetime import UTC, date, datetime
from xml.etree import ElementTree

import numpy as np
import zxingcpp
from icalendar import Calendar
from PIL import Image

from oxlen.cards.calendar_file import outing_calendar
from oxlen.cards.card import light_words
from oxlen.cards.paper import broken
from oxlen.cards.qr_code import MOST_BYTES, QUIET_MODULES, qr_of, qr_png, qr_svg
from oxlen.core.errors import BadInput
from oxlen.server.many_sheets import FEW_SHEETS
from oxlen.store.outings import Outing
from tests.pictures.making import corners, jpeg
from tests.server.test_api import WithApp

SLIPPED = {
    "title": "Oars & rowlocks <dry>",
    "phone": "wherry-3",
    "support": "tripod",
    "readings": [{"id": "a", "name": "Oar", "source": {"kind": "ev", "ev100": 9.0}}],
}


class Cards(WithApp):
    async def made(self, **body):
        made = await self.http.post(f"/api/outings/{self.outing}/sheets", json={**SLIPPED, **body})
        self.assertEqual(made.status_code, 201, made.text)
        return made.json()

    async def test_a_card_is_one_file_with_slip_run_and_a_table_as_it_is_planned(self):
        sheet = await self.made()
        got = await self.http.get(f"/api/sheets/{sheet['id']}/card.html")
        self.assertIn("attachment", got.headers["content-disposition"])
        page = got.text
        self.assertNotRegex(page, r"(src|href)=\"(?!#)|url\(|@import|fetch\(")
        self.assertIn("Oars &amp; rowlocks &lt;dry&gt;", page)
        for line in sheet["answer"]["lines"]:
            self.assertIn(f"<b>{line['value']}</b>", page)
        rows = re.findall(
            r'data-shift="([-\d.]+)" data-iso="([\d.]+)" data-shutter-s="([\d.e-]+)"', page
        )
        near = [-1, -2 / 3, -1 / 3, 0, 1 / 3, 2 / 3, 1]
        shifts = [float(shift) for shift, _, _ in rows]
        np.testing.assert_allclose(shifts, [-3, -2, *near, 2, 3], atol=1e-4)
        for shift, iso, shutter_s in rows:
            body = {**sheet["body"], "light_shift_stops": float(shift)}
            planned = (await self.made(**body))["answer"]["plan"]["slip"]
            with self.subTest(shift=shift):
                self.assertEqual(planned["iso"], float(iso))
                self.assertAlmostEqual(planned["shutter_s"], float(shutter_s))

    async def test_the_table_says_what_other_light_costs(self):
        dim = [{"id": "a", "source": {"kind": "ev", "ev100": 5.0}}]
        sheet = await self.made(support="handheld", readings=dim)
        table = (await self.http.get(f"/api/sheets/{sheet['id']}/light-table")).json()
        by_shift = {round(row["shift_stops"], 2): row for row in table}
        self.assertEqual(by_shift[0]["costs"], "")
        self.assertIn("grainier", by_shift[-3]["costs"])
        self.assertNotEqual(by_shift[-3]["meter"], by_shift[0]["meter"])

    async def test_the_slip_is_there_as_text_as_code_and_on_paper(self):
        sheet = await self.made()
        text = (await self.http.get(f"/api/sheets/{sheet['id']}/slip.txt")).text
        self.assertTrue(text.startswith("Oars & rowlocks <dry>, on Fennick Wherry 3\n1. "))
        drawn = await self.http.get(f"/api/sheets/{sheet['id']}/slip.svg")
        self.assertTrue(ElementTree.fromstring(drawn.text).tag.endswith("svg"))
        paper = await self.http.get(f"/api/sheets/{sheet['id']}/card.pdf")
        self.assertEqual(paper.content[:5], b"%PDF-")
        self.assertEqual(len(re.findall(rb"/Type /Page\b(?!s)", paper.content)), 1)

    async def test_a_card_shows_its_picture_with_marks_and_ways_out_where_nothing_fits(self):
        picture = jpeg(corners(200, 20))
        path = f"/api/outings/{self.outing}/pictures?name=a.jpg"
        made = (await self.http.post(path, content=picture)).json()["sheet"]
        of = f"/api/sheets/{made['id']}"
        plain = self.picture_on((await self.http.get(f"{of}/card.html")).text)
        spot = {"id": "s", "name": "x", "role": "neutral", "x": 0.25, "y": 0.25, "r": 0.05}
        body = {**made["body"], "spots": [spot]}
        edit = {"version": made["version"], "label": "spot", "body": body}
        self.assertEqual((await self.http.put(of, json=edit)).status_code, 200)
        marked = self.picture_on((await self.http.get(f"{of}/card.html")).text)
        self.assertEqual(max(marked.size), max(plain.size))
        changed = np.argwhere(np.abs(np.subtract(marked, plain, dtype=float)).max(axis=2) > 60)
        centre = changed.mean(axis=0) / marked.size[::-1]
        np.testing.assert_allclose(centre, (0.25, 0.25), atol=0.02)
        paper = (await self.http.get(f"{of}/card.pdf")).content
        self.assertIn(b"/DCTDecode", paper)
        walker = {"readings": [{"id": "a", "source": {"kind": "ev", "ev100": 2}}]}
        stuck = await self.made(motion=[{"subject": "runner", "distance_m": 3}], **walker)
        page = (await self.http.get(f"/api/sheets/{stuck['id']}/card.html")).text
        first = stuck["answer"]["plan"]["conflict"]["trades"][0]
        self.assertIn(f"<li>{first['text']}: ", page)

    def picture_on(self, page):
        data = re.search(r"data:image/jpeg;base64,([A-Za-z0-9+/=]+)", page)[1]
        return Image.open(io.BytesIO(base64.b64decode(data)))

    async def test_danger_goes_wherever_the_slip_goes_though_nothing_fits(self):
        glare = [
            {"id": "a", "name": "Boat", "source": {"kind": "ev", "ev100": 12.5}},
            {
                "id": "b",
                "name": "sun",
                "role": "keep-bright",
                "source": {"kind": "ev", "ev100": 23.5},
            },
        ]
        sheet = await self.made(readings=glare)
        answer = sheet["answer"]
        self.assertIsNone(answer["plan"]["slip"])
        self.assertEqual([caution["is_grave"] for caution in answer["cautions"]], [True])
        self.assertIn("certified solar filter", answer["plan"]["cautions"][0])
        self.assertEqual(answer["run"][0]["part"], "care")
        self.assertIn("white", [line["field"] for line in answer["lines"]])
        of = f"/api/sheets/{sheet['id']}"
        for path in (f"{of}/slip.txt", f"{of}/card.html"):
            text = (await self.http.get(path)).text
            with self.subTest(path):
                self.assertIn("certified solar filter", text)

    async def test_an_outing_prints_a_page_a_sheet_and_one_without_slip_says_why(self):
        await self.made()
        bare = {"title": "Nothing read yet", "phone": "wherry-3"}
        empty = (await self.http.post(f"/api/outings/{self.outing}/sheets", json=bare)).json()
        page = (await self.http.get(f"/api/outings/{self.outing}/card.html")).text
        self.assertIn("Drop a picture or add a reading", page)
        count = page.count("<article")
        paper = (await self.http.get(f"/api/outings/{self.outing}/card.pdf")).content
        self.assertEqual(len(re.findall(rb"/Type /Page\b(?!s)", paper)), count)
        refused = await self.http.get(f"/api/sheets/{empty['id']}/slip.svg")
        self.assertEqual(refused.status_code, 422)

    async def test_many_sheets_are_planned_by_two_workers_told_as_they_go_and_keep_their_order(
        self,
    ):
        for number in range(FEW_SHEETS + 5):
            reading = {"id": "a", "source": {"kind": "ev", "ev100": 4 + number / 5}}
            await self.made(title=f"Berth {number}", readings=[reading])
        of = f"/api/outings/{self.outing}/card"
        reported = []
        while not reported or reported[-1]["state"] == "working":
            reported.append((await self.http.get(of, params={"kind": "html"})).json())
        self.assertEqual(reported[-1], {"state": "done", "done": 45, "all": 45})
        page = (await self.http.get(f"{of}.html")).text
        titles = [f"Berth {number}" for number in range(45)]
        self.assertEqual(re.findall(r"<h2>(Berth \d+)</h2>", page), titles)
        paper = (await self.http.get(f"{of}.pdf")).content
        self.assertEqual(len(re.findall(rb"/Type /Page\b(?!s)", paper)), 45)

    async def test_a_sheet_whose_phone_is_gone_says_so_on_the_card_of_its_outing(self):
        await self.made()
        lost = await self.made(title="Lost")
        with self.library.writer() as connection:
            text = json.dumps({**lost["body"], "phone": "sunk-1"})
            connection.execute(
                "UPDATE sheet_revision SET body = ? WHERE sheet_id = ?", (text, lost["id"])
            )
        page = (await self.http.get(f"/api/outings/{self.outing}/card.html")).text
        self.assertIn("sunk-1", page)
        self.assertEqual(page.count("<article"), 2)

    def test_words_are_broken_where_they_would_be_too_wide(self):
        lines = broken("one three  seventeen a b", 9, len)
        self.assertEqual(lines, ["one three", "seventeen", "a b"])
        self.assertEqual(broken("", 9, len), [""])


class CalendarFiles(unittest.TestCase):
    def event(self, **about):
        outing = Outing(1, "Lantern evening", "The quay", "", "2026-10-01", None, uid="u1", **about)
        made = outing_calendar(outing, ["Lanterns"], datetime(2026, 10, 1, tzinfo=UTC))
        return Calendar.from_ical(made).walk("VEVENT")[0]

    def test_hours_of_the_light_become_those_of_the_event(self):
        outing = {"date": "2026-10-17", "time_zone": "Europe/London"}
        all_day = self.event(**outing)
        self.assertEqual(all_day["dtstart"].dt, date(2026, 10, 17))
        self.assertEqual(all_day["uid"], "u1@oxlen")
        for words, hours in (("18:40 to 19:20", 2 / 3), ("from 22.30", 1), ("23:30–01:00", 1.5)):
            made = Outing(1, "Evening", "", words, "2026-10-01", None, uid="u", **outing)
            file = outing_calendar(made, [], datetime(2026, 10, 1, tzinfo=UTC))
            event = Calendar.from_ical(file).walk("VEVENT")[0]
            with self.subTest(words):
                length = event["dtend"].dt - event["dtstart"].dt
                self.assertAlmostEqual(length.total_seconds() / 3600, hours)
                self.assertEqual(str(event["dtstart"].dt.tzinfo), "Europe/London")

    def test_without_a_day_it_says_so(self):
        with self.assertRaisesRegex(BadInput, "date first"):
            self.event()


class Codes(unittest.TestCase):
    texts = ("1. ISO: 50", "½ stop − ⅓, “Öre” 冷\n" * 9, "x" * MOST_BYTES)

    def test_a_printed_code_says_the_text_in_every_script_it_was_written_in(self):
        for text in self.texts:
            with self.subTest(text[:20]), Image.open(qr_png(qr_of(text))) as drawn:
                self.assertEqual(zxingcpp.read_barcode(drawn.convert("L")).text, text)

    def test_the_drawing_on_screen_has_the_same_modules_as_the_printed_one(self):
        for text in self.texts:
            code = qr_of(text)
            seen = np.zeros_like(code.is_dark)
            root = ElementTree.fromstring(qr_svg(code))
            row, column = 0, 0
            for right, down, dark in re.findall(r"m(-?\d+) (-?\d+)h(\d+)", root[1].get("d")):
                row, column = row + int(down), column + int(right)
                seen[row, column : column + int(dark)] = True
                column += int(dark)
            np.testing.assert_array_equal(seen, code.is_dark)
            quiet = code.is_dark[:QUIET_MODULES], code.is_dark[:, -QUIET_MODULES:]
            self.assertFalse(any(side.any() for side in quiet))

    def test_a_text_too_long_for_a_code_is_refused_by_its_length(self):
        with self.assertRaisesRegex(BadInput, f"{MOST_BYTES} bytes"):
            qr_of("é" * MOST_BYTES)


class LightWords(unittest.TestCase):
    def test_thirds_and_halves_are_written_as_such(self):
        rows = {-3: "3 stops less", 2 / 3: "⅔ stop more", 1 + 1 / 3: "1⅓ stops more"}
        self.assertEqual({row: light_words(row) for row in rows}, rows)
