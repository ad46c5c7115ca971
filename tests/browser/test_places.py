"""Places, the light of their days and their nights, as somebody at the kitchen table plans them."""

import re

from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser


class Places(InBrowser):
    def test_a_place_is_pasted_and_its_day_is_read_along_the_strip(self):
        page = self.page
        self.visit("/places")
        page.get_by_role("button", name="New place").click()
        page.get_by_label("Name").fill("Far bank")
        page.get_by_label("Paste coordinates").fill("50° 54' N, 1° 15' W")
        page.get_by_role("button", name="Use", exact=True).click()
        expect(page.get_by_label("North, °")).to_have_value("50.9")
        page.get_by_role("button", name="Save place").click()
        expect(page.get_by_role("heading", name="Far bank")).to_be_visible()
        page.get_by_label("Day", exact=True).fill("2027-06-21")
        day = self.region("Daylight")
        expect(day.get_by_text("It does not get fully dark")).to_be_visible()
        strip = day.get_by_role("slider", name="Time of day")
        expect(strip).to_have_attribute("aria-valuetext", re.compile("^12:00, Sun 6"))
        strip.focus()
        page.keyboard.press("PageUp")
        expect(strip).to_have_attribute("aria-valuetext", re.compile("^13:00, Sun"))
        shown = day.get_by_text(re.compile(r"Open ground EV"))
        clear = shown.inner_text()
        page.get_by_role("radio", name="Overcast").click()
        expect(day.get_by_text("± 1 stop")).to_be_visible()
        self.assertNotEqual(shown.inner_text(), clear)

    def test_the_best_night_becomes_a_sheet_with_its_frames(self):
        page = self.page
        self.visit("/places/1?show=night&date=2027-06-01")
        best = self.region("Dark nights").get_by_role("listitem").first
        expect(best).to_contain_text("the Moon down")
        best.get_by_role("button").click()
        night = self.region("Night")
        expect(night.get_by_text(re.compile(r"The Milky Way leans"))).to_be_visible()
        stack = night.get_by_role("region", name="Stack")
        label = stack.get_by_text(re.compile(r"frames of")).inner_text()
        page.get_by_role("radio", name="In pixels").click()
        page.get_by_label("Trail, corners too").fill("8")
        page.get_by_label("Trail, corners too").press("Enter")
        expect(stack.get_by_text(re.compile("frames of"))).not_to_have_text(label)
        frames = stack.get_by_text(re.compile("frames of")).inner_text().split()[0]
        dusk = night.get_by_role("radio", name=re.compile("Dusk frame"))
        expect(night.get_by_text(re.compile(r"ISO 50 at 2[12]:\d\d"))).to_be_visible()
        dusk.check()
        stack.get_by_role("button", name="Make a sheet").click()
        expect(page).to_have_url(re.compile(r"/sheets/\d+"))
        expect(self.slip("Frames")).to_contain_text(f"{frames} averaged")
        # The foreground by itself became a sheet of its own, before the stars.
        self.visit(f"/sheets/{int(page.url.rsplit('/', 1)[1]) - 1}")
        expect(self.slip("Shutter")).to_contain_text("6 s")
        title = page.get_by_role("textbox", name="Sheet title")
        expect(title).to_have_value("Foreground under the stars, Kettle Reach")

    def test_an_outing_sees_when_its_sheets_work_and_in_which_order(self):
        page = self.page
        self.visit("/")
        board = page.get_by_role("textbox", name="Outing title")
        expect(board.first).to_be_visible()
        self.visit("/outings/2/light")
        order = self.region("Order")
        expect(order.get_by_role("listitem").first).to_contain_text(re.compile(r"^0[7-9]:"))
        expect(order).to_contain_text(re.compile(r"Start at 0[7-9]:"))
        hull = order.get_by_role("listitem").filter(has_text="White hull in full sun")
        number = hull.inner_text().split()[1]
        assumed = order.get_by_role("listitem").filter(has_text="By daylight")
        expect(
            assumed.filter(has_text=re.compile(rf"^(.*, )?{number}(, .*)?: ")).first
        ).to_be_visible()
        page.get_by_role("radio", name="Overcast").click()
        page.get_by_label("From").fill("12")
        page.get_by_label("From").press("Enter")
        expect(order.get_by_role("listitem").first).to_contain_text(re.compile(r"^1[2-9]:|not"))

    def test_what_hides_the_sky_is_drawn_and_coasts_lie_under_the_place(self):
        page = self.page
        self.visit("/places/1?show=place")
        chart = page.get_by_role("img", name=re.compile("Map of the place with coasts"))
        expect(chart.locator("path").first).to_have_attribute("d", re.compile(r"^M[^Z]{200,}Z"))
        low = page.get_by_role("group", name=re.compile("Horizon, 7 bearings"))
        box = low.bounding_box()
        x, y = box["x"] + box["width"] * 0.6, box["y"] + 60
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + 10, y - 20)
        page.mouse.up()
        expect(page.get_by_role("group", name=re.compile("8 bearings"))).to_be_visible()
        hidden = page.get_by_role("group", name="Horizon", exact=True)
        bearing = float(hidden.get_by_label("Bearing, °").nth(4).input_value())
        self.assertAlmostEqual(bearing, 360 * (0.6 + 10 / box["width"]), delta=1.5)
        height = float(hidden.get_by_label("Height, °").nth(4).input_value())
        self.assertTrue(20 < height < 45, height)
        # The same by keys: a degree up, ten along, and no further than the next point.
        point = page.get_by_role("slider", name=re.compile("^Height at")).nth(4)
        point.focus()
        page.keyboard.press("ArrowUp")
        expect(point).to_have_attribute("aria-valuenow", f"{height + 1:g}")
        page.keyboard.press("ArrowLeft")
        expect(point).to_have_attribute("aria-label", f"Height at {bearing - 1:g}°")
        expect(point).to_be_focused()
        for _ in range(40):
            page.keyboard.press("Shift+ArrowRight")
        beyond = float(hidden.get_by_label("Bearing, °").nth(5).input_value())
        expect(point).to_have_attribute("aria-label", f"Height at {beyond - 1:g}°")


class SharedAndDrawn(InBrowser):
    def test_exposures_are_shot_on_the_bench_and_lie_at_their_places(self):
        page = self.page
        self.visit("/sheets/1/exposures")
        exposures = self.region("Exposures")
        page.get_by_role("button", name="Shoot on bench").click()
        expect(exposures.get_by_label("Take used").first).to_have_value(
            re.compile(r"\d+"), timeout=60_000
        )
        expect(page.get_by_role("button", name="Combine takes")).to_be_enabled()
        expect(page.get_by_alt_text("Previous frame")).to_be_visible()

    def test_a_drawing_in_two_colours_is_two_frames_each_rehearsed(self):
        page = self.page
        self.visit("/sheets/14/drawing")
        page.get_by_label("Word or shape").fill("HULL")
        page.get_by_label("Frames").fill("2")
        page.get_by_label("Frames").press("Enter")
        page.get_by_label("Lamp in frame 2").select_option("red")
        rehearsal = self.region("Rehearsal")
        frame = rehearsal.get_by_label("Frame")
        expect(frame).to_contain_text("2: red lamp")
        frame.select_option("1")
        expect(rehearsal.get_by_text("The shutter closes")).to_be_visible()
        expect(page.get_by_text("Its 2 frames become one")).to_be_visible()
