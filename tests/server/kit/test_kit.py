"""The kit over the API: phones, filters, presets; pages and their headers."""

import tempfile
from pathlib import Path

import httpx

from oxlen.formats.phone.shipped import shipped_profile
from oxlen.server.app import create_app
from oxlen.store.library import open_library
from tests.server.test_api import BASE, WithApp


class Phones(WithApp):
    def own(self, **changed):
        return shipped_profile("dabber").model_dump() | {"id": "mine", **changed}

    async def keep(self, profile, phone_id="mine"):
        return await self.http.put(f"/api/kit/phones/{phone_id}", json=profile)

    async def test_own_phones_come_first_and_can_be_removed(self):
        await self.keep(self.own(model="Dabber of mine"))
        found = (await self.http.get("/api/kit/phones")).json()
        self.assertEqual([row["shipped"] for row in found], [False, True, True])
        self.assertEqual(found[0]["profile"]["model"], "Dabber of mine")
        gone = await self.http.delete("/api/kit/phones/mine")
        self.assertEqual(gone.status_code, 204)
        found = (await self.http.get("/api/kit/phones")).json()
        self.assertEqual([row["removed"] for row in found], [False, False, True])
        again = await self.http.delete("/api/kit/phones/mine")
        self.assertEqual(again.status_code, 404)
        self.assertIn("mine", again.json()["detail"])

    async def test_a_sheet_keeps_the_phone_that_was_taken_out_of_the_kit(self):
        await self.keep(self.own())
        sheet = await self.sheet_with_picture()
        named = (await self.put(sheet, phone="mine", lens="main")).json()
        other = (await self.put(named, phone="wherry-3")).json()
        self.assertEqual((await self.http.delete("/api/kit/phones/mine")).status_code, 204)
        # Undo goes back to the sheet as it was, with its phone.
        back = await self.http.post(f"/api/sheets/{sheet['id']}/undo")
        self.assertEqual(back.status_code, 200, back.text)
        self.assertEqual(back.json()["answer"], named["answer"])
        self.assertNotEqual(other["answer"]["plan"], named["answer"]["plan"])
        kit = (await self.http.get("/api/kit/phones")).json()
        self.assertTrue(kit[-1]["removed"])
        self.assertEqual(kit[-1]["profile"]["id"], "mine")

    async def test_a_lens_that_sheets_use_goes_only_once_that_is_agreed_to(self):
        whole = shipped_profile("wherry-3").model_dump() | {"id": "mine"}
        await self.keep(whole)
        source = {"kind": "auto", "iso": 100, "shutter_s": 0.01, "lens": whole["lenses"][-1]["id"]}
        reading = {"id": "a", "name": "wall", "source": source}
        body = {"title": "Stem", "phone": "mine", "lens": source["lens"], "readings": [reading]}
        path = f"/api/outings/{self.outing}/sheets"
        sheet = (await self.http.post(path, json=body)).json()
        fewer = whole | {"lenses": whole["lenses"][:-1]}
        refused = await self.keep(fewer)
        self.assertEqual((refused.status_code, refused.json()["code"]), (409, "needs-consent"))
        self.assertIn("“Stem”", refused.json()["detail"])
        kept = await self.http.put("/api/kit/phones/mine?agreed=true", json=fewer)
        self.assertEqual(kept.status_code, 200)
        opened = (await self.http.get(f"/api/sheets/{sheet['id']}")).json()
        self.assertIn(f"no longer has lens “{source['lens']}”", opened["note"])
        self.assertEqual(opened["body"]["lens"], "any")
        self.assertIsNotNone(opened["answer"]["plan"]["slip"])
        plain = (await self.http.post(path, json={**body, "lens": None, "readings": []})).json()
        self.assertEqual((plain["note"], plain["body"]["lens"]), (None, None))
        # An edit keeps it as it is shown.
        edited = (await self.put(opened, support="tripod")).json()
        self.assertIsNone(edited["note"])

    async def test_an_id_must_be_the_profiles_own(self):
        answer = await self.keep(self.own(), "other")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("id is mine, not other", answer.json()["detail"])
        wrong = self.own()
        wrong["lenses"][0]["f_number"] = -1
        answer = await self.keep(wrong)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("lenses", answer.json()["detail"])


class Filters(WithApp):
    async def test_filters_are_kept_by_factor_and_ordered_by_it(self):
        for name, factor in (("dark", 1000.0), ("grey", 8.0), ("clear", 1.0)):
            body = {"name": name.title(), "factor": factor, "note": "measured on the bench"}
            kept = await self.http.put(f"/api/kit/glass/{name}", json=body)
            self.assertEqual(kept.status_code, 200, kept.text)
        found = (await self.http.get("/api/kit/glass")).json()
        self.assertEqual([row["id"] for row in found], ["clear", "grey", "dark"])
        self.assertEqual([round(row["stops"], 3) for row in found], [0.0, 3.0, 9.966])
        self.assertEqual((await self.http.delete("/api/kit/glass/grey")).status_code, 204)
        self.assertEqual((await self.http.delete("/api/kit/glass/grey")).status_code, 404)
        brighter = await self.http.put("/api/kit/glass/odd", json={"name": "Odd", "factor": 0.5})
        self.assertEqual(brighter.status_code, 422)
        self.assertIn("factor", brighter.json()["detail"])


class Pages(WithApp):
    async def page_of(self, built, path, **headers):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        app = create_app(open_library(Path(folder.name)), built=built)
        async with httpx.AsyncClient(transport=httpx.ASGITransport(app=app), base_url=BASE) as http:
            return await http.get(path, headers=headers)

    async def test_a_script_comes_as_its_compressed_copy_where_the_browser_takes_it(self):
        with tempfile.TemporaryDirectory() as folder:
            parts = Path(folder) / "assets"
            parts.mkdir()
            (parts / "a.js").write_text("plain")
            (parts / "a.js.br").write_bytes(b"squeezed")
            (parts / "b.js").write_text("plain alone")
            for path, taken, content in (
                ("a.js", "gzip, br;q=0.9", b"squeezed"),
                ("a.js", "gzip", b"plain"),
                ("b.js", "br", b"plain alone"),
            ):
                asked = {"accept-encoding": taken}
                got = await self.page_of(Path(folder), f"/assets/{path}", **asked)
                with self.subTest(path, taken=taken):
                    self.assertEqual(got.content, content)
                    self.assertRegex(got.headers["content-type"], "javascript")
                    self.assertIn("immutable", got.headers["cache-control"])
                    is_compressed = got.headers.get("content-encoding") == "br"
                    self.assertEqual(is_compressed, content == b"squeezed")
                    self.assertEqual("vary" in got.headers, path == "a.js")

    async def test_without_a_front_end_the_page_says_how_to_build_it(self):
        with tempfile.TemporaryDirectory() as empty:
            answer = await self.page_of(Path(empty), "/sheets/4")
        self.assertEqual(answer.status_code, 404)
        self.assertIn("./oxlen demo", answer.json()["detail"])

    async def test_each_page_has_a_nonce_of_its_own_and_sheets_come_early(self):
        with tempfile.TemporaryDirectory() as folder:
            built = Path(folder)
            (built / "index.html").write_text("<script nonce='__NONCE__'></script>")
            first, second = [await self.page_of(built, path) for path in ("/sheets/4", "/kit")]
        self.assertNotIn("__NONCE__", first.text)
        self.assertNotEqual(first.text, second.text)
        nonce = first.text.split("'")[1]
        self.assertIn(f"'nonce-{nonce}'", first.headers["content-security-policy"])
        self.assertIn("</api/sheets/4>; rel=preload", first.headers["link"])
        self.assertNotIn("link", second.headers)

    async def test_an_unknown_address_of_the_api_is_no_page(self):
        answer = await self.http.get("/api/nowhere")
        self.assertEqual(answer.status_code, 404)
        self.assertEqual(answer.headers["content-type"], "application/problem+json")
