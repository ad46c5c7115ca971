"""Pictures that wait for a sheet, and the logbook of all takes."""

import asyncio
import csv
import io
import json
import unittest
import zipfile

import numpy as np

from oxlen.core.errors import BadInput
from oxlen.core.review.same_shot import FileOfShot, is_same_shot
from oxlen.core.review.sheet_proposal import SheetFacts, ShotFacts, proposals
from oxlen.formats.take.xmp_sidecar import Sidecar, read_sidecar, write_sidecar
from oxlen.pictures.xmp_tags import tags_from_xmp
from oxlen.store.logbook import FILTERS, Search, log_entries
from tests.pictures.making import exif, jpeg
from tests.server.test_api import WithApp


def shade(tone, **shot):
    return jpeg(np.full((48, 64, 3), tone), exif(**shot) if shot else None)


class Proposing(unittest.TestCase):
    SHOT = ShotFacts(50, 1 / 500, 24.0, taken_s=10_000.0, model="Wherry")

    def test_slip_time_and_lens_speak_for_a_sheet(self):
        sheets = [
            SheetFacts(1, ((50, 1 / 500),), 24.0, used_s=(9_000.0,), model="Wherry"),
            SheetFacts(2, ((50, 1 / 500),), 70.0, used_s=(9_000.0,)),
            SheetFacts(3, ((800, 1 / 30),), 24.0, used_s=(9_900.0,)),
            SheetFacts(4, ((800, 1 / 30),), 70.0, used_s=(-1e6,)),
        ]
        found = proposals(self.SHOT, sheets)
        self.assertEqual([entry.sheet_id for entry in found], [1, 3, 2])
        self.assertEqual(
            found[0].why,
            "same settings as its slip, 17 min from its picture or its last use, same lens"
            " and same phone",
        )
        self.assertEqual(proposals(ShotFacts(), sheets), [])

    def test_a_raw_and_its_picture_are_one_shot(self):
        raw = FileOfShot("IMG_7.DNG", True, 50, 1 / 500, 100.0)
        rows = {
            FileOfShot("img_7.jpg", False, 50, 1 / 500, 101.0): True,
            FileOfShot("other.jpg", False, 50, 1 / 500, 101.0): True,
            FileOfShot("img_7.jpg", False, 50, 1 / 500, 140.0): False,
            FileOfShot("img_7.jpg", False, 200, 1 / 500, 100.0): False,
            FileOfShot("img_7.dng", True, 50, 1 / 500, 100.0): False,
            FileOfShot("img_7.jpg", False): True,
            FileOfShot("img_8.jpg", False): False,
        }
        for other, same in rows.items():
            with self.subTest(other):
                self.assertEqual(is_same_shot(raw, other), same)


class Inbox(WithApp):
    async def wait_in_inbox(self, content, name="one.jpg", **more):
        asked = {"name": name, **more}
        return await self.http.post("/api/inbox", params=asked, content=content)

    async def test_each_waits_once_and_goes_to_the_sheet_it_belongs_to(self):
        reading = {"id": "a", "source": {"kind": "ev", "ev100": 11.0}}
        body = {"title": "Oars", "phone": "wherry-3", "readings": [reading]}
        path = f"/api/outings/{self.outing}/sheets"
        sheet = (await self.http.post(path, json=body)).json()
        slip = sheet["answer"]["plan"]["slip"]
        shot = {"iso": round(slip["iso"]), "shutter": (1, round(1 / slip["shutter_s"]))}
        self.assertTrue((await self.wait_in_inbox(shade(110, **shot))).json()["is_new"])
        self.assertFalse(
            (await self.wait_in_inbox(shade(110, **shot), "again.jpg")).json()["is_new"]
        )
        bad = await self.wait_in_inbox(b"not a picture at all", "bad.jpg")
        self.assertEqual(bad.status_code, 422)
        waiting = (await self.http.get("/api/inbox")).json()
        for _ in range(100):  # sheets that had to be decided first are proposed a moment later
            if waiting[0]["proposed"]:
                break
            await asyncio.sleep(0.1)
            waiting = (await self.http.get("/api/inbox")).json()
        self.assertEqual(len(waiting), 1)
        self.assertEqual(waiting[0]["proposed"][0]["title"], "Oars")
        self.assertIn("same settings as its slip", waiting[0]["proposed"][0]["why"])
        places = {"places": [[waiting[0]["id"], sheet["id"]]]}
        self.assertEqual((await self.http.post("/api/inbox/place", json=places)).json(), [])
        takes = (await self.http.get(f"/api/sheets/{sheet['id']}/takes")).json()
        self.assertEqual(len(takes), 1)
        # The same content again, by the inbox or straight to the sheet, makes no second take.
        await self.wait_in_inbox(shade(110, **shot))
        again = (await self.http.get("/api/inbox")).json()
        self.assertEqual(again[0]["known_in"], [sheet["id"]])
        await self.http.post("/api/inbox/place", json={"places": [[again[0]["id"], sheet["id"]]]})
        straight = f"/api/sheets/{sheet['id']}/takes?name=b.jpg"
        takes = (await self.http.post(straight, content=shade(110, **shot))).json()
        self.assertEqual(len(takes), 1)

    async def test_what_is_let_go_leaves_and_is_not_there_twice(self):
        await self.wait_in_inbox(shade(90))
        entry = (await self.http.get("/api/inbox")).json()[0]
        self.assertEqual((await self.http.delete(f"/api/inbox/{entry['id']}")).status_code, 204)
        self.assertEqual((await self.http.delete(f"/api/inbox/{entry['id']}")).status_code, 404)


class Logbook(WithApp):
    async def asyncSetUp(self):
        await super().asyncSetUp()
        for place, (title, iso) in enumerate((("Rudder", 50), ("Källa at dusk", 800))):
            body = {"title": title, "phone": "wherry-3"}
            made = await self.http.post(f"/api/outings/{self.outing}/sheets", json=body)
            path = f"/api/sheets/{made.json()['id']}/takes?name=img-{place}.jpg"
            got = await self.http.post(path, content=shade(90 + place, iso=iso, shutter=(1, 60)))
            self.assertEqual(got.status_code, 201, got.text)

    async def found(self, **asked):
        page = (await self.http.get("/api/logbook", params=asked)).json()
        return [entry["sheet_title"] for entry in page["entries"]]

    async def test_words_filters_and_order(self):
        rows = (
            ({}, ["Källa at dusk", "Rudder"]),
            ({"words": "kall dus"}, ["Källa at dusk"]),
            ({"words": "img 0"}, ["Rudder"]),
            ({"words": 'rud" OR "'}, []),
            ({"iso_min": 400}, ["Källa at dusk"]),
            ({"iso_max": 50, "state": "new"}, ["Rudder"]),
            ({"state": "kept"}, []),
            ({"order": "iso"}, ["Rudder", "Källa at dusk"]),
            ({"situation": "still", "words": "rudder"}, ["Rudder"]),
            ({"until": "2001"}, []),
        )
        for asked, wanted in rows:
            with self.subTest(asked):
                self.assertEqual(sorted(await self.found(**asked)), sorted(wanted))
        self.assertEqual(await self.found(order="iso"), ["Rudder", "Källa at dusk"])
        bad = await self.http.get("/api/logbook", params={"since": "yesterday"})
        self.assertEqual(bad.status_code, 422)

    async def test_pages_follow_one_another_and_titles_are_found_by_their_new_name(self):
        first = (await self.http.get("/api/logbook", params={"most": 1})).json()
        self.assertEqual((await self.http.get("/api/logbook/count")).json()["count"], 2)
        entries = first["entries"][0]
        after = {"most": 1, "after": entries["place"], "after_id": entries["id"]}
        second = (await self.http.get("/api/logbook", params=after)).json()["entries"]
        self.assertNotEqual(second[0]["id"], entries["id"])
        await self.http.patch(f"/api/outings/{self.outing}", json={"place": "The far bank"})
        self.assertEqual(len(await self.found(words="far bank")), 2)

    async def test_several_are_judged_at_once_or_none(self):
        ids = [entry["id"] for entry in (await self.http.get("/api/logbook")).json()["entries"]]
        change = {"state": "kept", "rating": 4, "keywords": "wood, dusk"}
        done = await self.http.patch("/api/takes", json={"ids": ids, "change": change})
        self.assertEqual(done.json(), {"changed": 2})
        self.assertEqual(len(await self.found(words="dusk wood", rating=4)), 2)
        worse = {"ids": [*ids, 10**9], "change": {"rating": 1}}
        self.assertEqual((await self.http.patch("/api/takes", json=worse)).status_code, 404)
        self.assertEqual(len(await self.found(rating=4)), 2)

    async def test_files_go_out_and_come_back_without_doubles(self):
        ids = [entry["id"] for entry in (await self.http.get("/api/logbook")).json()["entries"]]
        stated = {
            "rating": 5,
            "note": "Again <at> dusk\x0b",
            "keywords": "keel,oak",
            "why": " light ",
        }
        await self.http.patch("/api/takes", json={"ids": ids, "change": stated})
        table = (await self.http.get("/api/logbook/file.csv")).text
        rows = list(csv.DictReader(io.StringIO(table)))
        self.assertEqual([row["rating"] for row in rows], ["5", "5"])
        packed = (await self.http.get("/api/logbook/file.xmp.zip")).content
        names = zipfile.ZipFile(io.BytesIO(packed)).namelist()
        self.assertEqual(sorted(names), ["img-0.xmp", "img-1.xmp"])
        text = (await self.http.get("/api/logbook/file.json")).text
        self.assertEqual(len(json.loads(text)["takes"]), 2)
        forget = {"rating": 0, "note": "", "keywords": ""}
        for content in (packed, text.encode()):
            await self.http.patch("/api/takes", json={"ids": ids, "change": forget})
            first = (await self.http.post("/api/logbook/file", content=content)).json()["logbook"]
            self.assertEqual(first, {"changed": 2, "same": 0, "unknown": 0})
            second = (await self.http.post("/api/logbook/file", content=content)).json()["logbook"]
            self.assertEqual(second, {"changed": 0, "same": 2, "unknown": 0})
            self.assertEqual(len(await self.found(words="keel", rating=5)), 2)
        # Out and in again is the same, however often; a control character alone is left behind.
        packed = (await self.http.get("/api/logbook/file.xmp.zip")).content
        again = await self.http.post("/api/logbook/file", content=packed)
        self.assertEqual(again.json()["logbook"], {"changed": 0, "same": 2, "unknown": 0})
        kept = (await self.http.get("/api/logbook")).json()["entries"][0]
        found = (kept["note"], kept["keywords"], kept["why"])
        self.assertEqual(found, ("Again <at> dusk\x0b", "keel,oak", " light "))
        half = text.replace("Again", "\\ud800")
        long = text.replace('"rating": 5', f'"rating": {"9" * 5000}')
        for bad in (
            half.encode(),
            long.encode(),
            b"",
            b"PK\x03\x04nothing",
            b"{}",
            b"<x/>",
            b'{"written_as": 1}',
        ):
            with self.subTest(bad):
                refused = await self.http.post("/api/logbook/file", content=bad)
                self.assertEqual(refused.status_code, 422)

    async def test_an_unknown_filter_is_named(self):
        with (
            self.library.reader() as connection,
            self.assertRaisesRegex(BadInput, "no filter mood"),
        ):
            log_entries(connection, Search(filters={"mood": "x"}))
        self.assertIn("lens", FILTERS)


class Xmp(unittest.TestCase):
    def test_a_sidecar_reads_back_as_it_was_written(self):
        words = ("hull", 'the "white" one')
        idecar = Sidecar("a" * 64, 3, "Grey & <dull>", keywords=words, why="for the & light")
        self.assertEqual(read_sidecar(write_sidecar(idecar)), idecar)
        with self.assertRaisesRegex(BadInput, "does not name its picture"):
            read_sidecar("<x/>")

    def test_whatever_is_said_is_xml_and_no_rating_is_too_odd(self):
        stated = "a\x00\x0b\x1f\ud800\uffffb\r\n\tc "
        read = read_sidecar(write_sidecar(Sidecar("a" * 64, note=stated, why=stated)))
        self.assertEqual((read.note, read.why), ("ab\r\n\tc ", "ab\r\n\tc "))
        for rating, taken in (("nan", 0), ("inf", 0), ("1e400", 0), ("-1e400", 0), ("9", 5)):
            text = write_sidecar(Sidecar("a" * 64, 3)).replace('"3"', f'"{rating}"')
            self.assertEqual(read_sidecar(text).rating, taken, rating)

    def test_exposure_is_read_where_exif_has_none(self):
        packet = """<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF
          xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description
          xmlns:exif="http://ns.adobe.com/exif/1.0/" exif:ExposureTime="1/250"
          exif:FNumber="18/10" exif:DateTimeOriginal="2026-10-03T08:15:00+01:00">
          <exif:ISOSpeedRatings><rdf:Seq><rdf:li>64</rdf:li></rdf:Seq></exif:ISOSpeedRatings>
          </rdf:Description></rdf:RDF></x:xmpmeta>"""
        found = tags_from_xmp(packet)
        self.assertEqual((found[0x829A], found[0x829D], found[0x8827]), (0.004, 1.8, 64.0))
        self.assertEqual(found[0x9003], "2026:10:03 08:15:00")
        for broken in ("", "<x", packet.replace("1/250", "1/0"), "<!DOCTYPE x [<!ENTITY a 'b'>]>"):
            self.assertNotIn(0x829A, tags_from_xmp(broken))
