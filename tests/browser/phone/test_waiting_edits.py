"""An edit that the computer cannot save, or that contradicts another, waits on this device."""

import json
import re

from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser

PROBLEM = {
    "type": "about:blank",
    "title": "Full",
    "code": "disk-full",
    "detail": "The disk is full.",
}


class WaitingEdits(InBrowser):
    def title(self):
        return self.page.get_by_label("Sheet title")

    def retitle(self, words):
        self.title().fill(words)
        self.title().press("Enter")

    def stored_title(self):
        return self.page.evaluate(
            """() => new Promise((resolve) => {
              indexedDB.open('oxlen-waiting').onsuccess = ({ target: { result } }) => {
                result.transaction('edits').objectStore('edits').getAll().onsuccess = (got) => {
                  result.close();
                  resolve(got.target.result[0]?.body.title ?? null);
                };
              };
            })"""
        )

    def kept_title(self):
        number = self.page.url.rsplit("/", 1)[1]
        answer = self.page.request.get(f"{self.server.url}/api/sheets/{number}")
        return answer.json()["body"]["title"]

    def refuse(self, status):
        """Answer every edit like a computer with a full disk, or one that is busy."""

        def answer(route):
            if route.request.method != "PUT":
                return route.continue_()
            body = json.dumps({**PROBLEM, "status": status})
            return route.fulfill(status=status, body=body, content_type="application/problem+json")

        self.page.route("**/api/sheets/*", answer)

    def test_a_full_disk_and_a_locked_database_keep_the_edit_and_send_it_later(self):
        for status, why in ((507, "disk is full"), (503, "computer is busy")):
            with self.subTest(status=status):
                self.sheet(9.0)
                self.refuse(status)
                self.retitle(f"Sluice {status}")
                expect(self.page.get_by_text("Not saved yet: the computer")).to_be_visible()
                expect(self.page.get_by_text(why)).to_be_visible()
                self.assertEqual(self.stored_title(), f"Sluice {status}")
                self.page.reload()
                expect(self.title()).to_have_value(f"Sluice {status}")
                expect(self.page.get_by_text(why)).to_be_visible()
                self.assertEqual(self.kept_title(), "Made for this")
                self.page.unroute_all()
                expect(self.page.get_by_text(re.compile(r"^Saved \d"))).to_be_visible()
                self.assertEqual(self.kept_title(), f"Sluice {status}")
                self.assertIsNone(self.stored_title())
        self.faults = [fault for fault in self.faults if "status of" not in fault]

    def test_a_clash_is_asked_again_after_a_reload_and_after_deciding_later(self):
        self.sheet(9.0)
        number = self.page.url.rsplit("/", 1)[1]
        self.refuse(503)
        self.retitle("Mine")
        expect(self.page.get_by_text("Not saved yet")).to_be_visible()
        there = self.page.request.get(f"{self.server.url}/api/sheets/{number}").json()
        theirs = {
            "version": there["version"],
            "label": "title",
            "body": {**there["body"], "title": "Theirs"},
        }
        answer = self.page.request.put(f"{self.server.url}/api/sheets/{number}", data=theirs)
        self.assertEqual(answer.status, 200, answer.text())
        self.page.unroute_all()
        asked = self.page.get_by_role("dialog", name="Changed here and elsewhere")
        expect(asked).to_be_visible()
        self.page.reload()
        expect(asked).to_be_visible()
        asked.get_by_role("button", name="Close").click()
        expect(self.page.get_by_text("Not saved yet: changed elsewhere too")).to_be_visible()
        expect(self.title()).to_have_value("Mine")
        self.assertEqual((self.stored_title(), self.kept_title()), ("Mine", "Theirs"))
        self.page.get_by_role("button", name="Choose", exact=True).click()
        asked.get_by_label("Mine").check()
        asked.get_by_role("button", name="Keep selected").click()
        expect(self.page.get_by_text(re.compile(r"^Saved \d"))).to_be_visible()
        self.assertEqual(self.kept_title(), "Mine")
        self.faults = [fault for fault in self.faults if "status of" not in fault]
