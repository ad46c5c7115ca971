"""Choices on a sheet and on the device: readings, strategy, spots by hand, theme, restore."""

import re
import subprocess
import sys

from playwright.sync_api import expect

from tests.browser.app_in_browser import ROOT, InBrowser, WithServerOfItsOwn, shared
from tests.pictures.making import corners, jpeg


class Readings(InBrowser):
    def add_reading(self, how, *values):
        page = self.page
        page.get_by_role("button", name="Add reading").click()
        page.get_by_label("Source").select_option(how)
        for label, value in values:
            page.get_by_label(label, exact=True).fill(value)
        page.get_by_role("button", name="Add", exact=True).click()

    def test_each_way_of_reading_gives_a_slip(self):
        page = self.page
        self.visit("/")
        page.get_by_role("button", name="New picture").first.click()
        page.get_by_role("button", name="Empty sheet").click()
        page.wait_for_url("**/sheets/*")
        slip = page.get_by_role("region", name="Slip")
        expect(slip).to_contain_text("add a reading")
        page.get_by_role("tab", name="Light").click()
        rows = [
            ("ev", [("EV", "12")], "EV 12.0"),
            ("lux", [("Lux", "2560")], "EV 10.0"),
            ("auto", [("ISO", "100"), ("Shutter", "1/100")], "EV 8.3"),
            ("level", [], "EV 12.0"),
        ]
        for how, values, words in rows:
            self.add_reading(how, *values)
            expect(page.get_by_role("button", name=re.compile(f"^{words}")).last).to_be_visible()
        # Three subjects in different light share no exposure; the guess counts for nothing.
        expect(slip).to_contain_text("3.7 stops apart")
        for reading in ("reading-2", "reading-3"):
            button = page.get_by_role("button", name=f"Delete {reading}")
            button.click()
            # What is below moves up: the next is clicked where it is then.
            expect(button).to_have_count(0)
        # f/1.8, ISO 50, EV 12: 1/632 s, and the ladder's nearest is 1/640 s.
        expect(self.slip("Shutter")).to_have_text("1/640 s")

    def test_role_and_place_move_the_slip(self):
        page = self.page
        self.visit("/sheets/7")
        page.get_by_role("tab", name="Light").click()
        thumb = page.get_by_role("slider", name=re.compile("Wanted tone of hazy"))
        thumb.focus()
        for _ in range(10):
            page.keyboard.press("ArrowRight")
        expect(page.get_by_role("img", name=re.compile(r"^Tones: hazy .* \+1\.0"))).to_be_visible()
        expect(page.get_by_role("region", name="Slip")).to_contain_text("at +1.0 is EV 13.0")
        page.get_by_label("Role of hazy sun on the creek").select_option("keep-bright")
        self.saved()
        page.reload()
        role = page.get_by_label("Role of hazy sun on the creek")
        page.get_by_role("tab", name="Light").click()
        expect(role).to_have_value("keep-bright")


class Strategy(InBrowser):
    def row(self, name):
        self.page.get_by_role("tab", name="Limits").click()
        self.page.get_by_role("tab", name=re.compile(f"{name} ")).click()

    def test_support_strategy_and_cap(self):
        page = self.page
        self.visit("/sheets/2")
        self.row("ISO, strategy")
        expect(self.slip("ISO")).to_have_text("100")
        self.row("Support")
        page.get_by_role("radio", name="Handheld").click()
        expect(self.slip("ISO")).to_have_text("250")
        self.row("ISO, strategy")
        page.get_by_role("radio", name="Floor").click()
        expect(self.slip("ISO")).to_have_text("64")
        page.get_by_role("radio", name="Shutter first").click()
        page.get_by_label("Shutter wanted").select_option("0.02")
        expect(self.slip("Shutter")).to_have_text("1/50 s")
        expect(self.slip("ISO")).to_have_text("1000")
        self.row("Phone, lens")
        page.get_by_label("Lens, fixed aperture").select_option("long")
        expect(self.slip("Lens")).to_have_text("Long")
        self.row("ISO, strategy")
        page.get_by_label("ISO cap").select_option("100")
        expect(page.get_by_role("region", name="Slip")).to_contain_text("your ISO cap")

    def test_exposure_aim(self):
        page = self.page
        self.visit("/sheets/4")
        self.row("ISO, strategy")
        page.get_by_label("Exposure aim").select_option("highlights")
        expect(page.get_by_role("region", name="Slip")).to_contain_text("as the highlights allow")


class SpotsByHand(InBrowser):
    def spot(self):
        return self.page.get_by_role("button", name=re.compile("^Spot tarred planks"))

    def test_drag_and_size(self):
        page = self.page
        self.visit("/sheets/4")
        self.spot().focus()
        before = self.box_of(self.spot())
        x, y = before["x"] + before["width"] / 2, before["y"] + before["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x - 60, y + 10, steps=5)
        page.mouse.up()
        self.saved()
        moved = self.box_of(self.spot())
        self.assertAlmostEqual(moved["x"], before["x"] - 60, delta=3)
        handle = self.box_of(page.get_by_title("Drag to change the size"))
        at = (handle["x"] + 12, handle["y"] + 12)
        page.mouse.move(*at)
        page.mouse.down()
        page.mouse.move(at[0] + 60, at[1] + 60, steps=5)
        page.mouse.up()
        self.saved()
        self.assertGreater(self.box_of(self.spot())["width"], moved["width"] * 1.1)

    def test_new_spot_and_undo_by_keys(self):
        page = self.page
        self.visit("/sheets/4")
        expect(self.spot()).to_be_visible()
        page.keyboard.press("n")
        expect(page.get_by_role("button", name=re.compile("^Spot tone only"))).to_be_visible()
        self.saved()
        page.keyboard.press("Control+z")
        expect(page.get_by_role("button", name=re.compile("^Spot tone only"))).to_have_count(0)
        page.keyboard.press("U")
        expect(page.get_by_role("button", name=re.compile("^Spot tone only"))).to_be_visible()


class Device(InBrowser):
    def test_theme_is_remembered(self):
        page = self.page
        self.visit("/sheets/4")
        page.get_by_role("button", name="Theme: Day").click()
        page.get_by_role("menuitemradio", name=re.compile("^Night")).click()
        page.reload()
        expect(page.get_by_role("button", name=re.compile("Theme: Night"))).to_be_visible()
        self.assertEqual(page.evaluate("document.documentElement.dataset.theme"), "night")

    def test_an_automatic_theme_is_dark_from_dusk_to_dawn_at_the_first_frame(self):
        context = shared().context.browser.new_context()  # its pages have clocks of their own
        self.addCleanup(context.close)
        page = context.new_page()
        dark = page.request.get(f"{self.server.url}/api/darkness").json()
        self.assertIsNotNone(dark["place"])
        (dusk, dawn), (next_dusk, _) = dark["spans"][:2]
        self.visit("/sheets/4", page)
        page.get_by_role("button", name="Theme: Day").click()
        page.get_by_role("menuitemradio", name=re.compile("^Automatic")).click()
        expect(page.get_by_role("button", name=re.compile("Theme: Auto"))).to_be_visible()
        for _ in range(100):
            if page.evaluate("localStorage.getItem('oxlen-dark')"):
                break
            page.wait_for_timeout(100)
        # What is kept on the device decides, also without the computer.
        page.route("**/api/darkness", lambda route: route.abort())
        for moment, theme in (
            ((dusk + dawn) / 2, "night"),
            (dawn + 60, "day"),
            (next_dusk - 60, "day"),
            (next_dusk + 60, "night"),
        ):
            page.add_init_script(f"Date.now = () => {1000 * moment}")
            page.reload()
            shown = page.evaluate("document.documentElement.dataset.theme")
            with self.subTest(moment=moment):
                self.assertEqual(shown, theme)

    def test_without_a_place_an_automatic_theme_says_what_it_needs(self):
        page = self.page
        nothing = {"place": None, "spans": []}
        page.route("**/api/darkness", lambda route: route.fulfill(json=nothing))
        self.visit("/takes")
        page.get_by_role("button", name="Theme: Day").click()
        page.get_by_role("menuitemradio", name=re.compile("^Automatic")).click()
        expect(page.get_by_text("The theme then follows its dusk.")).to_be_visible()
        self.assertEqual(page.evaluate("document.documentElement.dataset.theme"), "day")

    def test_a_dark_system_begins_dark(self):
        page = self.page
        page.emulate_media(color_scheme="dark")
        self.addCleanup(page.emulate_media, color_scheme="light")
        self.visit("/takes")
        self.assertEqual(page.evaluate("document.documentElement.dataset.theme"), "night")

    def test_help_says_what_the_page_is_for_and_leads_to_its_guide(self):
        page = self.page
        self.visit("/takes")
        page.get_by_role("button", name="Help").click()
        help_ = page.get_by_role("dialog", name="Takes: what is it for?")
        expect(help_.get_by_role("listitem")).to_have_count(3)
        help_.get_by_role("link", name="Guide: Check what you shot").click()
        expect(page.get_by_role("heading", name="Check what you shot")).to_be_visible()
        picture = page.get_by_alt_text("A take compared with its plan")
        expect(picture).to_have_js_property("naturalWidth", 1280)
        page.go_back()
        expect(page).to_have_url(re.compile("/takes$"))

    def test_keys_are_listed_and_single_letters_can_be_switched_off(self):
        page = self.page
        self.visit("/sheets/4")
        expect(self.slip("ISO")).to_be_visible()
        page.keyboard.press("?")
        keys = page.get_by_role("dialog")
        expect(keys).to_contain_text("along the wanted exposure")
        keys.get_by_role("checkbox", name="Single-letter keys").uncheck()
        keys.get_by_role("button", name="Close").click()
        page.keyboard.press("?")
        page.keyboard.press("n")
        page.wait_for_timeout(300)
        expect(keys).to_be_hidden()
        expect(page.get_by_role("button", name=re.compile("^Spot tone only"))).to_have_count(0)

    def test_print_shows_the_card_alone(self):
        page = self.page
        self.visit("/sheets/4")
        expect(self.slip("ISO")).to_be_visible()
        page.emulate_media(media="print")
        expect(page.get_by_role("slider", name="Slip on the map")).to_be_hidden()
        expect(page.get_by_role("heading", name="Tarred hull on the hard")).to_be_visible()

    def test_pasted_pictures_come_in(self):
        page = self.page
        self.visit("/sheets/7")
        expect(self.slip("ISO")).to_be_visible()
        page.evaluate(
            """bytes => {
                const data = new DataTransfer();
                data.items.add(new File([new Uint8Array(bytes)], 'pasted.jpg'));
                window.dispatchEvent(new ClipboardEvent('paste', {clipboardData: data}));
            }""",
            list(jpeg(corners(90, 120))),
        )
        page.get_by_role("button", name="Replace guess").click()
        expect(
            page.get_by_role("img", name="Picture of Sail trials from the jetty")
        ).to_be_visible()


class Backup(WithServerOfItsOwn):
    def test_restored_backup_brings_the_sheet_back(self):
        self.visit("/sheets/4")
        expect(self.slip("Shutter")).to_have_text("1/1000 s")
        kept = self.server.folder.parent / "kept.zip"
        self.oxlen("backup", kept)
        self.page.get_by_role("button", name=re.compile("^Spot bright cloud")).focus()
        self.page.keyboard.press("Delete")
        expect(self.slip("Shutter")).not_to_have_text("1/1000 s")
        self.saved()
        self.server.stop()
        self.oxlen("restore", kept)
        self.server.start()
        self.visit("/sheets/4")
        expect(self.slip("Shutter")).to_have_text("1/1000 s")

    def oxlen(self, command, file):
        """Run a command of the command line on this test's data."""
        subprocess.run(
            [sys.executable, "-m", "oxlen", command, file, "--data", self.server.folder],
            check=True,
            capture_output=True,
            env={"PYTHONPATH": str(ROOT / "src"), "PATH": "/usr/bin:/bin"},
        )
