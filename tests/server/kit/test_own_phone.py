"""One's own phone over the API: made from its pictures, measured, used, and exchanged."""

from PIL.TiffImagePlugin import IFDRational

from oxlen.devices.standins import mystery_pictures as pictures
from oxlen.devices.standins.mystery_phone import mystery_phone
from oxlen.formats.phone.profile import PhoneProfile
from tests.pictures.making import exif, jpeg
from tests.server.test_api import WithApp

PHONE = mystery_phone(5, size=(1024, 768))
GREY = [[[118] * 3] * 640] * 480


class OwnPhone(WithApp):
    async def facts(self):
        found = []
        for figure in pictures.everyday(PHONE):
            answer = await self.http.post(
                "/api/kit/facts", params={"name": figure.name}, content=figure.content
            )
            self.assertEqual(answer.status_code, 200, answer.text)
            found.append(answer.json())
        return found

    async def kept(self):
        asked = {"files": await self.facts(), "answers": {"iso_low": 100, "iso_high": 3200}}
        answer = await self.http.post("/api/kit/phones", json=asked)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()["phone"]["profile"]

    async def test_pictures_make_a_phone_that_new_sheets_are_for(self):
        facts = await self.facts()
        seen = await self.http.post("/api/kit/phone-from", json={"files": facts})
        self.assertEqual(seen.json()["phone"]["profile"]["name"], PHONE.profile.name)
        listed = (await self.http.get("/api/kit/phones")).json()
        self.assertTrue(all(figure["shipped"] for figure in listed))  # nothing is kept yet
        profile = await self.kept()
        self.assertEqual(profile["ladders"]["by-hand"]["iso"][0], 100)
        again = await self.kept()
        self.assertEqual(again["id"], f"{profile['id']}-2")
        begun = await self.http.post("/api/situations", json={"situation": "grey-day"})
        self.assertEqual(begun.json()["body"]["phone"], profile["id"])
        self.assertEqual(list((self.library.folder / "incoming").iterdir()), [])

    async def test_two_phones_and_facts_that_cannot_be_are_refused_in_words(self):
        facts = await self.facts()
        other = {**facts[0], "model": "Other", "name": "other.jpg"}
        mixed = await self.http.post("/api/kit/phone-from", json={"files": [*facts, other]})
        self.assertEqual(mixed.status_code, 422)
        self.assertIn("from 2 phones", mixed.json()["detail"])
        odd = {**facts[0], "f_number": -1}
        wrong = await self.http.post("/api/kit/phone-from", json={"files": [odd]})
        self.assertEqual(wrong.status_code, 422)
        none = await self.http.post("/api/kit/facts", params={"name": "a.jpg"}, content=b"no")
        self.assertIn("a.jpg", none.json()["detail"])

    async def begin(self, phone, kind, mode):
        asked = {"kind": kind, "lens": "main", "mode": mode}
        answer = await self.http.post(f"/api/kit/phones/{phone}/measurements", json=asked)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    async def add(self, number, figure):
        path = f"/api/measurements/{number}/pictures"
        return await self.http.post(path, params={"name": figure.name}, content=figure.content)

    async def test_a_measurement_is_taken_up_again_used_and_remembered(self):
        profile = await self.kept()
        mode = profile["lenses"][0]["modes"][0]["id"]
        begun = await self.begin(profile["id"], "noise", mode)
        flats = list(pictures.flats(PHONE, [100]))
        for flat in flats[:3]:
            added = (await self.add(begun["id"], flat)).json()
        self.assertEqual(added, {"is_new": True, "count": 3})
        # Left and come back to: what was read is still there, and a copy is not counted twice.
        again = await self.begin(profile["id"], "noise", mode)
        self.assertEqual((again["id"], len(again["pictures"])), (begun["id"], 3))
        self.assertEqual(again["missing"], "1 more picture needed.")
        self.assertFalse((await self.add(begun["id"], flats[0])).json()["is_new"])
        early = await self.http.post(f"/api/measurements/{begun['id']}/use")
        self.assertEqual(early.status_code, 422)
        for flat in flats[3:]:
            await self.add(begun["id"], flat)
        found = (await self.http.get(f"/api/measurements/{begun['id']}")).json()
        well = next(figure for figure in found["figures"] if figure["path"].endswith("full_well_e"))
        self.assertIn("A pixel holds", found["words"])
        self.assertEqual(len(found["plot"]["series"]), 2)
        used = (await self.http.post(f"/api/measurements/{begun['id']}/use")).json()
        self.assertEqual(used["state"], "kept")
        phones = (await self.http.get("/api/kit/phones")).json()
        now = next(phone for phone in phones if phone["profile"]["id"] == profile["id"])
        self.assertEqual(now["origins"][well["path"]]["origin"], "measured")
        past = (await self.http.get(f"/api/kit/phones/{profile['id']}/measurements")).json()
        self.assertEqual([figure["words"] for figure in past], [found["words"]])
        with self.library.reader() as connection:
            left = connection.execute("SELECT COUNT(*) FROM measurement_picture").fetchone()[0]
        self.assertEqual(left, 0)

    async def test_a_shipped_phone_is_measured_in_a_copy_and_old_figures_can_stay(self):
        begun = await self.begin("wherry-3", "battery", "12mp")
        self.assertIn("Battery at start is missing", begun["missing"])
        given = {"start_percent": 80, "end_percent": 74, "minutes": 10}
        path = f"/api/measurements/{begun['id']}"
        stated = (await self.http.put(f"{path}/given", json={"given": given})).json()
        self.assertIn("0.6 % a minute", stated["words"])
        used = (await self.http.post(f"{path}/use")).json()
        self.assertEqual(used["phone"], "my-wherry-3-1")
        ended = await self.http.put(f"{path}/given", json={"given": given})
        self.assertEqual(ended.status_code, 422)
        other = await self.begin("my-wherry-3-1", "battery", "12mp")
        left = (await self.http.post(f"/api/measurements/{other['id']}/leave")).json()
        self.assertEqual(left["state"], "left")

    async def test_a_mode_of_the_phone_is_named_then_measured(self):
        path = "/api/kit/phones/wherry-3/computed-modes"
        asked = {"name": "Long water", "kind": "filter", "lens": "long"}
        named = (await self.http.post(path, json=asked)).json()["profile"]
        self.assertEqual(named["id"], "my-wherry-3-1")
        mode = next(figure for figure in named["computed"] if figure["name"] == "Long water")
        self.assertEqual(
            (mode["id"], mode["lenses"], mode["frames"]), ("long-water", ["long"], None)
        )
        path = f"/api/kit/phones/{named['id']}/computed-modes"
        twice = await self.http.post(path, json=asked)
        self.assertIn("has Long water on the Long lens already", twice.json()["detail"])
        wider = (await self.http.post(path, json={**asked, "lens": "main"})).json()["profile"]
        self.assertEqual(len(wider["computed"]), len(named["computed"]))
        begun = await self.begin(named["id"], "computed", "long-water")
        self.assertEqual(begun["mode"], "long-water")
        plain = {"kind": "computed", "lens": "main", "mode": "nothing"}
        odd = await self.http.post(f"/api/kit/phones/{named['id']}/measurements", json=plain)
        self.assertEqual(odd.status_code, 404)

    async def test_a_practice_phones_bench_answers_what_is_asked_beside_pictures(self):
        phone = (await self.http.post("/api/kit/mystery-phones", json={"seed": 3})).json()
        lens = phone["profile"]["lenses"][0]
        begun = await self.begin(phone["profile"]["id"], "battery", lens["modes"][0]["id"])
        found = (await self.http.post(f"/api/measurements/{begun['id']}/bench")).json()
        self.assertEqual((found["given"]["start_percent"], found["missing"]), (90, None))
        early = await self.http.get(f"/api/measurements/{begun['id']}/truth")
        self.assertEqual(early.status_code, 422)
        await self.http.post(f"/api/measurements/{begun['id']}/use")
        reported = (await self.http.get(f"/api/measurements/{begun['id']}/truth")).json()["words"]
        rate = mystery_phone(3).hidden.battery_percent_per_min
        self.assertEqual(reported, [f"{rate:.2f} % a minute"])

    async def test_what_a_phone_is_good_for_and_two_side_by_side(self):
        profile = await self.kept()
        seen = (await self.http.get(f"/api/kit/phones/{profile['id']}/portrait")).json()
        angles = [lens["hfov_deg"] for lens in seen["lenses"]]
        self.assertEqual(angles, sorted(angles, reverse=True))
        moves = [figure["moves_stops"] for figure in seen["measure"]]
        self.assertEqual(moves, sorted(moves, reverse=True))
        self.assertIn("hand", [figure["kind"] for figure in seen["measure"]])
        pair = {"first": "wherry-3/main", "second": "wherry-3/long", "ev100": 5}
        lines = (await self.http.get("/api/kit/compare", params=pair)).json()
        better = {line["name"]: line["better"] for line in lines}
        self.assertEqual(better["Darkest handheld"], "first")
        self.assertEqual(better["Pixels on a seated person"], "second")
        file = (await self.http.get(f"/api/kit/phones/{profile['id']}/file")).json()
        self.assertEqual(file["format"], "oxlen-phone/2")
        self.assertEqual(PhoneProfile.model_validate(file).id, profile["id"])
        # And back in, as another person would open it.
        back = await self.http.put("/api/kit/phones/theirs", json={**file, "id": "theirs"})
        self.assertEqual(back.status_code, 200, back.text)

    async def test_a_picture_of_an_unknown_phone_is_answered_by_its_own_lens_and_made_mine(self):
        block = exif(f_number=(24, 10), t37386=IFDRational(61, 10), t41989=34)
        block[271], block[272] = "Skerry", "Yawl 4"
        outing = (await self.http.post("/api/outings", json={"title": "Haul-out"})).json()["id"]
        taken = await self.http.post(
            f"/api/outings/{outing}/pictures",
            params={"name": "hull.jpg"},
            content=jpeg(GREY, block),
        )
        sheet = taken.json()["sheet"]
        self.assertIn("Skerry Yawl 4, which is not in your kit", sheet["answer"]["phone_note"])
        self.assertIn("34 mm, f/2.4", sheet["answer"]["phone_note"])
        self.assertIn("f/2.4", sheet["answer"]["lines"][0]["reason"])
        mine = await self.http.post(f"/api/sheets/{sheet['id']}/phone")
        self.assertEqual(mine.status_code, 201, mine.text)
        self.assertEqual(mine.json()["body"]["phone"], "skerry-yawl-4")
        self.assertIsNone(mine.json()["answer"]["phone_note"])
        # The next picture from it finds its phone by itself.
        more = await self.http.post(
            f"/api/outings/{outing}/pictures",
            params={"name": "mast.jpg"},
            content=jpeg(GREY, block),
        )
        self.assertEqual(more.json()["sheet"]["body"]["phone"], "skerry-yawl-4")

    async def test_pictures_larger_than_a_request_are_taken_where_pictures_come_in(self):
        large = b"\xff\xd8" + bytes(2_500_000)
        for path in ("kit/facts", "ladder/look"):
            answer = await self.http.post(f"/api/{path}", params={"name": "a.jpg"}, content=large)
            self.assertIn("a.jpg", answer.json()["detail"])

    async def test_practice_on_a_mystery_phone_tells_the_truth_afterwards(self):
        made = (await self.http.post("/api/kit/mystery-phones", json={"seed": 7})).json()
        phone = made["profile"]["id"]
        begun = await self.begin(phone, "pace", made["profile"]["lenses"][0]["modes"][0]["id"])
        path = f"/api/measurements/{begun['id']}"
        early = await self.http.get(f"{path}/truth")
        self.assertEqual(early.status_code, 422)
        taken = (await self.http.post(f"{path}/bench")).json()
        self.assertEqual(len(taken["pictures"]), 12)
        await self.http.post(f"{path}/use")
        reported = (await self.http.get(f"{path}/truth")).json()
        gap_s = mystery_phone(7).hidden.frame_gap_s
        self.assertEqual(reported["words"], [f"gap {gap_s:.3f} s"])
        real = await self.begin("wherry-3", "pace", "12mp")
        refused = await self.http.post(f"/api/measurements/{real['id']}/bench")
        self.assertEqual(refused.status_code, 422)
