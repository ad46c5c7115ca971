"""Any place on Earth, any night, anything wanted of it: what reaches it has a slip."""

import numpy as np

from tests.counts import seeds
from tests.server.test_api import WithApp

LATITUDES = (90.0, -90.0, 0.0, 66.5, -45.0, 30.0, 52.0)
LANDS = ("silhouette", "lit", "dusk", "dark")


class AnyNight(WithApp):
    async def get(self, path, **params):
        found = await self.http.get(path, params=params)
        self.assertEqual(found.status_code, 200, found.text)
        return found.json()

    async def test_every_night_is_told_and_its_ways_become_sheets(self):
        reached = 0
        for seed in seeds(10, 300):
            draw = np.random.default_rng(seed)
            made = await self.http.post("/api/places", json=place(draw))
            self.assertEqual(made.status_code, 201, made.text)
            path = f"/api/places/{made.json()['id']}"
            wanted = night(draw)
            with self.subTest(seed):
                day = await self.get(f"{path}/day", date=wanted["date"], cloud="partly")
                self.assertIn(len(day["hours"]["quarters"]), (93, 97, 101))
                whole = await self.get(f"{path}/nights", **aimed(wanted), span="month")
                self.assertLessEqual(len(whole["best"]), whole["count"])
                planned = await self.get(f"{path}/night", **wanted)
                self.assertTrue(planned["ways"] or planned["told"])
                land = LANDS[int(draw.integers(len(LANDS)))]
                for way in (item for item in planned["ways"] if item["id"] != "phone"):
                    asked = {"outing_id": self.outing, "way": way["id"], "land": land}
                    made = await self.http.post(f"{path}/night", params=wanted, json=asked)
                    self.assertEqual(made.status_code, 201, made.text)
                    self.agree(way, made.json()["answer"]["plan"])
                    reached += self.reached(way, made.json()["answer"]["plan"])
        self.assertGreater(reached, 10)

    def agree(self, way, plan):
        """One calculation: the sheet of a way has the steps and the noise the night foretells."""
        if plan["slip"] is None or plan["slip"]["iso"] != way["iso"]:
            return
        self.assertAlmostEqual(plan["slip"]["shutter_s"], way["shutter_s"], places=6)
        off = np.log2(plan["figures"]["snr_subject"] / way["snr"])
        self.assertAlmostEqual(off, 0, delta=0.1, msg=way["label"])

    def reached(self, way, plan):
        """Whether a way reaches what is wanted; its sheet then has a slip, with nothing against."""
        if way["reaches"]:
            self.assertIsNone(plan["conflict"], way["label"])
            self.assertIsNotNone(plan["slip"], way["label"])
        return way["reaches"]


def place(draw):
    """Somewhere, with a sky, and at times hills about it and a town."""
    bearings = sorted(draw.uniform(0, 360, int(draw.integers(0, 4))).tolist())
    return {
        "name": "Somewhere",
        "latitude_deg": float(draw.choice(LATITUDES)),
        "longitude_deg": float(draw.choice((-180.0, 180.0, draw.uniform(-180, 180)))),
        "dark_sky_class": int(draw.integers(1, 10)),
        "horizon": [
            {"bearing_deg": bearing, "height_deg": float(draw.uniform(0, 40))}
            for bearing in bearings
        ],
        "glow": [
            {"bearing_deg": bearing, "stops": float(draw.uniform(0, 4))} for bearing in bearings[:1]
        ],
    }


def night(draw):
    """A night and what is wanted of it, anywhere in its ranges."""
    year, month, day = draw.integers((2024, 1, 1), (2032, 13, 29))
    return {
        "date": f"{year}-{month:02d}-{day:02d}",
        "phone": str(draw.choice(("wherry-3", "dabber"))),
        "rule": str(draw.choice(("npf", "500", "pixels"))),
        "moon": str(draw.choice(("down", "thin", "any"))),
        "snr": float(draw.uniform(0.5, 200)),
        "arc_deg": float(draw.uniform(0.5, 180)),
        "land_stops": float(draw.uniform(-4, 6)),
        "centre": bool(draw.random() < 0.5),
        "dec_deg": float(draw.uniform(-90, 90)),
        "above_deg": float(draw.uniform(0, 89)),
    }


def aimed(wanted):
    """What of it is asked of a span of nights."""
    return {name: wanted[name] for name in ("date", "moon", "centre", "dec_deg", "above_deg")}
