"""Every limit on one map: asked for, opened, changed in place, traded away, kept as a preset."""

import re

from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser

FRAME_MS = 16


class OnTheMap(InBrowser):
    def open_row(self, name):
        self.page.get_by_role("tab", name="Limits").click()
        self.page.get_by_role("tab", name=re.compile(f"{name} ")).click()

    def test_a_mover_gets_a_limit_that_is_changed_where_it_is_shown(self):
        page = self.page
        self.visit("/sheets/2")
        self.open_row("Freeze motion")
        page.get_by_role("button", name="Add mover").click()
        expect(self.region("Slip")).to_contain_text("the walker")
        label = self.region("Exposure map").get_by_role("button", name="freeze the walker")
        label.click()
        expect(page.get_by_text(re.compile("^t = 1000·c"))).to_be_visible()
        # Twenty times as far moves the bound by as much, past what the slip needs.
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Distance, m").fill("100")
        dialog.get_by_label("Distance, m").press("Enter")
        expect(self.region("Slip")).not_to_contain_text("too dark")
        dialog.get_by_role("button", name="Drop this limit").click()
        expect(label).to_have_count(0)
        self.saved()
        page.reload()
        expect(self.slip("ISO")).to_have_text("100")

    def test_a_collision_names_its_limits_and_a_trade_opens_it(self):
        page = self.page
        self.visit("/sheets/8")
        expect(self.region("Exposure map")).to_contain_text("No exposure meets every limit")
        expect(self.region("Slip")).to_contain_text("too bright")
        self.region("Slip").get_by_role(
            "button", name=re.compile("Put Polariser and ND 1000 on")
        ).click()
        expect(self.region("Slip")).not_to_contain_text("too bright")
        expect(self.region("Slip")).to_contain_text("the water soft")
        self.open_row("Filters")
        expect(page.get_by_role("checkbox", name=re.compile("ND 1000"))).to_be_checked()
        page.get_by_role("button", name="Undo").click()
        expect(self.region("Exposure map")).to_contain_text("No exposure meets every limit")

    def test_wheel_and_drag_read_their_figures_from_the_answer(self):
        page = self.page
        self.visit("/sheets/5")
        expect(self.slip("Shutter")).to_have_text("1/6400 s")
        noise = self.region("Slip").get_by_text("Noise", exact=True).locator("xpath=..")
        before = noise.inner_text()
        held = []
        page.route(
            "**/api/sheets/5",
            lambda route: (
                held.append(route) if route.request.method == "PUT" else route.continue_()
            ),
        )
        box = self.box_of(page.get_by_role("group", name=re.compile("^Exposure map")))
        page.mouse.move(box["x"] + 200, box["y"] + 200)
        page.mouse.wheel(0, -100)
        # Nothing has been answered yet: the figures are the map's own.
        expect(self.slip("Shutter")).to_have_text("1/8000 s")
        self.assertNotEqual(before, noise.inner_text())
        while not held:
            page.wait_for_timeout(50)
        expect(self.slip("Shutter")).to_have_text("1/8000 s")
        self.assertEqual(len(held), 1)
        held.pop().continue_()
        self.saved()
        expect(self.region("Slip")).to_contain_text("Chosen by hand")

    def test_dragging_redraws_within_a_frame(self):
        page = self.page
        self.visit("/sheets/4")
        dot = page.get_by_role("slider", name="Slip on the map")
        box = self.box_of(dot)
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        # Script time of each move, from the browser's own clock, median of many.
        page.evaluate(
            """() => {
                window.spent = [];
                const began = () => { window.begun = performance.now(); };
                window.addEventListener('pointermove', began, true);
                window.addEventListener('pointermove', () => {
                    queueMicrotask(() => window.spent.push(performance.now() - window.begun));
                });
            }"""
        )
        page.mouse.move(x, y)
        page.mouse.down()
        for step in range(1, 40):
            page.mouse.move(x - step * 2, y - step * 4)
        page.mouse.up()
        spent = sorted(page.evaluate("window.spent"))
        self.assertGreater(len(spent), 20)
        self.assertLess(spent[len(spent) // 2], FRAME_MS)

    def test_alternatives_lenses_and_auto(self):
        page = self.page
        self.visit("/sheets/5")
        page.get_by_role("tab", name="Alternatives").click()
        rows = page.get_by_role("row")
        expect(rows.nth(5)).to_be_visible()
        expect(page.get_by_text(re.compile("^Auto: ")).last).to_be_visible()
        expect(page.get_by_role("row", name=re.compile("^Centre EV"))).to_be_visible()
        page.get_by_role("row").nth(1).get_by_role("button").click()
        expect(self.region("Slip")).to_contain_text("Chosen by hand")
        self.choose("Lens")
        page.get_by_label("Subject at, m").fill("4")
        expect(page.get_by_text("Stand at").first).to_be_visible()
        card = page.locator("article").filter(has_text="Long")
        card.get_by_role("button", name="Use this").click()
        expect(self.slip("Lens")).to_have_text("Long")


class Presets(InBrowser):
    def test_applied_kept_and_found_again(self):
        page = self.page
        self.sheet(8)
        presets = page.get_by_role("button", name="Presets")
        goods = page.get_by_role("button", name="Apply Goods in a lit box")
        presets.click()
        goods.click()
        expect(page.get_by_role("region", name="Slip")).to_contain_text("matches the lamps")
        page.get_by_role("button", name="Presets").click()
        page.get_by_label("Name for this sheet's choices").fill("Tins again")
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_role("button", name="Apply Tins again")).to_be_visible()
        page.reload()
        page.get_by_role("button", name="Presets").click()
        page.get_by_role("button", name="Delete Tins again").click()
        expect(page.get_by_role("button", name="Apply Tins again")).to_have_count(0)

    def test_filters_are_added_to_the_kit(self):
        page = self.page
        self.visit("/kit")
        drawer = page.get_by_role("region", name="Filters")
        drawer.get_by_label("Name").fill("ND 8")
        drawer.get_by_label("Factor").fill("8")
        drawer.get_by_role("button", name="Add a filter").click()
        expect(drawer).to_contain_text("3.0 stops")
        drawer.get_by_role("button", name="Delete ND 8").click()
        expect(drawer).not_to_contain_text("3.0 stops")


class OnASmallScreen(InBrowser):
    def test_the_ruler_moves_the_slip_and_fits(self):
        page = self.open_page(390, 844)
        self.visit("/sheets/4", page)
        dot = page.get_by_role("slider", name="Slip on the ruler")
        expect(dot).to_be_visible()
        dot.focus()
        page.keyboard.press("ArrowLeft")
        expect(page.get_by_role("button", name=re.compile("1.1250 s"))).to_be_visible()
        page.get_by_role("button", name="hold highlights").click()
        expect(page.get_by_text(re.compile("clips at [+]2.5 from mid"))).to_be_visible()
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)

    def test_a_word_of_the_glossary_opens_where_it_is_by_mouse_and_by_key(self):
        page = self.page
        self.visit("/sheets/2")
        word = self.region("Slip").get_by_role("button", name="SNR").first
        entry = page.get_by_text(re.compile("^SNR is how far"))
        word.hover()
        expect(entry).to_be_visible()
        page.mouse.move(5, 5)
        expect(entry).to_be_hidden()
        word.press("Enter")
        expect(entry).to_be_visible()
        page.keyboard.press("Escape")
        expect(entry).to_be_hidden()
