"""Nothing moves from under a finger: edits are drawn at once, what comes later has its room."""

import re

from playwright.sync_api import Route, expect

from tests.browser.app_in_browser import InBrowser

SLOW_SAVING = """() => {
    const real = window.fetch;
    window.fetch = async (address, options) => {
        if (options?.method === 'PUT') await new Promise(go => window.setTimeout(go, 700));
        return real(address, options);
    };
}"""
WATCHED = """box => {
    window.seen = [];
    const look = () => window.seen.push(box.checked);
    box.addEventListener('click', () => window.setTimeout(look));
}"""
MOVED = """() => new Promise(told => new PerformanceObserver(found => told(
    found.getEntries().map(one => one.value).reduce((all, one) => all + one, 0)
)).observe({type: 'layout-shift', buffered: true}) || window.setTimeout(() => told(0), 200))"""


class Steady(InBrowser):
    def test_a_box_ticked_while_an_edit_is_on_its_way_is_ticked_at_once(self):
        page = self.page
        self.sheet(14.0)
        page.get_by_role("tab", name="Limits").click()
        page.evaluate(SLOW_SAVING)
        page.get_by_role("tab", name=re.compile("Support ")).click()
        page.get_by_role("radio", name="Tripod").click()
        page.get_by_role("tab", name=re.compile("Filters ")).click()
        box = page.get_by_role("checkbox", name=re.compile("^ND 64"))
        box.evaluate(WATCHED)
        box.click()
        self.assertEqual(page.evaluate("window.seen"), [True])
        expect(self.slip("Shutter")).to_have_text("1/40 s")
        self.saved()

    def test_what_was_asked_for_before_an_edit_does_not_undo_it_on_screen(self):
        page = self.page
        self.sheet(14.0)
        here = re.compile(r"/api/sheets/\d+$")
        held = []

        # The page hears of another's edit and asks for the sheet: the answer is held back.
        def hold_the_first(route):
            if held or route.request.method != "GET":
                return route.fallback()
            return held.append((route, route.fetch()))

        page.route(here, hold_the_first)
        other = self.open_page()
        self.visit(page.url.removeprefix(self.server.url), other)
        other.get_by_label("Sheet title").fill("From the other page")
        with page.expect_request(lambda request: bool(here.search(request.url))):
            other.get_by_label("Sheet title").press("Tab")
        self.saved(other)
        page.get_by_role("tab", name="Limits").click()
        page.get_by_role("tab", name=re.compile("Filters ")).click()
        box = page.get_by_role("checkbox", name=re.compile("^ND 64"))
        box.check()
        self.assertTrue(held)
        for route, answer in held:
            route.fulfill(response=answer)
        page.wait_for_timeout(200)
        expect(box).to_be_checked(timeout=1)
        expect(page.get_by_label("Sheet title")).to_have_value("From the other page")
        expect(box).to_be_checked()
        self.saved()

    def test_what_comes_later_moves_nothing(self):
        page = self.page
        # The last to come of what a sheet's header holds.
        held: list[Route] = []
        page.route("**/DeviceControls-*.js", lambda route: held.append(route))
        self.visit("/sheets/1")
        presets = page.get_by_role("button", name="Presets")
        before = self.box_of(presets)
        page.wait_for_timeout(300)
        for route in held:
            route.continue_()
        expect(page.get_by_role("button", name=re.compile("^Theme"))).to_be_visible()
        self.assertEqual(presets.bounding_box(), before)
        page.unroute_all()
        for path in ("/", "/kit", "/takes", "/outings/1/light", "/sheets/1/run"):
            with self.subTest(path):
                self.visit(path)
                page.wait_for_load_state("networkidle")
                self.assertLess(page.evaluate(MOVED), 0.03)
