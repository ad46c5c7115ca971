"""The dry run in the browser: it follows the dot, is compared with auto, and can be shot."""

import re

from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser
from tests.pictures.making import corners, jpeg


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
        page.get_by_role("radio", name="Pair").click()
        page.get_by_role("radio", name="RAW", exact=True).click()
        page.get_by_role("button", name="Mark clipping").click()
        expect(self.frame).to_have_attribute("data-quality", "full")
        expect(page.get_by_role("img", name=re.compile("^Tones of the predicted"))).to_be_visible()
        self.assertEqual(self.faults, [])

    def test_a_coarse_frame_comes_first_after_a_drag_and_the_full_one_once_it_rests(self):
        page = self.page
        self.open("/sheets/5")
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
        for _ in range(3):
            before = self.frame.get_attribute("alt")
            page.keyboard.press("ArrowLeft")
            expect(self.frame).not_to_have_attribute("alt", before)
            expect(self.frame).to_have_attribute("data-quality", "full")
        seen = [line.rsplit(" ", 1) for line in page.evaluate("window.seen")]
        self.assertEqual([quality for _, quality in seen], ["full"] + ["coarse", "full"] * 3)
        self.assertEqual(len({words for words, _ in seen}), 4)

    def test_the_frame_can_be_kept_in_three_kinds(self):
        page = self.page
        self.open("/sheets/2")
        for name, ending in (("JPEG", ".jpeg"), ("PNG", ".png"), ("TIFF, 16 bit", ".tif")):
            with page.expect_download() as download:
                page.get_by_role("link", name=name).click()
            self.assertRegex(download.value.suggested_filename, re.escape(ending) + "$")
        self.assertEqual(self.faults, [])

    def figures(self, row):
        """The row of the table of figures, one text a frame."""
        table = self.page.get_by_role("table", name="Combined frames")
        return table.get_by_role("row", name=row).get_by_role("cell").all_inner_texts()

    def test_figures_of_slip_and_auto_stand_side_by_side(self):
        page = self.page
        self.open("/sheets/5")
        expect(page.get_by_role("img", name=re.compile("^Predicted frame, auto"))).to_be_visible()
        slip, auto = self.figures("Noise, SNR")
        stated = page.get_by_role("region", name="Slip").get_by_text("Noise", exact=True)
        self.assertTrue(stated.locator("xpath=../dd").inner_text().endswith(f"SNR {slip}"))
        self.assertNotEqual(slip, auto)
        self.assertEqual([figure.split(" ")[-1] for figure in self.figures("Clipped")], ["%", "%"])

    def test_the_looks_can_stand_beside_each_other(self):
        page = self.page
        self.open("/sheets/5")
        page.get_by_role("radio", name="vs RAW").click()
        expect(page.get_by_role("img", name=re.compile("^Predicted.*, RAW$"))).to_be_visible()
        expect(page.get_by_role("img", name=re.compile("^Predicted frame, auto"))).to_have_count(0)
        self.assertEqual(len(set(self.figures("Noise, SNR"))), 1)

    def test_the_loupe_shows_the_frame_it_stands_over_pixel_for_pixel(self):
        page = self.page
        self.open("/sheets/5")
        expect(page.get_by_role("img", name=re.compile("^Predicted frame, auto"))).to_be_visible()
        for share, who in ((0.25, "slip"), (0.9, "auto")):
            box = self.box_of(self.frame)
            page.mouse.move(box["x"] + share * box["width"], box["y"] + 0.5 * box["height"])
            glass = page.locator(f"[data-loupe={who}]")
            expect(glass).to_be_visible()
            style = glass.evaluate("e => [e.style.backgroundSize, e.style.backgroundPositionX]")
            self.assertEqual(style[0], "960px 720px")
            # The pixel under the pointer is in the middle of the loupe, 150 px wide.
            self.assertAlmostEqual(float(style[1][:-2]), 75 - share * 960, delta=2)
            within = glass.bounding_box()
            self.assertGreaterEqual(within["x"], box["x"] - 3)
            self.assertLessEqual(within["x"] + within["width"], box["x"] + box["width"] + 3)

    def test_an_upright_picture_is_not_stretched(self):
        page = self.page
        self.visit("/")
        self.drop("main ul", [("mast.jpg", jpeg(corners(600, 400)))])
        page.wait_for_url("**/sheets/*")
        box = self.box_of(page.get_by_role("img", name="Picture of mast"))
        page.mouse.click(box["x"] + box["width"] * 0.25, box["y"] + box["height"] * 0.75)
        expect(self.slip("Shutter")).to_be_visible()
        for way in ("Wipe", "Pair"):
            if way == "Wipe":
                self.open(page.url.removeprefix(self.server.url))
            page.get_by_role("radio", name=way).click()
            expect(self.frame).to_be_visible()
            box = self.box_of(self.frame)
            self.assertAlmostEqual(box["height"] / box["width"], 1.5, delta=0.02)

    def test_shots_on_the_bench_phone_become_takes_under_the_picture(self):
        page = self.page
        self.open("/sheets/6")
        page.get_by_role("button", name="Shoot on bench").click()
        strip = page.get_by_role("region", name="Takes")
        strip.get_by_role("button", name="Take with the slip, 1/50 s").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_role("radio", name="Keep").click()
        dialog.get_by_label("Note").fill("the cloud is good")
        dialog.get_by_label("Note").press("Enter")
        page.reload()
        expect(strip.get_by_role("button", name="Take with")).to_contain_text("kept")
        strip.get_by_role("button", name="Take with").click()
        expect(dialog.get_by_label("Note")).to_have_value("the cloud is good")
        dialog.get_by_role("button", name="Use for metering").click()
        expect(page.get_by_role("button", name="Undo")).to_be_enabled()
        strip.get_by_role("button", name="Take with").click()
        dialog.get_by_role("button", name="Delete").click()
        expect(strip).to_have_count(0)
        page.get_by_role("button", name="Undo").last.click()
        expect(strip.get_by_role("button", name="Take with")).to_have_count(1)
        self.assertEqual(self.faults, [])
