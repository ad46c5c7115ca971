"""A shop series over HTTP: listed, sorted, checked, matched and handed over."""

import asyncio
import csv
import io
import zipfile

import numpy as np
from PIL import Image

from oxlen.cards.qr_code import qr_of
from oxlen.devices.standins.bench_series import GREY_PATCH, Bench, Mistake, series_jpeg
from oxlen.shop.codes import code_text
from oxlen.store.shop import the_shop_series, things_of
from tests.server.test_api import WithApp

BENCH = Bench(9)
TINS = "number,name,size\n01,Clear varnish,11 x 14 x 11 cm\n02,Tar varnish,\n03,Deck oil,90 mm\n"


def shot(number, mistake=None, *, minute=0):
    return series_jpeg(BENCH.take(number, mistake), f"2026-10-03T10:{minute:02d}:00")


def code_shot(uid):
    dark = qr_of(code_text(uid)).is_dark
    code = np.kron(np.where(dark, 20, 235).astype(np.uint8), np.ones((8, 8), np.uint8))
    frame = np.full((800, 600, 3), 170, np.uint8)
    frame[100 : 100 + len(code), 100 : 100 + len(code)] = code[..., None]
    return series_jpeg(frame, "2026-10-03T10:00:00")


class ShopSeries(WithApp):
    async def begun(self, text=TINS, **options):
        sheets = f"/api/outings/{self.outing}/sheets"
        made = await self.http.post(sheets, json={"title": "Varnish tins", "phone": "wherry-3"})
        self.sheet = made.json()["id"]
        self.path = f"/api/sheets/{self.sheet}/shop"
        listed = await self.http.post(f"{self.path}/things", json={"text": text})
        self.assertEqual(listed.status_code, 201, listed.text)
        if options:
            whole = {**listed.json()["options"], **options}
            answer = await self.http.put(self.path, json=whole)
            self.assertEqual(answer.status_code, 200, answer.text)
        return (await self.http.get(self.path)).json()

    async def shoot(self, *files):
        for number, data in enumerate(files):
            path = f"/api/sheets/{self.sheet}/takes?name=p{number:02d}.jpg"
            self.assertEqual((await self.http.post(path, content=data)).status_code, 201)
        return (await self.http.post(f"{self.path}/sort")).json()

    async def ended(self, path):
        job = (await self.http.post(f"{self.path}/{path}")).json()
        while job["state"] == "working":
            await asyncio.sleep(0.1)
            job = (await self.http.get(f"/api/imports/{job['id']}")).json()
        self.assertEqual(job["state"], "done", job)
        return (await self.http.get(self.path)).json()

    async def test_a_list_has_numbers_names_and_sizes(self):
        view = await self.begun()
        rows = [(t["number"], t["name"], t["width_cm"], t["height_cm"]) for t in view["things"]]
        self.assertEqual(rows[0], ("01", "Clear varnish", 11, 14))
        self.assertEqual(rows[1:], [("02", "Tar varnish", None, None), ("03", "Deck oil", 9, None)])
        self.assertEqual(view["next"]["name"], "Clear varnish")
        again = await self.http.post(f"{self.path}/things", json={"text": "number,name\n02,Tallow"})
        self.assertEqual((again.status_code, again.json()["field"]), (422, "text"))
        self.assertIn("Number 02 is in the list already", again.text)

    async def test_takes_are_sorted_by_order_and_mended_by_hand(self):
        await self.begun()
        view = await self.shoot(shot(0), shot(1))
        self.assertEqual(view["next"]["name"], "Deck oil")
        first, second = (thing["pictures"][0]["take_id"] for thing in view["things"][:2])
        last = {"thing_id": view["things"][2]["id"], "view": "front"}
        placed = await self.http.put(f"{self.path}/takes/{second}", json={"picture": last})
        self.assertEqual(placed.json()["things"][2]["pictures"][0]["take_id"], second)
        self.assertEqual(placed.json()["next"]["name"], "Tar varnish")
        # Shot again: it replaces the first one, which stays with the sheet.
        aim = {"thing_id": view["things"][0]["id"], "view": "front"}
        await self.http.post(f"{self.path}/aim", json={"picture": aim})
        again = (await self.shoot(shot(5)))["things"][0]["pictures"][0]
        self.assertEqual((again["takes"], again["take_id"] != first), (2, True))
        kept = await self.http.get(f"/api/sheets/{self.sheet}/takes")
        self.assertEqual(len(kept.json()), 3)

    async def test_takes_of_a_view_that_is_renamed_are_spare_and_not_gone(self):
        await self.begun()
        view = await self.shoot(shot(0))
        take = view["things"][0]["pictures"][0]["take_id"]
        options = {**view["options"], "views": ["label"]}
        renamed = (await self.http.put(self.path, json=options)).json()
        self.assertEqual([spare["take_id"] for spare in renamed["spare"]], [take])
        self.assertEqual(renamed["counts"]["shot"], 0)

    async def test_a_code_in_a_frame_names_the_thing_of_the_next(self):
        await self.begun(uses_codes=True)
        with self.library.reader() as connection:
            series = the_shop_series(connection, self.sheet)
            third = things_of(connection, series.id)[2]
        view = await self.shoot(code_shot(third.uid), shot(2), shot(0))
        names = {p["file"]: t["name"] for t in view["things"] for p in t["pictures"] if p["file"]}
        self.assertEqual(names, {"p01.jpg": "Deck oil", "p02.jpg": "Clear varnish"})
        self.assertEqual([spare["is_code"] for spare in view["spare"]], [True])

    async def test_mistakes_are_found_mended_and_handed_over(self):
        x, y, r = GREY_PATCH
        await self.begun(grey={"x": x, "y": y, "r": r}, uses=["shop", "menu"], white_code=240)
        await self.shoot(
            shot(0), shot(1, Mistake(stops=-0.5), minute=4), shot(2, Mistake(blur_px=3), minute=8)
        )
        early = await self.http.post(f"{self.path}/zip")
        self.assertEqual((early.status_code, "Check the series first" in early.text), (422, True))
        view = await self.ended("check")
        steps = [thing["pictures"][0]["next_step"] for thing in view["things"]]
        self.assertEqual(steps, ["keep", "match", "reshoot"])
        found = view["things"][1]["pictures"][0]["checked"]
        self.assertAlmostEqual(found["exposure_stops"], -0.5, delta=0.03)
        self.assertEqual(view["counts"]["to_check"], 0)
        take = view["things"][1]["pictures"][0]["take_id"]
        look = await self.http.get(f"{self.path}/takes/{take}/matched?side_px=400")
        with Image.open(io.BytesIO(look.content)) as image:
            self.assertEqual(max(image.size), 400)
        await self.ended("zip")
        made = await self.http.get(f"{self.path}/zip")
        self.assertIn('filename="varnish-tins.zip"', made.headers["content-disposition"])
        with zipfile.ZipFile(io.BytesIO(made.content)) as archive:
            names, rows = archive.namelist(), archive.read("series.csv").decode().splitlines()
            levels = [self.corner(archive.read(name)) for name in names if "shop/" in name]
            self.assertTrue(archive.read("contact-sheet.pdf").startswith(b"%PDF"))
            with Image.open(io.BytesIO(archive.read("shop/01-Clear-varnish.jpg"))) as image:
                self.assertEqual((len(image.getexif()), "icc_profile" in image.info), (0, True))
        self.assertIn("shop/01-Clear-varnish.jpg", names)
        self.assertIn("menu/03-Deck-oil.jpg", names)
        self.assertEqual(len(list(csv.reader(rows))), 4)
        # A dark background in two pictures of one brightness: as white as each other.
        self.assertLess(np.ptp(levels), 4)
        self.assertGreater(min(levels), self.corner(shot(0)) + 20)

    def corner(self, data):
        with Image.open(io.BytesIO(data)) as image:
            return float(np.asarray(image.convert("L"))[5:60, -60:-5].mean())

    async def test_set_up_keeps_the_whole_thing_sharp_and_the_background_even(self):
        await self.begun()
        found = (await self.http.get(f"{self.path}/set-up")).json()
        self.assertEqual((found["width_cm"], found["height_cm"]), (11, 14))
        self.assertEqual((found["best"]["lens"], found["best"]["is_good"]), ("long", True))
        self.assertLess(found["best"]["stretch"], 1.15)
        self.assertIn("0.3 stop over 60 cm", found["lamps"]["words"])
        labels = await self.http.get(f"{self.path}/labels")
        self.assertTrue(labels.content.startswith(b"%PDF"))
