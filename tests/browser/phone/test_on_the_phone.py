"""Oxlen on a phone: paired over https, reading a picture, seeing what the computer changes."""

import re
import unittest
from threading import Event
from unittest import mock

import numpy as np
from playwright.sync_api import expect

from oxlen.network.serving import Wanted
from oxlen.server.routes.sheet import sheets as asked_sheets
from oxlen.store.kit.devices import revoke_all_devices
from oxlen.store.sheets import edit_sheet, sheet
from tests.browser.phone.with_phone import ADDRESS, WithPhone
from tests.pictures.making import exif, jpeg

LOCK_SCREEN = """
  // The browser of the tests has no lock screen: this keeps what would be on it.
  window.notified = [];
  Notification.requestPermission = () => Promise.resolve("granted");
  ServiceWorkerRegistration.prototype.showNotification = (title, { tag, body }) => {
    window.notified.push({ title, tag, body });
    return Promise.resolve();
  };
  ServiceWorkerRegistration.prototype.getNotifications = ({ tag }) =>
    Promise.resolve(window.notified.filter((shown) => shown.tag === tag).map((shown) => ({
      close: () => { window.notified = window.notified.filter((kept) => kept !== shown); },
    })));
"""
SENSORS = ["geolocation", "accelerometer", "gyroscope", "magnetometer"]


class OnThePhone(WithPhone):
    def test_paired_it_reaches_a_slip_in_two_taps_and_can_be_put_out(self):
        self.pair()
        phone = self.phone
        phone.get_by_role("link", name=re.compile("Sail trials")).tap()
        phone.get_by_role("button", name=re.compile("Lens ")).tap()
        expect(self.slip("Shutter", phone)).to_have_text("1/1250 s")
        phones = self.page.get_by_role("region", name="Paired phones")
        expect(phones.get_by_label("Name")).to_have_value("My phone")
        phones.get_by_role("button", name="Unpair").click()
        expect(phones.get_by_text("None yet.")).to_be_visible()
        phone.reload()
        expect(phone.get_by_role("heading", name="Pair this phone")).to_be_visible()

    def test_a_phone_that_does_not_trust_the_certificate_says_offline_is_off_and_how_to_mend_it(
        self,
    ):
        url = self.paired()
        self.phone.goto(url)
        off = self.phone.get_by_role("status").filter(has_text="Offline is off")
        off.get_by_role("link", name="Turn it on").tap()
        expect(self.phone.get_by_role("heading", name="Offline is off")).to_be_visible()
        link = self.phone.get_by_role("link", name="Download the certificate")
        got = self.phone.request.get(f"{url}{link.get_attribute('href')}")
        self.assertEqual(got.status, 200)
        off.get_by_role("button", name="Later").tap()
        self.phone.reload()
        expect(off).to_have_count(0)

    def test_the_square_brings_its_words_along_and_leaves_none_in_the_address(self):
        served = self.network.serving.start(Wanted(5, is_secure=True, port=0))
        words = "-".join(self.network.desk.offer(self.network.seconds()).words)
        self.visit("/phone")
        self.phone.goto(f"{served.urls[0]}/pair#{words}")
        expect(self.phone.get_by_role("heading", name="Confirm on the computer")).to_be_visible()
        self.assertNotIn("#", self.phone.url)
        self.phone.reload()
        expect(self.phone.get_by_role("heading", name="Confirm on the computer")).to_be_visible()
        asks = self.page.get_by_role("alert", name=re.compile("wants to pair"))
        expect(asks).to_contain_text(ADDRESS[:6])
        self.allow()
        expect(self.phone.get_by_role("heading", name="Outings")).to_be_visible()
        wrong = self.phone.context.browser.new_context(ignore_https_errors=True)
        self.addCleanup(wrong.close)
        other = wrong.new_page()
        other.goto(f"{served.urls[0]}/pair#{words}")
        expect(other.get_by_role("alert")).to_contain_text("no pairing code")

    def test_each_sees_within_a_second_what_the_other_changes(self):
        url = self.paired()
        self.sheet(9.0)
        number = self.page.url.rsplit("/", 1)[1]
        self.phone.goto(f"{url}/sheets/{number}")
        title = self.phone.get_by_label("Sheet title")
        expect(title).to_have_value("Made for this")
        self.page.get_by_label("Sheet title").fill("Sluice at dusk")
        self.page.keyboard.press("Enter")
        expect(title).to_have_value("Sluice at dusk", timeout=3000)
        title.fill("Sluice by lantern")
        title.press("Enter")
        expect(self.page.get_by_label("Sheet title")).to_have_value(
            "Sluice by lantern", timeout=3000
        )

    def test_a_large_picture_is_read_from_a_small_copy_and_can_follow_whole(self):
        url = self.paired()
        self.sheet(9.0)
        self.phone.goto(f"{url}/sheets/{self.page.url.rsplit('/', 1)[1]}")
        expect(self.phone.get_by_role("button", name="Use camera").first).to_be_visible()
        # Held upright: stored across, and marked so.
        file = twelve_megapixels(exif(t274=6))
        picked = {"name": "creek.jpg", "mimeType": "image/jpeg", "buffer": file}
        self.phone.get_by_label("Take a picture now").last.set_input_files([picked])
        whole = self.phone.get_by_role("button", name="Send full size")
        expect(whole).to_be_visible()
        report = self.report()
        # A stop over mid in one half, two under in the other: as the whole file has it.
        self.assertEqual((report["file"]["width"], report["file"]["height"]), (1200, 1600))
        small = report["frame"]["mean_stops"]
        self.assertLess(self.kept_bytes(), 300_000)
        whole.tap()
        expect(self.phone.get_by_label("Imports")).to_have_count(0)
        report = self.report()
        self.assertEqual((report["file"]["width"], report["file"]["height"]), (3000, 4000))
        self.assertAlmostEqual(report["frame"]["mean_stops"], small, delta=0.05)
        self.assertEqual(report["settings"]["iso"], 100)

    def test_without_the_network_it_opens_what_was_opened_and_edits_wait(self):
        # By plain http, which browsers trust on a loop address alone: enough for the worker.
        url = self.paired(is_secure=False)
        self.sheet(9.0)
        number = self.page.url.rsplit("/", 1)[1]
        phone = self.phone
        phone.goto(f"{url}/")
        expect(phone.get_by_role("heading", name="Outings")).to_be_visible()
        self.until("() => navigator.serviceWorker.controller !== null")
        self.until(
            "async () => (await (await caches.open('oxlen-parts')).keys()).length"
            " >= (await (await fetch('/parts.json')).json()).length"
        )
        # The outing was looked at: its sheets are there without having been opened.
        table = f"/api/sheets/{number}/light-table"
        self.until(
            "async () => (await (await caches.open('oxlen-answers')).keys())"
            f".some((one) => one.url.endsWith('{table}'))"
        )
        phone.context.set_offline(True)
        phone.goto(f"{url}/")
        phone.get_by_role("link", name="Saved on this phone").tap()
        expect(phone.get_by_text("saves the last 400 pages")).to_be_visible()
        phone.goto(f"{url}/sheets/{number}")
        title = phone.get_by_label("Sheet title")
        expect(title).to_have_value("Made for this")
        expect(phone.get_by_text("No connection to the computer")).to_be_visible()
        phone.get_by_role("button", name=re.compile("Lens ")).tap()
        shown = phone.get_by_role("dialog")
        table = shown.get_by_role("table").last
        expect(table.get_by_role("row")).to_have_count(20)
        phone.get_by_role("button", name="Close").tap()
        for part in range(10):
            title.fill(f"Sluice {part}")
            title.press("Enter")
        phone.get_by_role("tab", name="Picture").tap()
        for tone in (60, 110, 160):
            self.add_take(f"creek-{tone}.jpg", jpeg(np.full((60, 80, 3), tone)))
            takes = phone.get_by_role("region", name="Takes")
            expect(takes.get_by_text(f"creek-{tone}.jpg")).to_be_visible()
        phone.reload()
        expect(title).to_have_value("Sluice 9")
        expect(phone.get_by_text("waiting on this phone", exact=True)).to_have_count(3)
        self.assertEqual(self.sheet_now()["body"]["title"], "Made for this")
        before = self.sheet_now()["version"]
        phone.context.set_offline(False)
        expect(self.page.get_by_label("Sheet title")).to_have_value("Sluice 9")
        takes = phone.get_by_role("region", name="Takes")
        expect(takes.get_by_role("button", name=re.compile("^Take"))).to_have_count(3)
        expect(phone.get_by_text("waiting on this phone", exact=True)).to_have_count(0)
        # One edit; takes change nothing of the sheet.
        self.assertEqual(self.sheet_now()["version"], before + 1)
        phone.reload()
        expect(phone.get_by_text("No connection to the computer")).to_have_count(0)
        # What others changed meanwhile is merged with it; where both did, it is asked.
        phone.context.set_offline(True)
        title.fill("Mine")
        title.press("Enter")
        phone.get_by_role("tab", name="Picture").tap()
        wanted = phone.get_by_label("Intent")
        wanted.fill("The gate sharp")
        wanted.press("Enter")
        self.page.get_by_label("Sheet title").fill("Theirs")
        self.page.keyboard.press("Enter")
        self.saved()
        phone.context.set_offline(False)
        asked = phone.get_by_role("dialog", name="Changed here and elsewhere")
        expect(asked.get_by_role("group")).to_have_count(1)
        asked.get_by_label("Mine").check()
        asked.get_by_role("button", name="Keep selected").tap()
        expect(self.page.get_by_label("Sheet title")).to_have_value("Mine")
        self.assertEqual(self.sheet_now()["body"]["intent"], "The gate sharp")
        # Put out, it forgets what it kept.
        with self.server.app.state.context.library.writer() as connection:
            revoke_all_devices(connection)
        phone.goto(f"{url}/")
        expect(phone.get_by_role("heading", name="Pair this phone")).to_be_visible()
        self.until("async () => (await (await caches.open('oxlen-answers')).keys()).length === 0")

    def test_an_answer_that_came_too_late_does_not_leave_the_page_as_it_was(self):
        # Later than the phone waits for: it shows its copy, and has to ask once more by itself.
        url = self.paired(is_secure=False)
        self.sheet(9.0)
        number, phone = self.page.url.rsplit("/", 1)[1], self.phone
        phone.goto(f"{url}/")
        self.until("() => navigator.serviceWorker.controller !== null")
        phone.goto(f"{url}/sheets/{number}")
        expect(phone.get_by_label("Sheet title")).to_have_value("Made for this")
        library, answering = self.server.app.state.context.library, Event()
        with library.writer() as connection:
            kept = sheet(connection, int(number))
            body = kept.body.replace("Made for this", "Sluice at dusk")
            version, now = kept.version, kept.changed_at
            edit_sheet(connection, kept.id, body=body, label="Title", from_version=version, now=now)

        def slow(*given):
            answering.wait(60.0)
            return sheet(*given)

        with mock.patch.object(asked_sheets, "sheet", slow):
            phone.reload()
            expect(phone.get_by_text("No connection to the computer")).to_be_visible()
            expect(phone.get_by_label("Sheet title")).to_have_value("Made for this")
            answering.set()
            expect(phone.get_by_label("Sheet title")).to_have_value("Sluice at dusk")
        expect(phone.get_by_text("No connection to the computer")).to_have_count(0)

    def test_level_direction_and_place_are_asked_for_only_when_they_are_opened(self):
        url = self.paired(is_secure=False)
        self.sheet(9.0)
        phone, sheet = self.phone, self.sheet_now()
        phone.context.grant_permissions(SENSORS, origin=url)
        phone.context.set_geolocation({"latitude": 51.71, "longitude": -1.25, "accuracy": 12})
        phone.goto(f"{url}/sheets/{sheet['id']}")
        phone.get_by_role("button", name=re.compile("Lens ")).tap()
        shown = phone.get_by_role("dialog")
        shown.get_by_text("Level, direction, place").tap()
        # What a phone tells of how it is held, again and again; the tests' browser has no sensors.
        phone.evaluate(
            "() => { setInterval(() => window.dispatchEvent(new DeviceOrientationEvent("
            "'deviceorientationabsolute', {...window.turned, absolute: true})), 50); }"
        )
        held = shown.get_by_role("group").filter(has_text="Level, direction").locator("dd")
        for angles, leans, looks, toward in (
            ({"alpha": 0, "beta": 80, "gamma": 0}, "level", "10.0° down", "0°, north"),
            ({"alpha": 90, "beta": 97, "gamma": 0}, "level", "7.0° up", "270°, west"),
            # Turned clockwise about the way it looks, which these angles tell so.
            ({"alpha": 90, "beta": 84, "gamma": 90}, "6.0° right", "straight ahead", "180°, south"),
        ):
            with self.subTest(angles):
                phone.evaluate("(turned) => { window.turned = turned; }", angles)
                expect(held.nth(0)).to_have_text(leans)
                expect(held.nth(1)).to_have_text(looks)
                expect(held.nth(2)).to_have_text(toward)
        shown.get_by_role("button", name="Where am I?").tap()
        expect(shown.get_by_text("51.7100° N, 1.2500° W")).to_be_visible()
        shown.get_by_role("button", name="Save for outing").tap()
        expect(shown.get_by_role("button", name="Saved for outing")).to_be_visible()
        kept = self.page.request.get(f"{self.server.url}/api/outings/{sheet['outing_id']}").json()
        self.assertEqual((kept["latitude_deg"], kept["longitude_deg"]), (51.71, -1.25))
        shown.get_by_label("Try made-up readings").check()
        expect(shown.get_by_text("Made-up readings, not")).to_be_visible()
        expect(held.nth(2)).to_have_text(re.compile("^22[2-6]°, south-west$"))

    def test_the_slip_goes_to_the_lock_screen_and_leaves_with_the_checklist(self):
        url = self.paired(is_secure=False)
        self.sheet(9.0)
        phone = self.phone
        phone.add_init_script(LOCK_SCREEN)
        phone.goto(f"{url}/")
        self.until("() => navigator.serviceWorker.controller !== null")
        phone.goto(f"{url}/sheets/{self.sheet_now()['id']}/run")
        phone.get_by_role("button", name="Large numbers").tap()
        large = phone.get_by_role("region", name="Large numbers")
        values = large.locator("dd").all_inner_texts()
        large.get_by_role("button", name="Lock screen").tap()
        expect(phone.get_by_text("The slip is in your notifications")).to_be_visible()
        large.get_by_role("button", name="Lock screen").tap()  # the same again is still one
        self.until("() => window.notified.length === 1")
        (shown,) = phone.evaluate("window.notified")
        self.assertEqual([part for part in shown["title"].split(", ") if part not in values], [])
        self.assertIn(" s", shown["title"])
        self.assertIn("Made for this", shown["body"])
        large.get_by_role("button", name="Checklist").tap()
        phone.get_by_role("link", name="Back to the sheet").tap()
        self.until("() => window.notified.length === 0")

    def test_a_spot_moved_by_thumb_is_seen_above_it(self):
        url = self.paired(is_secure=False)
        self.sheet(9.0)
        phone, sheet = self.phone, self.sheet_now()
        phone.goto(f"{url}/sheets/{sheet['id']}")
        self.take("creek.jpg", jpeg(np.full((300, 400, 3), 118)))
        frame = phone.get_by_alt_text("Picture of Made for this")
        spot = phone.get_by_role("button", name=re.compile("^Spot "))
        touch = phone.context.new_cdp_session(phone)

        def send(kind, *points):
            given = [{"x": px, "y": py} for px, py in points]
            touch.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": given})

        # A finger that brushes the picture adds nothing; one held still does.
        frame.tap(position={"x": 150, "y": 200})
        phone.wait_for_timeout(800)
        expect(spot).to_have_count(0)
        box = frame.bounding_box()
        send("touchStart", (box["x"] + 150, box["y"] + 200))
        expect(spot).to_be_visible()
        send("touchEnd")
        # Once read, the list of what came in makes room.
        phone.get_by_role("button", name="Dismiss").or_(spot).first.wait_for()
        self.settled(frame)
        box, whole = spot.bounding_box(), frame.bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        send("touchStart", (x, y))
        send("touchMove", (x + 30, y))
        loupe = phone.locator("[data-loupe]")
        expect(loupe).to_be_visible()
        seen = loupe.bounding_box()
        self.assertLess(seen["y"] + seen["height"], y - 40)
        self.assertAlmostEqual(seen["x"] + seen["width"] / 2, x + 30, delta=2)
        send("touchEnd")
        expect(loupe).to_have_count(0)
        expect(phone.get_by_text(re.compile("^Saved"))).to_be_visible()
        wanted = (x + 30 - whole["x"]) / whole["width"]
        self.assertAlmostEqual(self.sheet_now()["body"]["spots"][0]["x"], wanted, delta=0.01)


def twelve_megapixels(block):
    """A JPEG of fine noise and two tones, some megabytes large."""
    draw = np.random.default_rng(5)
    codes = np.where(np.arange(4000)[None, :, None] < 2000, 170, 70) + draw.integers(
        -12, 13, (3000, 4000, 1), dtype=np.int16
    )
    return jpeg(np.repeat(codes, 3, axis=2).astype(np.uint8), block, quality=88)


if __name__ == "__main__":
    unittest.main()
