"""Outings: started, named, binned and taken back; what a sheet says of itself elsewhere."""

import re

from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser
from tests.pictures.making import corners, jpeg


class Outings(InBrowser):
    def place_of(self, outing):
        """Which of the outings shown has a title."""
        found = self.page.locator(f'input[aria-label="Outing title"][value="{outing}"]')
        expect(found).to_have_count(1)
        titles = self.page.get_by_label("Outing title").all()
        return [title.input_value() for title in titles].index(outing)

    def test_an_outing_is_started_named_and_filled(self):
        page = self.page
        self.visit("/")
        page.get_by_role("button", name="New outing").click()
        new = self.place_of("New outing")
        for label, words in (
            ("Outing title", "Spring fitting-out"),
            ("Place", "Kettle Reach, the shed"),
            ("Light window", "09:00 to noon"),
        ):
            page.get_by_label(label, exact=True).nth(new).fill(words)
            page.get_by_label(label, exact=True).nth(new).press("Enter")
        chooser = page.locator("input[type=file][multiple]").nth(new)
        chooser.set_input_files(
            [
                {"name": f"{name}.jpg", "mimeType": "image/jpeg", "buffer": jpeg(corners() // by)}
                for name, by in (("keel", 1), ("rudder", 2))
            ]
        )
        # Both, before leaving: a page that goes takes along what it is still sending.
        for name in ("keel", "rudder"):
            expect(page.get_by_role("link", name=re.compile(name))).to_be_visible()
        page.reload()
        expect(page.get_by_label("Outing title").nth(new)).to_have_value("Spring fitting-out")
        expect(page.get_by_label("Light window").nth(new)).to_have_value("09:00 to noon")
        expect(page.get_by_role("link", name=re.compile("rudder"))).to_be_visible()

    def test_an_outing_started_before_the_list_is_there_is_in_it(self):
        page, lists, held = self.page, [], []

        def hold_first(route):
            if route.request.method == "GET":
                lists.append(route)
            if lists[:1] == [route]:
                held.append((route, route.fetch()))
            else:
                route.continue_()

        page.route(re.compile(r"/api/outings(\?.*)?$"), hold_first)
        self.visit("/")
        with page.expect_response(lambda answer: answer.request.method == "POST"):
            page.get_by_role("button", name="New outing").click()
        while not held:  # the list itself may still be on its way to the test
            page.wait_for_timeout(50)
        route, answer = held.pop()
        route.fulfill(response=answer)
        self.place_of("New outing")

    def test_a_binned_outing_comes_back_with_its_sheets(self):
        page = self.page
        self.visit("/")
        sheet = page.get_by_role("link", name=re.compile("Sail trials"))
        expect(sheet).to_be_visible()
        before = page.get_by_role("link").count()
        which = self.place_of("Autumn haul-out")
        page.get_by_role("button", name="Delete outing").nth(which).click()
        expect(sheet).to_have_count(0)
        page.get_by_role("button", name="Undo").click()
        expect(sheet).to_be_visible()
        expect(page.get_by_role("link")).to_have_count(before)

    def test_the_same_picture_twice_is_two_sheets_of_one_file(self):
        page = self.page
        self.visit("/")
        self.drop("main ul", [("plank.jpg", jpeg(corners()))])
        page.wait_for_url("**/sheets/*")
        self.visit("/")
        self.drop("main ul", [("plank.jpg", jpeg(corners()))])
        page.wait_for_url("**/sheets/*")
        self.visit("/")
        expect(page.get_by_role("link", name=re.compile("plank"))).to_have_count(2)
        files = [path for path in self.server.folder.rglob("*") if path.is_file()]
        self.assertEqual(sum(path.read_bytes() == jpeg(corners()) for path in files), 1)

    def test_a_title_follows_the_sheet_into_its_outing_and_its_copy(self):
        page = self.page
        page.context.grant_permissions(["clipboard-read", "clipboard-write"])
        self.visit("/sheets/5")
        title = page.get_by_label("Sheet title")
        title.fill("White hull, tide out")
        title.press("Enter")
        self.saved()
        page.get_by_role("button", name="Copy").click()
        expect(page.get_by_text("Slip copied.")).to_be_visible()
        lines = page.evaluate("navigator.clipboard.readText()").split("\n")
        self.assertEqual(lines[0], "White hull, tide out, on Fennick Wherry 3 (example phone)")
        self.assertEqual(
            [line.split(" (")[0] for line in lines[1:4]],
            [
                "1. Lens: Main",
                "2. ISO: 50",
                "3. Shutter: 1/6400 s",
            ],
        )
        page.get_by_role("link", name=re.compile("^Outings; this sheet belongs to")).click()
        expect(page.get_by_role("link", name=re.compile("White hull, tide out"))).to_be_visible()

    def test_a_page_that_is_not_there_says_so(self):
        page = self.page
        for path in ("/sheets/9999", "/nowhere"):
            self.visit(path)
            expect(page.get_by_role("link", name=re.compile("[Oo]utings")).first).to_be_visible()
            expect(page.locator("main, body").first).to_contain_text(
                re.compile("no sheet|not|nothing", re.I)
            )


class Many(InBrowser):
    def test_a_search_finds_sheets_by_title_and_all_of_an_outing_can_be_shown(self):
        page = self.page
        made = page.request.post(f"{self.server.url}/api/outings", data={"title": "Regatta"}).json()
        for number in range(14):
            page.request.post(
                f"{self.server.url}/api/outings/{made['id']}/sheets",
                data={"title": f"Heat {number}"},
            )
        self.visit("/")
        page.get_by_role("button", name="Show all 14 sheets").click()
        expect(page.get_by_role("link", name="Heat 13")).to_be_visible()
        page.get_by_role("searchbox").fill("lantern")
        expect(page.get_by_role("link", name=re.compile("^Heat"))).to_have_count(0)
        expect(page.get_by_role("link", name=re.compile("lantern", re.I)).first).to_be_visible()
        page.get_by_role("searchbox").fill("no such thing")
        page.get_by_role("button", name="Show all outings").click()
        expect(page.get_by_role("link", name="Heat 0")).to_be_visible()


class Troubles(InBrowser):
    def test_edits_wait_for_a_server_that_does_not_answer(self):
        page = self.page
        self.visit("/sheets/4")
        expect(self.slip("Shutter")).to_have_text("1/1000 s")
        page.route("**/api/sheets/4", lambda route: route.abort("connectionrefused"))
        dot = page.get_by_role("slider", name="Slip on the map")
        dot.focus()
        page.keyboard.press("ArrowLeft")
        expect(page.get_by_text("Not saved yet: Oxlen does not answer")).to_be_visible()
        page.keyboard.press("ArrowLeft")
        expect(self.slip("Shutter")).to_have_text("1/1600 s")
        page.unroute("**/api/sheets/4")
        self.saved()
        page.reload()
        expect(self.slip("Shutter")).to_have_text("1/1600 s")
        expect(page.get_by_text("Chosen by hand", exact=True)).to_be_visible()

    def test_a_sheet_changed_elsewhere_is_not_written_over(self):
        page = self.page
        other = self.open_page()
        for open_page in (page, other):
            self.visit("/sheets/4", open_page)
            expect(self.slip("Shutter", open_page)).to_have_text("1/1000 s")
        other.get_by_label("Sheet title").fill("Renamed over there")
        other.get_by_label("Sheet title").press("Enter")
        self.saved(other)
        page.get_by_role("slider", name="Slip on the map").focus()
        page.keyboard.press("ArrowLeft")
        expect(page.get_by_label("Sheet title")).to_have_value("Renamed over there")
        expect(page.get_by_role("status").or_(page.get_by_role("alert")).first).to_be_visible()
        # An edit still on its way would land in the library of the next test.
        self.saved()
        expect(self.slip("Shutter")).to_have_text("1/1250 s")
