"""Slips saved with all they rest on, and why a slip is another than it was."""

import json

from oxlen.formats.plan.bundle import BundleFile
from tests.server.test_api import WithApp

LIGHT = [{"id": "a", "name": "Oar", "source": {"kind": "ev", "ev100": 9.0}}]


class Bundles(WithApp):
    async def asyncSetUp(self):
        await super().asyncSetUp()
        body = {"title": "Oars", "phone": "wherry-3", "readings": LIGHT, "support": "handheld"}
        path = f"/api/outings/{self.outing}/sheets"
        self.sheet = (await self.http.post(path, json=body)).json()
        self.path = f"/api/sheets/{self.sheet['id']}"

    async def edit(self, **change):
        sheet = (await self.http.get(self.path)).json()
        edit = {"version": sheet["version"], "label": "edit", "body": {**sheet["body"], **change}}
        answer = await self.http.put(self.path, json=edit)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    async def test_a_saved_slip_comes_out_the_same_whatever_became_of_its_sheet(self):
        saved = (await self.http.post(f"{self.path}/bundles", json={"name": "Morning"})).json()
        self.assertTrue(saved[0]["comes_out_same"])
        slip = saved[0]["slip"]
        await self.edit(readings=[], phone="wherry-3", title="Else")
        kept = (await self.http.get(f"{self.path}/bundles")).json()
        self.assertEqual((kept[0]["slip"], kept[0]["comes_out_same"]), (slip, True))
        got = await self.http.get(f"/api/bundles/{kept[0]['id']}/file")
        file = BundleFile.model_validate_json(got.text)
        self.assertEqual(file.asked_brief().readings[0].ev100, 9.0)
        self.assertEqual(json.loads(got.text)["written_as"], "oxlen-bundle/1")
        refused = await self.http.post(f"{self.path}/bundles", json={"name": "Dark"})
        self.assertEqual(refused.status_code, 422)
        gone = await self.http.delete(f"/api/bundles/{kept[0]['id']}")
        self.assertEqual(gone.status_code, 204)

    async def test_why_it_changed_is_told_in_a_sentence(self):
        untouched = (await self.http.get(f"{self.path}/why")).json()
        self.assertEqual(untouched["sentence"], "This sheet has not been changed yet.")
        saved = (await self.http.post(f"{self.path}/bundles", json={"name": "Morning"})).json()
        more = [{**LIGHT[0], "source": {"kind": "ev", "ev100": 11.0}}]
        await self.edit(readings=more)
        reported = (await self.http.get(f"{self.path}/why")).json()
        self.assertRegex(
            reported["sentence"], r"^Shutter goes from 1/\d+ s to 1/\d+ s, because the light is"
        )
        self.assertIn("2.0 stops stronger", reported["sentence"])
        self.assertIn("2.0 stops", reported["causes"][0])
        await self.edit(title="Oars, again")
        same = (await self.http.get(f"{self.path}/why")).json()["sentence"]
        self.assertTrue(same.startswith("Nothing changed"))
        strategy = {**(await self.http.get(self.path)).json()["body"]["strategy"], "iso_fixed": 800}
        await self.edit(strategy=strategy)
        fixed = (await self.http.get(f"{self.path}/why")).json()
        self.assertIn("“Strategy” changed", fixed["sentence"])
        both = (await self.http.get(f"{self.path}/why?bundle={saved[0]['id']}")).json()
        self.assertIn("since “Morning” was saved", both["since"])
        self.assertIn("stronger", both["sentence"])
        self.assertIn("Strategy", both["sentence"])
