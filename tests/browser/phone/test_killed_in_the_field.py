"""Server and browser killed while edits and pictures wait on the phone: all there, and once."""

import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

import httpx
import numpy as np
from playwright.sync_api import expect

from oxlen.store.library import Library
from oxlen.store.sheets import every_sheet
from oxlen.store.takes import takes_of
from tests.browser.app_in_browser import FLAGS, ROOT, chromium, shared
from tests.pictures.making import jpeg

BODY = {"title": "Sluice", "phone": "wherry-3"}
LIGHT = [{"id": "wall", "name": "Wall", "source": {"kind": "ev", "ev100": 9.0}}]


class KilledInTheField(unittest.TestCase):
    def setUp(self):
        self.folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        self.process = self.context = None
        self.addCleanup(self.kill_server)
        self.addCleanup(lambda: self.context and self.context.close())

    def start_server(self):
        """Serve phones nearby as people start it; where, and the words to pair by."""
        command = [sys.executable, "-m", "oxlen", "serve", "--no-browser", "--port", "0"]
        self.process = subprocess.Popen(
            [
                *command,
                "--network",
                "5",
                "--address",
                "127.0.0.3",
                "--data",
                str(self.folder / "library"),
            ],
            stdout=subprocess.PIPE,
            text=True,
            env={**os.environ, "PYTHONPATH": str(ROOT / "src")},
        )
        reported = [self.process.stdout.readline() for _ in range(5)]
        here = next(line for line in reported if line.startswith("Oxlen is at"))
        self.here = re.search(r"http://[\d.:]+", here).group()
        url = next(line for line in reported if line.startswith("Phones nearby"))
        words = next(line for line in reported if line.startswith("Valid for 2 min"))
        return re.search(r"https://[\w.:-]+", url).group(), words.rsplit(": ", 1)[1].strip()

    def allow(self):
        """Allow the phone that wants to pair, as the page on the computer does."""
        with httpx.Client(base_url=self.here) as computer:
            waiting = computer.get("/api/network").json()["devices"][0]
            computer.post(f"/api/network/devices/{waiting['id']}/confirm").raise_for_status()

    def kill_server(self):
        if self.process:
            self.process.kill()
            self.process.wait()
            self.process.stdout.close()
        self.process = None

    def start_browser(self):
        """The phone's browser with what it kept; the certificate made here counts as installed."""
        self.context = shared().playwright.chromium.launch_persistent_context(
            self.folder / "phone",
            executable_path=chromium(),
            args=[*FLAGS, "--ignore-certificate-errors"],
            ignore_https_errors=True,
            viewport={"width": 390, "height": 844},
            has_touch=True,
            is_mobile=True,
        )
        return self.context.pages[0]

    def kill_browser(self):
        """End the browser as a phone out of power does."""
        for line in Path("/proc").glob("[0-9]*/cmdline"):
            stated = line.read_bytes() if line.exists() else b""
            if (
                f"--user-data-dir={self.folder / 'phone'}".encode() in stated
                and b"--type=" not in stated
            ):
                os.kill(int(line.parent.name), signal.SIGKILL)
        self.context = None

    def edit(self, page, title):
        field = page.get_by_label("Sheet title")
        field.fill(title)
        field.press("Enter")

    def take(self, page, tone):
        picked = {
            "name": f"creek-{tone}.jpg",
            "mimeType": "image/jpeg",
            "buffer": jpeg(np.full((60, 80, 3), tone)),
        }
        page.get_by_role("tab", name="Picture").tap()
        page.get_by_label("Add takes").first.set_input_files([picked])
        waiting = page.get_by_role("region", name="Takes").get_by_text(f"creek-{tone}.jpg")
        expect(waiting).to_be_visible()

    def test_ten_edits_and_three_takes_outlive_server_and_browser_and_come_once(self):
        url, words = self.start_server()
        page = self.start_browser()
        paired = page.request.post(f"{url}/api/pair", data={"words": words})
        self.assertEqual(paired.status, 201)
        self.allow()
        outing = page.request.post(f"{url}/api/outings", data={"title": "Sluice"}).json()["id"]
        made = page.request.post(
            f"{url}/api/outings/{outing}/sheets", data={**BODY, "readings": LIGHT}
        ).json()
        address = f"{url}/sheets/{made['id']}"
        page.goto(address)
        self.until(
            page,
            "async () => (await (await caches.open('oxlen-parts')).keys()).length >"
            " (await (await fetch('/parts.json')).json()).length",
        )
        page.reload()
        expect(page.get_by_label("Sheet title")).to_be_visible()
        self.until(
            page,
            "async () => (await (await caches.open('oxlen-answers')).keys())"
            ".some((one) => one.url.includes('light-table'))",
        )
        self.kill_server()
        for part in range(5):
            self.edit(page, f"Sluice {part}")
        expect(page.get_by_text("Not saved yet")).to_be_visible()
        self.take(page, 60)
        self.kill_browser()
        page = self.start_browser()
        page.goto(address)
        expect(page.get_by_label("Sheet title")).to_have_value("Sluice 4")
        expect(page.get_by_text("creek-60.jpg")).to_be_visible()
        for part in range(5, 10):
            self.edit(page, f"Sluice {part}")
        for tone in (110, 160):
            self.take(page, tone)
        takes = page.get_by_role("region", name="Takes").get_by_role(
            "button", name=re.compile("^Take")
        )
        _, words = self.start_server()
        # Browsers write cookies down late: mostly its pairing is lost, and it is paired again.
        asked = page.get_by_role("heading", name="Pair this phone")
        expect(asked.or_(takes.first)).to_be_visible(timeout=30_000)
        if asked.is_visible():
            page.get_by_label("The six words").fill(words)
            page.get_by_role("button", name="Pair").tap()
            page.get_by_role("heading", name="Confirm on the computer").wait_for()
            self.allow()
            page.get_by_role("heading", name="Outings").wait_for()
            page.goto(address)
        expect(takes.first).to_be_visible(timeout=30_000)
        # In the middle of sending.
        self.kill_server()
        self.start_server()
        expect(takes).to_have_count(3, timeout=30_000)
        expect(page.get_by_text("waiting on this phone")).to_have_count(0, timeout=30_000)
        # Edits are tried again at their own times, pictures at theirs.
        expect(page.get_by_text("Not saved yet")).to_have_count(0, timeout=60_000)
        expect(page.get_by_text(re.compile(r"^Saved \d"))).to_be_visible(timeout=60_000)
        library = Library(self.folder / "library")
        for _ in range(120):
            with library.reader() as connection:
                (sheet,) = every_sheet(connection)
                names = [take.sha256 for take in takes_of(connection, sheet.id)]
            if '"title":"Sluice 9"' in sheet.body:
                break
            page.wait_for_timeout(500)
        self.assertIn('"title":"Sluice 9"', sheet.body)
        self.assertEqual(len(set(names)), 3)
        # Of ten edits made away the last state came, as one edit.
        self.assertEqual(sheet.version, 2)

    def until(self, page, expression):
        """Wait for something on the page, whose policy allows no watching script."""
        for _ in range(150):
            if page.evaluate(expression):
                return
            page.wait_for_timeout(100)
        self.fail(expression)


if __name__ == "__main__":
    unittest.main()
