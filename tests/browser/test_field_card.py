"""The field card opened from disk: without a network, without a server, without scripts."""

import tempfile
from pathlib import Path

from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser, shared

PHONE = {"viewport": {"width": 390, "height": 844}, "offline": True}


class FieldCard(InBrowser):
    def saved_card(self):
        """The card of an outing, saved as people do, as a file."""
        page = self.page
        self.visit("/")
        evening = page.locator("section, div").filter(has=page.get_by_label("Outing title"))
        evening.first.get_by_role("button", name="Export").last.click()
        with page.expect_download() as coming:
            page.get_by_role("link", name="Field cards").click()
        path = Path(tempfile.mkdtemp(dir=shared().root)) / coming.value.suggested_filename
        coming.value.save_as(path)
        return path

    def opened(self, path, **how):
        context = shared().context.browser.new_context(**PHONE, **how)
        self.addCleanup(context.close)
        page = context.new_page()
        page.goto(path.as_uri())
        return page

    def test_from_disk_it_counts_ticks_and_steps_the_light(self):
        path = self.saved_card()
        page = self.opened(path)
        card = page.locator("article").filter(has_text="Kettle drawn with a lamp")
        clock = card.locator(".clock").first
        clock.get_by_role("button").click()
        timer = clock.get_by_role("timer")
        first = timer.inner_text()
        expect(timer).not_to_have_text(first)
        clock.get_by_role("button", name="Stop").click()
        expect(timer).to_be_hidden()
        step = card.locator("input[data-step]").first
        step.check()
        page.reload()
        expect(step).to_be_checked()
        shown = card.get_by_role("status")
        expect(shown).to_contain_text("as measured")
        card.get_by_role("button", name="More light").click()
        expect(shown).to_contain_text("more")
        dial = card.locator("tr[data-shift]").filter(has_text="more").first.locator("td b")
        expect(shown).to_contain_text(dial.inner_text())

    def test_without_scripts_it_still_reads(self):
        page = self.opened(self.saved_card(), java_script_enabled=False)
        card = page.locator("article").first
        expect(card.get_by_role("region", name="Slip").locator("li").first).to_be_visible()
        expect(card.locator("tr").nth(2)).to_be_visible()
        expect(card.locator(".chooser")).to_be_hidden()
