"""Pictures taken on the phone without a connection: readings, takes and sheets of their own."""

import base64
import unittest

import numpy as np
from playwright.sync_api import expect

from tests.browser.phone.with_phone import WithPhone
from tests.pictures.making import exif, jpeg

OLD_TAKE = """() => new Promise((done, fail) => {
  const opened = indexedDB.open('oxlen-waiting', 1);
  opened.onupgradeneeded = () => {
    opened.result.createObjectStore('edits');
    const pictures = opened.result.createObjectStore('pictures', { keyPath: 'place' });
    pictures.put({ place: 1, mark: 'kept-by-an-older-page', sheet: %d, uid: '%s', name: 'old.jpg',
      file: new Blob([Uint8Array.from(atob('%s'), (sign) => sign.charCodeAt(0))]), refused: null });
  };
  opened.onsuccess = () => { opened.result.close(); done(); };
  opened.onerror = () => fail(opened.error);
})"""


def picture(level, shutter=(1, 50)):
    """A plain picture of one grey, shot at ISO 100."""
    codes = np.full((300, 400, 3), level, dtype=np.uint8)
    return jpeg(codes, exif(iso=100, shutter=shutter, f_number=(18, 10)))


class PicturesWait(WithPhone):
    def outing(self):
        return self.page.request.get(f"{self.server.url}/api/outings").json()[0]

    def test_a_reading_two_takes_and_a_new_sheet_wait_and_are_sent_as_what_they_are(self):
        url, _ = self.phone_on_sheet()
        phone, before = self.phone, self.outing()
        phone.context.set_offline(True)
        self.take("wall.jpg", picture(118))
        waits = phone.get_by_text("A reading waits on this phone. The slip uses the earlier light.")
        expect(waits).to_have_count(1)
        phone.get_by_role("tab", name="Picture").tap()
        for name in ("one.jpg", "two.jpg"):
            self.add_take(name, picture(90))
            expect(phone.get_by_text(name)).to_be_visible()
        phone.goto(f"{url}/")
        phone.get_by_label("Add pictures").first.set_input_files(
            [{"name": "sluice-gate.jpg", "mimeType": "image/jpeg", "buffer": picture(60)}]
        )
        expect(phone.get_by_text("The new sheet waits on this phone.")).to_be_visible()
        phone.get_by_role("link", name="Saved on this phone").tap()
        expect(phone.get_by_role("heading", name="4 waiting to be sent")).to_be_visible()
        kinds = phone.get_by_role("region", name="waiting to be sent").get_by_role("listitem")
        kinds = [row.split("\n")[-1].split(",")[0] for row in kinds.all_inner_texts()]
        self.assertEqual(kinds, ["reading", "take", "take", "new sheet"])
        self.assertIsNone(self.sheet_now()["body"]["picture"])
        phone.context.set_offline(False)
        expect(phone.get_by_text("1 reading, 2 takes, 1 new sheet sent")).to_be_visible()
        now = self.sheet_now()
        report = now["answer"]["picture"]["report"]
        self.assertEqual((report["settings"]["iso"], report["settings"]["shutter_s"]), (100, 0.02))
        # 118 of 255 is 18 % of white by the sRGB curve: mid.
        self.assertAlmostEqual(report["frame"]["mean_stops"], 0.0, delta=0.05)
        takes = self.page.request.get(f"{self.server.url}/api/sheets/{now['id']}/takes").json()
        self.assertEqual(len(takes), 1)  # the same picture twice is one take
        self.assertEqual(self.outing()["sheet_count"], before["sheet_count"] + 1)
        phone.goto(f"{url}/sheets/{now['id']}")
        expect(phone.get_by_alt_text("Picture of Made for this")).to_be_visible()
        expect(waits).to_have_count(0)

    def test_a_sheet_begun_by_questions_waits_and_is_made_once(self):
        url, _ = self.phone_on_sheet()
        phone, before = self.phone, self.outing()
        phone.context.set_offline(True)
        phone.goto(f"{url}/begin?of=water")
        phone.get_by_role("radio", name="Waterfall", exact=True).check()
        phone.get_by_role("button", name="Show slip").tap()
        expect(phone.get_by_text("The new sheet waits on this phone.")).to_be_visible()
        phone.get_by_role("link", name="Saved on this phone").tap()
        waits = phone.get_by_role("region", name="waiting to be sent").get_by_role("listitem")
        expect(waits).to_contain_text("new sheet, by questions")
        phone.context.set_offline(False)
        expect(phone.get_by_text("1 new sheet sent to the computer.")).to_be_visible()
        expect(phone.get_by_role("heading", name="Nothing waits to be sent")).to_be_visible()
        now = self.outing()
        self.assertEqual(now["sheet_count"], before["sheet_count"] + 1)
        made = max(sheet["id"] for sheet in now["sheets"])
        body = self.page.request.get(f"{self.server.url}/api/sheets/{made}").json()["body"]
        self.assertEqual(body["looks"][0]["subject"], "fall")

    def test_what_an_older_page_left_is_sent_as_the_take_it_was(self):
        url = self.paired(is_secure=False)
        self.sheet(9.0)
        sheet = self.sheet_now()
        self.phone.goto(f"{url}/theme.js")
        text = base64.b64encode(picture(118)).decode()
        self.phone.evaluate(OLD_TAKE % (sheet["id"], sheet["uid"], text))
        self.phone.goto(f"{url}/")
        expect(self.phone.get_by_text("1 take sent to the computer.")).to_be_visible()
        takes = f"{self.server.url}/api/sheets/{sheet['id']}/takes"
        self.assertEqual(len(self.page.request.get(takes).json()), 1)

    def test_a_reading_for_a_sheet_that_is_gone_is_kept_and_named(self):
        _, number = self.phone_on_sheet()
        phone = self.phone
        phone.context.set_offline(True)
        self.take("wall.jpg", picture(118))
        expect(phone.get_by_text("A reading waits on this phone.")).to_be_visible()
        with self.server.app.state.context.library.writer() as connection:
            connection.execute("UPDATE sheet SET uid = 'another' WHERE id = ?", (number,))
        phone.context.set_offline(False)
        gone = phone.get_by_text("wall.jpg: The sheet of this picture is not here.")
        expect(gone).to_be_visible()
        self.assertIsNone(self.sheet_now()["body"]["picture"])
        phone.get_by_role("button", name="Delete reading").tap()
        expect(gone).to_have_count(0)


if __name__ == "__main__":
    unittest.main()
