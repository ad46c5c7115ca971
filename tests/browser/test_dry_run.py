"""The dry run in the browser: it follows the dot, is compared with auto, and can be shot."""

import re

from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser


class DryRun(InBrowser):
    def open(self, path):
        self.visit(path)
        self.page.get_by_role("radio", name="Dry run").click()
        self.frame = self.page.get_by_role("img", name=re.compile("^Predicted frame, slip"))
        expect(self.frame).to_have_attribute("data-quality", "full")

    def test_it_follows_the_dot_and_stands_beside_auto(self):
        page = self.page
        self.open("/sheets/5")
        before = self.frame.get_attribute("alt")
        page.get_by_role("slider", name="Slip on the map").focus()
        page.keyboard.press("ArrowLeft")
        expect(self.frame).not_to_have_attribute("alt", before)
        expect(self.frame).to_have_attribute("data-quality", "full")
        expect(page.get_by_role("img", name=re.compile("^Predicted frame, auto"))).to_be_visible()
        wipe = page.get_by_role("slider", name="Wipe between slip and auto")
        wipe.focus()
        page.keyboard.press("ArrowRight")
        expect(wipe).to_have_attribute("aria-valuenow", "67")
        page.get_by_role("radio", name="Side by side").click()
        page.get_by_role("radio", name="RAW", exact=True).last.click()
        page.get_by_role("button", name="Shores").click()
        expect(self.frame).to_have_attribute("data-quality", "full")
        expect(page.get_by_role("img", name=re.compile("^Tones of the predicted"))).to_be_visible()
        self.assertEqual(self.faults, [])

    def test_a_coarse_frame_comes_first_after_a_drag_and_the_full_one_once_it_rests(self):
        page = self.page
        self.open("/sheets/4")
        page.wait_for_timeout(600)
        page.evaluate(
            """() => {
                window.seen = [];
                const note = () => {
                    const frame = document.querySelector('img[alt^="Predicted frame, slip"]');
                    const now = frame && `${frame.alt} ${frame.dataset.quality}`;
                    if (now && now !== window.seen.at(-1)) window.seen.push(now);
                };
                new MutationObserver(note).observe(
                    document.body, {subtree: true, attributes: true, childList: true}
                );
                note();
            }"""
        )
        page.get_by_role("slider", name="Slip on the map").focus()
        for _ in range(4):
            before = self.frame.get_attribute("alt")
            page.keyboard.press("ArrowLeft")
            expect(self.frame).not_to_have_attribute("alt", before)
            expect(self.frame).to_have_attribute("data-quality", "full")
        seen = [one.rsplit(" ", 1) for one in page.evaluate("window.seen")]
        self.assertEqual([quality for _, quality in seen], ["full"] + ["coarse", "full"] * 4)
        self.assertEqual(len({words for words, _ in seen}), 5)

    def test_the_frame_can_be_kept_in_three_kinds(self):
        page = self.page
        self.open("/sheets/2")
        for name, ending in (("JPEG", ".jpeg"), ("PNG", ".png"), ("TIFF, 16 bit", ".tif")):
            with page.expect_download() as download:
                page.get_by_role("link", name=name).click()
            self.assertRegex(download.value.suggested_filename, re.escape(ending) + "$")
        expect(page.get_by_text(re.compile("^Clipped .* blocked"))).to_be_visible()
        self.assertEqual(self.faults, [])

    def test_a_shot_on_the_bench_phone_becomes_a_sheet(self):
        page = self.page
        self.open("/sheets/4")
        page.get_by_role("button", name="Shoot this on the bench phone").click()
        page.get_by_role("button", name="Open it").click()
        page.wait_for_url(re.compile("/sheets/(?!4$)"))
        expect(page.get_by_label("Title of the sheet")).to_have_value(re.compile("by the slip"))
        page.get_by_role("tab", name="Picture").click()
        expect(page.get_by_text("Fennick Wherry 3 Main")).to_be_visible()
