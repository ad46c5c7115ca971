"""Two walks at a desk: a night in June, and a take that was soft."""

import re

import cv2
import numpy as np
from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser
from tests.pictures.making import exif, jpeg

MOST_ACTIONS = 6


def texture():
    """Grain that is sharp, and the same out of focus round the first spot: (h, w, 3) each."""
    draw = np.random.default_rng(4)
    plain = cv2.blur(draw.uniform(30, 220, (480, 640)).astype(np.float32), (2, 2))
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (5, 5)).astype(np.float32)
    soft = plain.copy()
    soft[260:460, 60:260] = cv2.filter2D(plain, -1, disc / disc.sum())[260:460, 60:260]
    return [np.dstack([levels] * 3).astype(np.uint8) for levels in (plain, soft)]


class Walks(InBrowser):
    def setUp(self):
        super().setUp()
        self.actions = 0

    def click(self, part):
        part.click()
        self.actions += 1

    def test_a_night_in_june(self):
        page = self.page
        self.visit("/")
        main = page.get_by_role("navigation", name="Main pages")
        self.click(main.get_by_role("link", name="Places"))
        self.click(page.get_by_role("link", name="Kettle Reach").first)
        self.click(page.get_by_role("radio", name="Night"))
        page.get_by_label("Day", exact=True).fill("2027-06-01")
        page.get_by_label("Day", exact=True).press("Enter")
        self.actions += 1
        best = self.region("Dark nights").get_by_role("listitem").first
        expect(best).to_contain_text("Jun 2027")
        self.click(best.get_by_role("button"))
        stack = self.region("Night").get_by_role("region", name="Stack")
        stated = stack.get_by_text(re.compile(r"frames of")).inner_text()
        count, each = re.search(r"(\d+) frames of ([\d.]+) s", stated).groups()
        self.click(stack.get_by_role("button", name="Make a sheet"))
        page.wait_for_url("**/sheets/*")
        self.assertLessEqual(self.actions, MOST_ACTIONS)
        # The sheet has the numbers of the night: frames, time of each.
        expect(self.slip("Frames")).to_contain_text(f"{count} averaged")
        expect(self.slip("Shutter")).to_have_text(f"{each} s")
        # 500 over the focal length is the old rule of stars; points are held far below it.
        self.assertLess(float(each), 500 / 24)

    def test_a_soft_take_is_named_with_the_one_change(self):
        page = self.page
        sharp, soft = texture()
        focus = {"on": "Wall", "distance_m": 2.0}
        self.sheet(9.0, readings=[], support="tripod", focus=focus)
        sheet = f"{self.server.url}/api/sheets/{page.url.rsplit('/', 1)[1]}"
        sent = page.request.post(f"{sheet}/picture?name=loop.jpg", data=jpeg(sharp, exif(iso=100)))
        self.assertEqual(sent.status, 201, sent.text())
        now = sent.json()["sheet"]
        spot = {"id": "w", "x": 0.25, "y": 0.75, "r": 0.1, "name": "Wall", "role": "subject"}
        edit = {"version": now["version"], "label": "x", "body": {**now["body"], "spots": [spot]}}
        slip = page.request.put(sheet, data=edit).json()["answer"]["plan"]["slip"]
        page.reload()
        shot = exif(iso=round(slip["iso"]), shutter=(1, round(1 / slip["shutter_s"])))
        self.click(page.get_by_role("tab", name="Picture"))
        page.get_by_label("Add takes").first.set_input_files(
            [{"name": "soft.jpg", "mimeType": "image/jpeg", "buffer": jpeg(soft, shot)}]
        )
        self.actions += 1
        takes = self.region("Takes").get_by_role("button", name=re.compile("^Take"))
        self.click(takes.first)
        verdict = page.get_by_role("region", name="Compared with the plan")
        expect(verdict).to_contain_text("Out of focus")
        # The focus is the one change: the settings were those of the slip.
        expect(verdict.get_by_role("paragraph").first).to_contain_text(re.compile("[Ff]ocus"))
        self.assertLessEqual(self.actions, MOST_ACTIONS)
