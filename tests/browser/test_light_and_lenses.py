"""Readings, tones, filters and lenses in the browser, and the figures that move with them."""

import re

from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser
from tests.pictures.making import corners, jpeg


class Light(InBrowser):
    def rail(self):
        return self.page.get_by_role("img", name=re.compile("^Tones: "))

    def test_names_roles_and_tones_are_changed_in_their_row(self):
        page = self.page
        self.visit("/sheets/4")
        page.get_by_role("tab", name="Light").click()
        name = page.get_by_label("Name of hull")
        name.fill("garboard strake")
        name.press("Enter")
        expect(page.get_by_role("button", name=re.compile("^Spot garboard strake"))).to_be_visible()
        expect(self.rail()).to_have_accessible_name(re.compile("garboard strake"))
        page.get_by_label("Role of bright cloud").select_option("keep-dark")
        expect(page.get_by_role("region", name="Slip")).not_to_contain_text("highlight guard")
        before = self.slip("Shutter").inner_text()
        page.get_by_label("Named tone of garboard strake").select_option("snow")
        expect(self.slip("Shutter")).not_to_have_text(before)
        page.get_by_role("button", name="Delete bright cloud").click()
        expect(page.get_by_role("button", name=re.compile("^Spot bright cloud"))).to_have_count(0)

    def test_a_spot_is_added_and_moved_by_keys_alone(self):
        page = self.page
        self.visit("/sheets/4")
        spots = page.locator("[data-spot]")
        expect(spots).not_to_have_count(0)
        before = spots.count()
        page.get_by_role("button", name="Add spot").focus()
        page.keyboard.press("Enter")
        expect(spots).to_have_count(before + 1)
        added = page.locator("[data-spot][aria-pressed=true]")
        expect(added).to_be_focused()
        page.keyboard.press("ArrowRight")
        expect(added).to_have_attribute("style", re.compile(r"left: 5[0-9.]*[1-9]%"))

    def test_a_reading_opens_to_its_luminance_and_its_doubt(self):
        page = self.page
        self.visit("/sheets/4")
        page.get_by_role("tab", name="Light").click()
        page.get_by_role("button", name=re.compile("^EV 9.3")).click()
        opened = page.get_by_role("dialog")
        expect(opened).to_contain_text("L = K/100 · 2^EV100, K = 12.5")
        expect(opened).to_contain_text("a processed file is tone-mapped")
        expect(opened.get_by_text(re.compile("^7[0-9]"))).to_be_visible()

    def test_the_rail_goes_with_the_dot(self):
        page = self.page
        self.sheet(14.0)
        before = self.rail().get_attribute("aria-label")
        tone = float(re.search(r"([+−]?\d\.\d)", before)[1].replace("−", "-"))
        dot = page.get_by_role("slider", name="Slip on the map")
        dot.focus()
        for _ in range(3):
            page.keyboard.press("ArrowUp")
        expect(self.rail()).not_to_have_accessible_name(before)
        after = self.rail().get_attribute("aria-label")
        moved = float(re.search(r"([+−]?\d\.\d)", after)[1].replace("−", "-"))
        # Three steps of ISO, a third of a stop each, at the same shutter.
        self.assertAlmostEqual(moved - tone, 1.0, delta=0.15)

    def test_a_picture_replaces_a_guess_after_asking(self):
        page = self.page
        guess = {"id": "a", "name": "yard", "source": {"kind": "level", "level": "overcast"}}
        self.sheet(0, readings=[guess])
        expect(page.get_by_role("region", name="Slip")).to_contain_text("Yard at mid is EV 12.0")
        for answer, left in (("Keep guess", 1), ("Replace guess", 0)):
            file = {"name": "wall.jpg", "mimeType": "image/jpeg", "buffer": jpeg(corners(300, 400))}
            page.locator("input[type=file]").first.set_input_files(file)
            asked = page.get_by_role("dialog", name="Replace guess?")
            expect(asked).to_contain_text("yard (EV 12.0)")
            asked.get_by_role("button", name=answer).click()
            expect(page.get_by_role("img", name="Picture of Made for this")).to_be_visible()
            expect(page.get_by_text("not used (light is measured)")).to_have_count(left)
            expect(page.get_by_label("Name of a")).to_have_count(left)
            page.get_by_role("button", name="Undo").click()
            expect(page.get_by_label("Name of a")).to_have_count(1)

    def test_a_picture_shot_through_glass_reads_as_much_brighter(self):
        page = self.page
        self.visit("/")
        self.drop("main ul", [("weir.jpg", jpeg(corners(300, 400)))])
        page.wait_for_url("**/sheets/*")
        box = self.box_of(page.get_by_role("img", name="Picture of weir"))
        page.mouse.click(box["x"] + box["width"] * 0.25, box["y"] + box["height"] * 0.75)
        page.get_by_label("Role of spot-1").select_option("subject")
        expect(page.get_by_role("button", name=re.compile("^Spot subject 8.9 EV"))).to_be_visible()
        page.get_by_role("tab", name="Picture").click()
        field = page.get_by_label("Filter used, stops")
        field.fill("3")
        field.press("Enter")
        expect(page.get_by_role("button", name=re.compile("^Spot subject 11.9 EV"))).to_be_visible()
        expect(page.get_by_text(re.compile("EV 11.3"))).to_be_visible()

    def test_two_pictures_on_one_sheet_the_second_stands(self):
        page = self.page
        self.sheet(14.0)
        expect(self.slip("ISO")).to_be_visible()
        page.get_by_role("tab", name="Picture").click()
        for name, by in (("first", 1), ("second", 2)):
            picture = jpeg(corners(90, 120) // by)
            with page.expect_response(re.compile(r"/picture\?")) as taken:
                page.get_by_label(re.compile("^(Replace|Choose a) picture")).last.set_input_files(
                    {"name": f"{name}.jpg", "mimeType": "image/jpeg", "buffer": picture}
                )
            shown = re.compile(taken.value.json()["sheet"]["body"]["picture"])
            frame = page.get_by_role("img", name="Picture of Made for this")
            expect(frame).to_have_attribute("src", shown)
            page.get_by_role("tab", name="Picture").click()
            expect(page.get_by_text(re.compile(f"^{name}.jpg, JPEG"))).to_be_visible()
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_text(re.compile("^first.jpg, JPEG"))).to_be_visible()


class LensFilter(InBrowser):
    def test_glass_from_the_kit_lengthens_the_shutter_by_its_stops(self):
        page = self.page
        self.sheet(14.0)
        page.get_by_role("tab", name="Limits").click()
        page.get_by_role("tab", name=re.compile("Support ")).click()
        page.get_by_role("radio", name="Tripod").click()
        page.get_by_role("tab", name=re.compile("Filters ")).click()
        worn = page.get_by_role("checkbox", name=re.compile("^ND 64"))
        worn.check()
        # f/1.8, ISO 50, EV 14: 1/2529 s, and six stops longer 1/40 s.
        expect(self.slip("Shutter")).to_have_text("1/40 s")
        expect(page.get_by_role("region", name="Slip")).to_contain_text("Focus and compose first")
        expect(page.get_by_role("tab", name=re.compile("Filters "))).to_contain_text("ND 64")
        worn.uncheck()
        expect(self.slip("Shutter")).to_have_text("1/2500 s")


class Lenses(InBrowser):
    def test_framing_says_where_to_stand_with_each_lens(self):
        page = self.page
        self.sheet(14.0)
        self.choose("Lens")
        for label, value in (
            ("Subject at, m", "10"),
            ("Subject's height, m", "4"),
            ("Subject, × frame", "0.5"),
        ):
            page.get_by_label(label, exact=True).fill(value)
            page.get_by_label(label, exact=True).press("Enter")
        cards = page.locator("article")
        # 4 m over half of 6.12 mm: 5.66 mm is at 7.4 m.
        expect(cards.filter(has_text=re.compile(r"Stand at\s*7.4 m"))).to_have_count(1)
        stands = {}
        for name in ("Ultra-wide", "Main", "Long"):
            text = cards.filter(has_text=name).first.inner_text()
            stands[name] = float(re.search(r"Stand at\s+([\d.]+) m", text)[1])
        self.assertAlmostEqual(stands["Main"], 7.4, delta=0.02)
        self.assertTrue(stands["Ultra-wide"] < stands["Main"] < stands["Long"], stands)
        page.get_by_label("Subject at, m", exact=True).fill("")
        page.get_by_label("Subject at, m", exact=True).press("Enter")
        expect(cards.filter(has_text="Stand at")).to_have_count(0)

    def test_the_lens_in_use_is_marked_and_another_takes_its_place(self):
        page = self.page
        self.sheet(14.0)
        self.choose("Lens")
        cards = page.locator("article")
        expect(cards.filter(has_text="in use").filter(has_text="Main")).to_have_count(1)
        wide = cards.filter(has_text="Ultra-wide")
        wide.get_by_role("button", name="Use this").click()
        expect(self.slip("Lens")).to_have_text("Ultra-wide")
        expect(wide.get_by_text("in use", exact=True)).to_be_visible()
        page.get_by_role("button", name="Undo").click()
        expect(self.slip("Lens")).to_have_text("Main")


class Kit(InBrowser):
    def test_a_phone_goes_out_as_a_file_and_comes_back_as_ones_own(self):
        page = self.page
        self.visit("/kit")
        with page.expect_download() as download:
            page.get_by_role("link", name="Export").click()
        text = download.value.path().read_text("utf-8")
        mine = text.replace('"id": "wherry-3"', '"id": "mine"', 1)
        mine = mine.replace('"name": "Fennick Wherry 3"', '"name": "Mine"', 1)
        page.get_by_role("button", name="Copy and edit").click()
        dialog = page.get_by_role("dialog")
        box = dialog.get_by_role("textbox")
        box.fill("{")
        dialog.get_by_role("button", name="Save phone").click()
        expect(dialog.get_by_role("alert")).to_contain_text("Not valid JSON yet")
        dialog.locator("input[type=file]").set_input_files(
            {"name": "mine.json", "mimeType": "application/json", "buffer": mine.encode()}
        )
        expect(box).to_have_value(mine)
        dialog.get_by_role("button", name="Save phone").click()
        expect(page.get_by_role("heading", name="Mine", exact=True)).to_be_visible()
        expect(page.get_by_role("button", name=re.compile("^Mine"))).to_contain_text("yours")

    def test_every_lens_shows_what_auto_and_the_hand_may_set(self):
        page = self.page
        self.visit("/kit")
        phone = page.get_by_role("region", name="Fennick Wherry 3")
        for name in ("Ultra-wide", "Main", "Long"):
            lens = phone.locator("article").filter(has=page.get_by_text(name, exact=True))
            expect(lens.get_by_role("img")).not_to_have_count(0)
            expect(lens).to_contain_text("Headroom over mid")
        page.get_by_role("button", name=re.compile("^Dabber|Dabber")).click()
        expect(phone).to_have_count(0)
