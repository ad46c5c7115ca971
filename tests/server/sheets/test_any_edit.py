"""Whatever a sheet asks for within its ranges is decided, explained and shown: nothing breaks."""

import numpy as np

from tests.any_sheet import any_readings, edited
from tests.counts import seeds
from tests.server.test_api import WithApp

SHOWN = ("light-table", "long-time", "why", "slip.txt", "readings.csv", "bundles")


class AnyEdit(WithApp):
    async def test_every_part_of_a_sheet_answers_whatever_is_asked_of_it(self):
        rules = (await self.http.get("/api/asks")).json()
        kept = refused = 0
        for seed in seeds(12, 400):
            draw = np.random.default_rng(seed)
            sheet = await self.sheet(draw, [role["id"] for role in rules["roles"]])
            for _ in range(2):
                body = edited(draw, sheet["body"], rules["asks"])
                edit = {"version": sheet["version"], "label": "any", "body": body}
                put = await self.http.put(f"/api/sheets/{sheet['id']}", json=edit)
                with self.subTest(seed):
                    # What contradicts itself may be refused; a number within its range may not.
                    self.assertIn(put.status_code, (200, 422), put.text)
                    self.assertNotIn("must be between", put.text)
                if put.status_code != 200:
                    refused += 1
                    continue
                kept += 1
                await self.http.post(f"/api/sheets/{sheet['id']}/bundles", json={"name": "then"})
                await self.look(sheet["id"], seed)
                sheet = (await self.http.get(f"/api/sheets/{sheet['id']}")).json()
        self.assertGreater(kept, 2 * refused)

    async def sheet(self, draw, roles):
        """A new sheet with one to three readings, some without a name."""
        readings = any_readings(draw, roles)
        phone = "wherry-3" if draw.random() < 0.8 else "dabber"
        made = {"title": "Any", "phone": phone, "readings": readings}
        answer = await self.http.post(f"/api/outings/{self.outing}/sheets", json=made)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    async def look(self, sheet_id, seed):
        for part in SHOWN:
            shown = await self.http.get(f"/api/sheets/{sheet_id}/{part}")
            with self.subTest(seed, part=part):
                self.assertEqual(shown.status_code, 200, shown.text[:300])
            if part == "long-time":
                for way in shown.json()["ways"]:
                    path = f"/api/sheets/{sheet_id}/long-time/{way['id']}"
                    taken = await self.http.post(path)
                    with self.subTest(seed, way=way["id"]):
                        self.assertLess(taken.status_code, 500, taken.text)
                    await self.http.post(f"/api/sheets/{sheet_id}/undo")
