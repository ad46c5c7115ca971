"""Whatever a sheet asks for within its ranges is decided, explained and shown: nothing breaks."""

import copy

import numpy as np

from tests.counts import seeds
from tests.server.test_api import WithApp

SHOWN = ("light-table", "long-time", "why", "slip.txt", "readings.csv", "bundles")
CHANGED, FILLED = 0.14, 0.4
"""How often an ask is changed, and a field of it."""


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
        light = draw.uniform(-10, 17)
        readings = [
            {
                "id": f"r{place}",
                "name": f"place {place}" if draw.random() < 0.7 else "",
                "role": roles[int(draw.integers(len(roles)))] if place else "subject",
                "source": {"kind": "ev", "ev100": float(np.clip(light + off, -12, 24))},
            }
            for place, off in enumerate((0.0, *draw.uniform(-8, 8, int(draw.integers(0, 3)))))
        ]
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


def edited(draw, body, asks):
    """A body with some of its asks begun and their fields anywhere in their ranges."""
    body = copy.deepcopy(body)
    for ask in asks:
        now, entry = body.get(ask["name"]), ask.get("entry")
        first = entry[0] if isinstance(entry, list) and entry else entry
        if draw.random() > CHANGED or isinstance(first, list):
            continue
        if isinstance(now, list):
            body[ask["name"]] = [copy.deepcopy(first)] if isinstance(first, dict) else now
        elif now is None:
            body[ask["name"]] = copy.deepcopy(entry)
        for field in ask["fields"]:
            if draw.random() < FILLED:
                put(body, field["path"], anything(draw, field))
    return body


def put(body, path, value):
    """Set a field by its path, in the first of a list; nothing where its ask is not begun."""
    place = body
    for key in path[:-1]:
        place = place.get(key) if isinstance(place, dict) else None
        place = place[0] if isinstance(place, list) and place else place
    if isinstance(place, dict) and value is not None:
        place[path[-1]] = value


def anything(draw, field):
    """A value a field may have: one of its choices, or a number of its range or at its ends."""
    if field["choices"]:
        return field["choices"][int(draw.integers(len(field["choices"])))]["value"]
    low, high = field["low"], field["high"]
    if low is None or high is None:
        return None
    even = draw.uniform(low, high)
    value = even if low <= 0 else float(np.exp(draw.uniform(np.log(low), np.log(high))))
    value = (low, high, value, value, value)[int(draw.integers(5))]
    return round(value) if field["whole"] else float(value)
