"""The main job in a real browser: drop a picture, mark spots, read the slip, reload, restart."""

import json
import re

from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser, WithServerOfItsOwn
from tests.pictures.making import corners, exif, jpeg


class Kept(WithServerOfItsOwn):
    def test_from_a_dropped_picture_to_a_kept_slip(self):
        page = self.page
        self.visit("/")
        self.drop("main ul", [("yard wall.jpg", jpeg(corners(300, 400)))])
        page.wait_for_url("**/sheets/*")
        expect(page.get_by_label("Sheet title")).to_have_value("yard wall")
        frame = page.get_by_role("img", name="Picture of yard wall")
        box = self.box_of(frame)
        page.mouse.click(box["x"] + box["width"] * 0.25, box["y"] + box["height"] * 0.75)
        # A new spot shows its tone and changes nothing; a role makes it count.
        expect(page.get_by_role("button", name=re.compile("^Spot tone only 8.9"))).to_be_visible()
        page.get_by_label("Role of spot-1").select_option("subject")
        spot = page.get_by_role("button", name=re.compile("^Spot subject 8.9 EV"))
        expect(spot).to_be_visible()
        # EV 8.88 on ISO 50 and f/1.8: 1/73 s; the ladder's nearest is 1/80 s.
        expect(self.slip("Shutter")).to_have_text("1/80 s")
        page.get_by_label("Named tone of spot-1").select_option("snow")
        expect(self.slip("Shutter")).to_have_text("1/20 s")
        self.saved()
        page.reload()
        expect(self.slip("Shutter")).to_have_text("1/20 s")
        self.assertEqual(self.server.stop(), 0)
        self.server.start()
        self.visit(page.url[page.url.index("/sheets") :])
        expect(self.slip("Shutter")).to_have_text("1/20 s")
        # The page that was open meanwhile asked for news and found nobody.
        faults = [fault for fault in self.faults if "ERR_CONNECTION_REFUSED" not in fault]
        self.assertEqual(faults, [])


class MainJob(InBrowser):
    def test_spots_by_keyboard_and_undo(self):
        page = self.page
        self.visit("/sheets/4")
        expect(self.slip("ISO")).to_have_text("50")
        spot = page.get_by_role("button", name=re.compile("^Spot tarred planks"))
        before = self.box_of(spot)["x"]
        spot.focus()
        page.keyboard.press("Shift+ArrowRight")
        self.saved()
        self.assertGreater(spot.bounding_box()["x"], before + 8)
        page.keyboard.press("Delete")
        expect(spot).to_have_count(0)
        self.saved()
        page.get_by_role("button", name="Undo").click()
        expect(spot).to_be_visible()
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("button", name="Undo")).to_be_disabled()
        # The button is out of use while it is on its way, too.
        for _ in range(40):
            if abs(spot.bounding_box()["x"] - before) < 1.5:
                break
            page.wait_for_timeout(50)
        self.assertAlmostEqual(spot.bounding_box()["x"], before, delta=1.5)

    def test_the_dot_moves_along_the_exposure_and_leaves_it_on_purpose(self):
        page = self.page
        self.visit("/sheets/5")
        dot = page.get_by_role("slider", name="Slip on the map")
        dot.focus()
        page.keyboard.press("ArrowLeft")
        expect(self.slip("Shutter")).to_have_text("1/8000 s")
        expect(self.slip("ISO")).to_have_text("64")
        expect(page.get_by_text("It meets every limit.").first).to_be_visible()
        page.keyboard.press("ArrowUp")
        page.keyboard.press("ArrowUp")
        expect(page.get_by_text("Breaks “hold highlights”")).to_be_visible()
        self.saved()
        page.reload()
        expect(page.get_by_text("Chosen by hand", exact=True)).to_be_visible()
        page.get_by_role("button", name="Use plan").click()
        expect(self.slip("Shutter")).to_have_text("1/6400 s")

    def test_a_conflict_names_the_limits_and_a_trade_resolves_it(self):
        page = self.page
        self.visit("/sheets/3")
        expect(page.get_by_text("4.7 stops too dark: your safe shutter is").first).to_be_visible()
        expect(page.get_by_text("Dial on")).to_have_count(0)
        page.get_by_role("button", name=re.compile("Put the phone on a tripod")).click()
        expect(page.get_by_text("too dark")).to_have_count(0)
        expect(self.slip("ISO")).to_have_text("800")
        expect(self.slip("Support")).to_have_text("Tripod")

    def test_bad_files_are_named_and_the_rest_go_in(self):
        page = self.page
        self.visit("/")
        files = [
            ("good.jpg", jpeg(corners())),
            ("words.jpg", b"only words"),
            ("two.jpg", jpeg(corners() // 2)),
        ]
        self.drop("main ul", files)
        expect(page.get_by_text("words.jpg: this is not a picture")).to_be_visible()
        expect(page.get_by_role("link", name=re.compile("good"))).to_be_visible()
        expect(page.get_by_role("link", name=re.compile("two"))).to_be_visible()

    def test_a_picture_cut_short_says_so_and_is_planned_from_by_hand(self):
        page = self.page
        self.visit("/")
        whole = jpeg(corners(300, 400))
        self.drop("main ul", [("half.jpg", whole[: len(whole) // 2]), ("good.jpg", whole)])
        expect(page.get_by_text("half.jpg: its pixels are cut short")).to_be_visible()
        card = page.get_by_role("link", name=re.compile("half"))
        expect(card).to_contain_text("no preview")
        card.click()
        expect(page.get_by_role("region", name="Slip")).to_contain_text("could not be metered")
        # Its settings could be read: they are there to be taken as auto's reading.
        page.get_by_role("button", name="Add reading").click()
        expect(page.get_by_label("ISO", exact=True)).to_have_value("100")
        expect(page.get_by_label("Shutter")).to_have_value("1/100")
        page.get_by_role("button", name="Add", exact=True).click()
        expect(self.slip("ISO")).to_have_text("50")
        expect(self.slip("Shutter")).to_have_text("1/50 s")

    def test_a_picture_without_exposure_is_asked_for_by_hand(self):
        page = self.page
        self.visit("/")
        self.drop("main ul", [("plain.jpg", jpeg(corners(), exif(None, None, None)))])
        page.wait_for_url("**/sheets/*")
        expect(page.get_by_role("region", name="Slip")).to_contain_text("has no ISO")
        for label, value in (("ISO", "100"), ("Shutter, s", "1/100"), ("f-number", "1.8")):
            page.get_by_label(label, exact=True).fill(value)
        page.get_by_role("button", name="Use these").click()
        expect(self.slip("ISO")).to_have_text("50")

    def test_deleted_sheets_come_back_from_the_bin(self):
        page = self.page
        self.visit("/")
        page.get_by_role("button", name="Delete Varnish tins for the shop").click(force=True)
        expect(page.get_by_role("link", name=re.compile("Varnish tins"))).to_have_count(0)
        page.reload()
        page.get_by_role("button", name="Bin").click()
        page.get_by_role("dialog").get_by_role("button", name="Restore").click()
        expect(page.get_by_text("Nothing has been deleted.")).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.get_by_role("link", name=re.compile("Varnish tins"))).to_be_visible()

    def test_kit_copy_edit_and_refusal(self):
        page = self.page
        self.visit("/kit")
        page.get_by_role("button", name="Copy and edit").click()
        text = page.get_by_role("dialog").get_by_role("textbox")
        profile = json.loads(text.input_value())
        text.fill(json.dumps({**profile, "colour": "grey"}))
        page.get_by_role("button", name="Save phone").click()
        expect(page.get_by_role("alert")).to_contain_text("colour: unknown field")
        text.fill(json.dumps({**profile, "name": "My own Wherry"}))
        page.get_by_role("button", name="Save phone").click()
        expect(page.get_by_role("heading", name="My own Wherry")).to_be_visible()

    def test_a_sheet_keeps_a_phone_that_leaves_the_kit(self):
        page = self.page
        self.visit("/kit")
        page.get_by_role("button", name="Copy and edit").click()
        text = page.get_by_role("dialog").get_by_role("textbox")
        text.fill(json.dumps({**json.loads(text.input_value()), "name": "My own Wherry"}))
        page.get_by_role("button", name="Save phone").click()
        expect(page.get_by_role("heading", name="My own Wherry")).to_be_visible()
        self.visit("/sheets/5")
        page.get_by_role("tab", name="Limits").click()
        page.get_by_role("tab", name="Phone, lens").click()
        page.get_by_label("Phone", exact=True).select_option(label="My own Wherry")
        expect(page.get_by_role("region", name="Slip")).to_contain_text("Dial on My own Wherry")
        self.saved()
        self.visit("/kit")
        page.get_by_role("button", name="Delete", exact=True).click()
        expect(page.get_by_role("button", name=re.compile("^My own Wherry"))).to_have_count(0)
        self.visit("/sheets/5")
        expect(page.get_by_role("region", name="Slip")).to_contain_text("Dial on My own Wherry")
        page.get_by_role("tab", name="Limits").click()
        page.get_by_role("tab", name="Phone, lens").click()
        chosen = page.get_by_label("Phone", exact=True).locator("option:checked")
        expect(chosen).to_have_text("My own Wherry, not in your kit")
        self.assertEqual(self.faults, [])

    def test_a_number_opens_to_its_formula(self):
        page = self.page
        self.visit("/sheets/4")
        page.get_by_role("tab", name="Limits").click()
        page.get_by_role("button", name=re.compile("Handheld, 24 mm")).click()
        expect(page.get_by_text("t_max = 2^stab/f35")).to_be_visible()
        expect(page.get_by_role("dialog")).to_contain_text("0.3333 s")
