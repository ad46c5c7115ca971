"""Sets of frames over HTTP: filled, stacked by a worker, stopped, deleted, taken up again."""

import asyncio
import io
import json
import sqlite3
from concurrent.futures import Future
from unittest import mock

import numpy as np
from PIL import Image

from oxlen.core.errors import WorkFailed
from oxlen.stacking.in_library import stack_folder, stack_up
from oxlen.store.backup import write_backup
from oxlen.store.check import findings_in
from oxlen.store.restore import restore_backup
from tests.pictures.making import dng
from tests.server.test_api import WithApp
from tests.stacking.frames import linear_of, shot, still


class Stacks(WithApp):
    async def begun(self, frames, **asked):
        body = {"name": "Sluice", "sheet_id": asked.pop("sheet_id", None)}
        made = (await self.http.post("/api/stacks", json=body)).json()
        self.path = f"/api/stacks/{made['id']}"
        for number, data in enumerate(frames):
            path = f"{self.path}/frames?name=f{number:02d}.jpg"
            added = await self.http.post(path, content=data)
            self.assertEqual(added.status_code, 201, added.text)
        await self.http.put(self.path, json={"ending": "jpg", **asked})
        return made["id"]

    async def ended(self):
        view = (await self.http.get(self.path)).json()
        for _ in range(300):
            if view["state"] != "working":
                break
            await asyncio.sleep(0.1)
            view = (await self.http.get(self.path)).json()
        return view

    def frames(self, count=5, last=None):
        draw, light = np.random.default_rng(4), still()
        shots = [shot(light * draw.normal(1, 0.03, light.shape), n) for n in range(count)]
        return shots if last is None else [*shots, last]

    async def test_a_set_becomes_a_take_of_its_sheet_with_what_was_left_out(self):
        sheet = (
            await self.http.post(
                f"/api/outings/{self.outing}/sheets", json={"title": "Sluice", "phone": "wherry-3"}
            )
        ).json()["id"]
        frames = self.frames(last=shot(still(), 9, iso=400))
        await self.begun([*frames, frames[0]], sheet_id=sheet)
        before = (await self.http.get(self.path)).json()
        self.assertEqual(before["frames"], 6)  # the same content once
        rules = {rule["combine"]: rule for rule in before["rules"]}
        self.assertAlmostEqual(rules["mean"]["noise_gain_stops"], 0.5 * np.log2(6))
        self.assertAlmostEqual(rules["median"]["disk_gb"], 6 * 320 * 240 * 3 / 1e9)
        self.assertEqual((await self.http.get(f"{self.path}/first")).status_code, 200)
        self.assertEqual((await self.http.post(f"{self.path}/start")).status_code, 200)
        done = await self.ended()
        self.assertEqual((done["state"], done["problem"]), ("done", ""))
        self.assertEqual(done["result"]["frames"], 5)
        self.assertEqual(done["result"]["left_out"][0]["name"], "f05.jpg")
        self.assertEqual(done["result"]["light_s"], 2.5)
        takes = (await self.http.get(f"/api/sheets/{sheet}/takes")).json()
        self.assertEqual([take["picture"] for take in takes], [done["result_picture"]])
        file = await self.http.get(f"{self.path}/file")
        self.assertTrue(file.content.startswith(b"\xff\xd8"))
        folder = stack_folder(self.library, done["id"])
        self.assertEqual((await self.http.delete(self.path)).status_code, 204)
        self.assertFalse(folder.exists())
        self.assertEqual((await self.http.get(f"/api/sheets/{sheet}/takes")).json(), takes)

    async def test_takes_are_its_frames_and_what_cannot_be_is_said(self):
        await self.begun(self.frames(1))
        too_few = await self.http.post(f"{self.path}/start")
        self.assertEqual(too_few.status_code, 422)
        self.assertIn("Add at least 2 frames", too_few.json()["detail"])
        foreign = await self.http.post(f"{self.path}/takes", json={"takes": [1]})
        self.assertEqual(foreign.status_code, 422)
        await self.http.post(f"{self.path}/frames?name=bad.jpg", content=b"nothing")
        await self.http.post(f"{self.path}/start")
        failed = await self.ended()
        self.assertEqual(failed["state"], "failed")
        self.assertIn("Fewer than 2", failed["problem"])
        self.assertEqual((await self.http.get("/api/stacks/99")).status_code, 404)

    async def test_frames_come_from_takes_of_the_sheet_and_stay_takes(self):
        sheet = (
            await self.http.post(
                f"/api/outings/{self.outing}/sheets", json={"title": "Sluice", "phone": "wherry-3"}
            )
        ).json()["id"]
        for number, data in enumerate(self.frames(3)):
            path = f"/api/sheets/{sheet}/takes?name=t{number}.jpg"
            takes = (await self.http.post(path, content=data)).json()
        await self.begun([], sheet_id=sheet)
        ids = [take["id"] for take in takes]
        added = (await self.http.post(f"{self.path}/takes", json={"takes": ids})).json()
        self.assertEqual(added["frames"], 3)
        await self.http.delete(self.path)
        self.assertTrue(self.library.picture_path(takes[0]["picture"]).is_file())
        mine = (await self.http.get(f"/api/stacks?sheet_id={sheet}")).json()
        self.assertEqual(mine, [])

    async def test_the_lands_own_take_comes_from_its_own_sheet_and_is_blended(self):
        sheets = []
        for body in ({"title": "Stars", "sky": {"kind": "stars"}}, {"title": "Land", "land": {}}):
            path = f"/api/outings/{self.outing}/sheets"
            made = await self.http.post(path, json={"phone": "wherry-3", **body})
            sheets.append(made.json()["id"])
        light = still()
        dusk = shot(light * 0.5, 30, iso=50, shutter=(6, 1))
        taken = await self.http.post(f"/api/sheets/{sheets[1]}/takes?name=land.jpg", content=dusk)
        self.assertEqual(taken.status_code, 201, taken.text)
        await self.begun(self.frames(4), sheet_id=sheets[0])
        (land_take,) = (await self.http.get(self.path)).json()["land_takes"]
        grown = await self.http.post(f"{self.path}/takes", json={"takes": [land_take]})
        name = grown.json()["names"][-1]
        self.assertEqual(
            (await self.http.get(f"{self.path}/first", params={"name": name})).status_code, 200
        )
        asked = {"ending": "jpg", "land": [name], "land_lift_stops": 1.0}
        await self.http.put(self.path, json=asked)
        await self.http.post(f"{self.path}/start")
        failed = await self.ended()
        self.assertIn("Draw the horizon line", failed["problem"])
        await self.http.put(self.path, json={**asked, "horizon": [[0, 0.5], [1, 0.5]]})
        await self.http.post(f"{self.path}/start")
        done = await self.ended()
        self.assertEqual(done["state"], "done", done)
        self.assertEqual((done["state"], done["result"]["frames"]), ("done", 4), done["problem"])
        self.assertIn(f"The foreground is from {name}.", done["told"])
        file = (await self.http.get(f"{self.path}/file")).content
        grey = linear_of(np.asarray(Image.open(io.BytesIO(file)))).mean(axis=2)
        # Lifted by a stop, foreground of half the light is as light as the others show it.
        np.testing.assert_allclose(grey[160:].mean(), light[160:].mean(), rtol=0.03)

    async def test_one_that_was_being_worked_on_is_taken_up_at_the_next_start(self):
        stack_id = await self.begun(self.frames(4), combine="median")
        with self.library.writer() as connection:
            connection.execute("UPDATE stack SET state = 'working' WHERE id = ?", (stack_id,))
        context = self.app.state.context
        context.stack_jobs.take_up(now=context.now())
        done = await self.ended()
        self.assertEqual((done["state"], done["result"]["frames"]), ("done", 4))
        self.assertEqual(json.loads(json.dumps(done["result"]["left_out"])), [])

    async def test_one_whose_end_could_not_be_written_is_failed_and_can_be_started_again(self):
        await self.begun(self.frames(4))
        context = self.app.state.context
        full = sqlite3.OperationalError("database or disk is full")
        lost = Future()
        with mock.patch.object(type(context.pool), "begin", return_value=lost):
            await self.http.post(f"{self.path}/start")
        with mock.patch("oxlen.server.stack_jobs.mark_stack", side_effect=full):
            lost.set_exception(WorkFailed("The disk is full."))
        view = (await self.http.get(self.path)).json()
        self.assertEqual((view["state"], view["problem"]), ("failed", "The disk is full."))
        await self.http.post(f"{self.path}/start")
        self.assertEqual((await self.ended())["state"], "done")

    async def test_one_stopped_while_it_waits_is_not_begun(self):
        number = await self.begun(self.frames(4))
        context = self.app.state.context
        waiting = Future()  # its turn has not come
        with mock.patch.object(type(context.pool), "begin", return_value=waiting):
            await self.http.post(f"{self.path}/start")
        stopped = (await self.http.post(f"{self.path}/stop")).json()
        self.assertEqual((stopped["state"], stopped["result"]), ("stopped", None))
        self.assertTrue(waiting.cancelled())
        # Should the worker have taken it that very moment, it stops before it begins.
        stack_up(self.library.folder, number, now=context.now())
        view = (await self.http.get(self.path)).json()
        self.assertEqual((view["state"], view["result"]), ("stopped", None))

    async def test_a_damaged_frame_is_kept_and_named_and_a_raw_one_is_read_by_a_worker(self):
        await self.begun([self.frames(1)[0], dng(), dng()[:700]])
        view = (await self.http.get(self.path)).json()
        self.assertEqual(view["frames"], 3)
        whole = [self.frames(1)[0], dng(), dng()[:700]]
        self.assertAlmostEqual(view["size_mb"], sum(map(len, whole)) / 1e6)
        self.assertEqual((await self.http.get("/api/stacks")).status_code, 200)
        opened = mock.patch("oxlen.stacking.in_library.open_picture", side_effect=AssertionError)
        with opened:  # the server itself opens none of them
            self.assertEqual((await self.http.get(self.path)).status_code, 200)

    async def test_a_backup_has_the_frames_and_names_those_that_are_gone(self):
        await self.begun(self.frames(3))
        zipped = self.library.folder.parent / "with-frames.zip"
        made = write_backup(self.library, zipped)
        self.assertEqual((made.pictures, made.frames, made.gaps), (0, 3, ()))
        place = self.library.folder.parent / f"{self.library.folder.name}-restored"
        self.assertEqual(restore_backup(place, zipped).frames, 3)
        here, there = (sorted(f.rglob("stacks/*/frames/*")) for f in (self.library.folder, place))
        self.assertEqual([f.read_bytes() for f in here], [f.read_bytes() for f in there])
        here[0].unlink()
        here[1].write_bytes(b"rotten")
        gaps = write_backup(self.library, zipped).gaps
        self.assertEqual(sorted(gap.trouble for gap in gaps), ["damaged", "missing"])
        found = [finding.words for finding in findings_in(self.library)]
        self.assertEqual(len(found), 2)
        self.assertRegex(found[0], r"The frame f\d\d.jpg of stack 1 is (missing|damaged)")
        self.assertEqual(len(restore_backup(place, zipped).gaps), 2)
