"""The phone's own camera from the page: a fake device, and the bench phone as one."""

import re
import unittest
from math import log2

from playwright.sync_api import expect

from tests.browser.phone.with_phone import WithPhone

REFUSED = """(name) => { navigator.mediaDevices.getUserMedia = () =>
    Promise.reject(new DOMException('refused', name)); }"""
KEEP_STREAM = """(() => { const ask = navigator.mediaDevices.getUserMedia.bind(
    navigator.mediaDevices);
    navigator.mediaDevices.getUserMedia = async (of) => (window.seen = await ask(of)); })()"""
HIDE = """() => { Object.defineProperty(document, 'visibilityState', { value: 'hidden' });
    document.dispatchEvent(new Event('visibilitychange')); }"""
TAKE_AWAY = "() => window.seen.getTracks()[0].dispatchEvent(new Event('ended'))"
IS_LIVE = "() => window.seen.getTracks()[0].readyState"

EV_SHOWN = (
    "parseFloat(document.querySelector('[aria-label=\"Live slip\"]').innerText"
    ".replace('−', '-').match(/EV (-?[\\d.]+)/)[1])"
)


class LiveCamera(WithPhone):
    def setUp(self):
        super().setUp()
        self.url = self.paired(is_secure=False)
        self.phone.add_init_script(KEEP_STREAM)

    def open(self, number):
        self.phone.goto(f"{self.url}/sheets/{number}/live")
        expect(self.phone.get_by_role("button", name="Start camera")).to_be_visible()

    def start(self):
        self.phone.get_by_role("button", name="Start camera").tap()
        expect(self.phone.get_by_role("status").filter(has_text="Camera on")).to_be_visible()

    def api(self, path):
        return self.page.request.get(f"{self.server.url}/api{path}").json()

    def live_slip(self):
        return self.phone.get_by_role("region", name="Live slip")

    def simulated(self, number):
        self.phone.goto(self.url)
        self.phone.evaluate("() => localStorage.setItem('oxlen-sensing', 'simulated')")
        self.open(number)
        self.start()
        expect(self.live_slip().locator("[data-fact=shutter_s]")).to_be_visible()

    def test_what_the_camera_can_do_is_found_and_dialled_and_the_rest_said(self):
        self.sheet(9.0)
        number = self.sheet_now()["id"]
        self.open(number)
        self.start()
        expect(self.live_slip()).to_contain_text("Relative light")
        there = {
            ability["name"]: ability["is_there"] for ability in self.api("/cameras")[0]["abilities"]
        }
        self.assertTrue(there["Set the shutter"] and there["Take whole photos"])
        self.assertFalse(there["Read the exposure"] or there["Set ISO"])
        self.phone.get_by_label("Light here").fill("9")
        self.phone.get_by_label("Light here").press("Enter")
        shutter = self.live_slip().locator("[data-fact=shutter_s]")
        expect(shutter).to_be_visible()
        iso = float(self.live_slip().locator("[data-fact=iso]").inner_text())
        shown = shutter.inner_text().removesuffix(" s")
        seconds = 1 / float(shown[2:]) if shown.startswith("1/") else float(shown)
        self.assertAlmostEqual(log2(1.8**2 / seconds) - log2(iso / 100), 9.0, delta=0.5)
        self.phone.get_by_role("button", name="Dial it").tap()
        done = self.phone.get_by_role("region", name="Shoot").get_by_role("status")
        expect(done).to_contain_text(f"Dial ISO {iso:g} by hand: this browser cannot set it.")

    def test_a_photo_goes_through_the_queue_to_the_sheet(self):
        self.sheet(9.0)
        number = self.sheet_now()["id"]
        self.open(number)
        self.start()
        self.phone.get_by_role("button", name="Shoot").tap()
        expect(self.phone.get_by_role("button", name="Shoot")).to_be_enabled(timeout=20_000)
        takes = self.api(f"/sheets/{number}/takes")
        self.assertEqual(len(takes), 1)
        entry = self.api("/logbook")["entries"][0]
        self.assertRegex(entry["file_name"], r"^live-\d{8}-\d{6}\.jpg$")
        self.assertEqual(entry["sheet_id"], number)

    def test_it_stops_when_hidden_or_taken_away_and_can_be_started_again(self):
        self.open(5)
        self.start()
        self.phone.evaluate(TAKE_AWAY)
        expect(self.phone.get_by_text("The camera was taken away.")).to_be_visible()
        self.start()
        self.phone.evaluate(HIDE)
        expect(self.phone.get_by_text("stopped when the page was hidden")).to_be_visible()
        self.until(f"() => ({IS_LIVE})() === 'ended'")

    def test_without_permission_or_camera_it_says_what_to_do(self):
        self.open(5)
        self.phone.evaluate(REFUSED, "NotAllowedError")
        self.phone.get_by_role("button", name="Start camera").tap()
        expect(self.phone.get_by_text("Allow it in the site’s settings")).to_be_visible()
        self.phone.evaluate(REFUSED, "NotFoundError")
        self.phone.get_by_role("button", name="Start camera").tap()
        expect(self.phone.get_by_text("No camera was found here.")).to_be_visible()
        self.phone.get_by_role("link", name="Add a picture instead").tap()
        expect(self.phone.get_by_label("Sheet title")).to_be_visible()

    def test_point_dial_shoot_and_it_is_as_planned_or_one_change_mends_it(self):
        self.simulated(2)
        actions = 1
        self.phone.get_by_role("button", name="Dial it").tap()
        shoot = self.phone.get_by_role("region", name="Shoot")
        expect(shoot.get_by_role("status")).to_contain_text("The camera is set to the slip.")
        verdict = shoot.get_by_role("status")
        for _ in range(2):
            self.phone.get_by_role("button", name="Shoot").tap()
            actions += 2
            expect(self.phone.get_by_role("button", name="Shoot")).to_be_enabled(timeout=30_000)
            if verdict.filter(has_text="As planned").count():
                break
            shoot.get_by_role("button", name="Dial the correction").tap()
            expect(shoot.get_by_text("The camera is set to the slip.")).to_be_visible()
        expect(verdict).to_contain_text("As planned")
        self.assertLessEqual(actions, 5)
        take = self.api("/sheets/2/takes")[-1]
        self.assertTrue(re.match(r"1/5 s, ISO 100|.* s, ISO \d+", take["label"]), take["label"])

    def test_a_spot_is_tapped_and_its_role_changes_the_slip(self):
        self.simulated(5)
        before = self.live_slip().locator("[data-fact=shutter_s]").inner_text()
        subject = self.phone.get_by_role("button", name="Spot sunlit paint")
        subject.tap()
        self.phone.get_by_label("Role").select_option(label="Tone only")
        expect(self.live_slip().locator("[data-fact=shutter_s]")).not_to_have_text(before)

    def test_patterns_and_the_level_beside_the_picture(self):
        self.simulated(5)
        self.phone.get_by_text("Meter by pattern").tap()
        table = self.phone.get_by_role("table")
        expect(table.get_by_role("row")).to_have_count(4)
        expect(table.get_by_role("row").first).to_contain_text(re.compile(r"EV 1\d\.\d"))
        self.phone.get_by_role("button", name="Level").tap()
        # The simulated hand leans 1.6 degrees to the right and sways by 0.7.
        expect(
            self.phone.get_by_text(re.compile(r"^leans (0\.9|1\.\d|2\.[0-3])° right"))
        ).to_be_visible()

    def test_the_focus_is_found_without_files_and_kept_for_its_distance(self):
        self.simulated(5)
        self.phone.get_by_role("button", name="Spot sunlit paint").tap()
        focus = self.phone.get_by_role("region", name="Focus")
        focus.get_by_role("button", name="Find focus").tap()
        expect(focus).to_contain_text("Sharpest at", timeout=60_000)
        focus.get_by_label("Infinity").tap()
        focus.get_by_role("button", name="Keep focus").tap()
        expect(focus.get_by_role("status")).to_have_text("Focus measured at infinity.")
        self.assertEqual(self.api("/cameras")[0]["name"], "Simulated camera")

    def test_a_filter_on_the_lens_is_added_to_what_is_read(self):
        self.simulated(5)
        before = self.live_ev()
        self.phone.get_by_label("Filter on lens").select_option(index=1)
        shown = self.phone.get_by_label("Filter on lens").locator("option").nth(1).inner_text()
        stops = float(re.search(r"([\d.]+)\sstop", shown).group(1))
        self.until(f"() => {EV_SHOWN} > {before + 0.5 * stops}")
        self.assertAlmostEqual(self.live_ev() - before, stops, delta=0.3)

    def live_ev(self):
        return self.phone.evaluate(f"() => {EV_SHOWN}")


if __name__ == "__main__":
    unittest.main()
