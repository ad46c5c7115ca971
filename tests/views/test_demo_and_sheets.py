"""The demo's sheets against the truth of their scenes; readings, map and metering of a sheet."""

import json
from unittest import mock

import numpy as np

from oxlen.core.light.exposure import luminance_cd_m2
from oxlen.core.light.meter import Spot, disc_box, disc_mask
from oxlen.core.simulate.capture import scene_luminance
from oxlen.demo.seed import seed_demo
from oxlen.demo.sheets import DAY_SHEETS, EVENING_SHEETS, LATER_SHEETS
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.scene_file import scene_truth, shipped_scene
from oxlen.formats.sheet.file import AutoNumbers, EvNumber, ReadingBody, SheetBody, SpotBody
from oxlen.metering import picture_cache as metering
from oxlen.metering.picture_cache import PictureCache
from oxlen.preview.cache import PreviewCache
from oxlen.preview.dry_run import FrameRequest, dry_run
from oxlen.views.answer import answer
from tests.in_library import InDemo


def true_ev100(scene, spot):
    """EV100 of a scene's own light under a spot."""
    light = scene_luminance(scene)
    height, width = light.shape
    disc = Spot(spot.id, spot.x, spot.y, r=spot.r)
    left, top, right, bottom = disc_box(disc, width, height)
    inside = light[top:bottom, left:right][disc_mask(disc, width, height)]
    return float(np.log2(inside.mean() / luminance_cd_m2(0.0)))


class Demo(InDemo):
    def answered(self, body):
        return answer(body, shipped_profile, self.room)

    def titled(self, title):
        return next(body for _, body in self.bodies if body.title == title)

    def test_seeding_again_changes_nothing(self):
        self.assertFalse(seed_demo(self.library))
        self.assertEqual(len(self.bodies), 15)

    def test_spots_read_the_light_that_is_there(self):
        for demo in (*DAY_SHEETS, *EVENING_SHEETS, *LATER_SHEETS):
            scene, truth = shipped_scene(demo.scene), scene_truth(demo.scene)
            pulsing = any(lamp.pulse_hz for lamp in truth.lamps)
            readings = {r.id: r for r in self.answered(self.titled(demo.body["title"])).readings}
            for spot in demo.spots:
                got = readings[spot.id]
                with self.subTest(demo.body["title"], spot=spot.name):
                    # A processed file is tone-mapped, and bands are light that was there.
                    slack = 0.15 if demo.kind == "dng" else 0.6
                    self.assertEqual(got.state, "ok")
                    wanted = true_ev100(scene, spot)
                    self.assertAlmostEqual(got.ev100, wanted, delta=slack + 0.5 * pulsing)

    def test_three_sheets_are_meant_to_collide(self):
        stated = {
            "Stars over the hard": "stops too dark",
            "Sluice as a veil": "stops too bright",
            "Tarred hull on the hard": "darker than wanted",
        }
        for _, body in self.bodies:
            found = self.answered(body)
            with self.subTest(body.title):
                conflict = found.plan.conflict
                self.assertEqual(conflict is not None, body.title in stated)
                self.assertIn(stated.get(body.title, ""), conflict.sentence if conflict else "")
                # Without a slip the lines that do not depend on it stay.
                exposure = {line.field for line in found.lines} & {"iso", "shutter_s"}
                self.assertEqual(found.plan.slip is None, not exposure)
                self.assertIn("focus", {line.field for line in found.lines})
                self.assertTrue(conflict is None or found.trades)

    def test_lines_come_in_dialling_order_with_a_reason_each(self):
        lines = self.answered(self.titled("White hull in full sun")).lines
        self.assertEqual(
            [line.name for line in lines],
            ["Lens", "ISO", "Shutter", "White balance", "Focus", "Save"],
        )
        self.assertTrue(all(line.reason for line in lines))

    def test_the_ribbon_shows_the_pictures_own_tones_at_every_setting(self):
        body = self.titled("White hull in full sun")
        ribbon = self.answered(body).warmth
        self.assertEqual(ribbon.tone_names[0], "sunlit paint")
        self.assertEqual(ribbon.tone_names[-1], "oiled oak")
        dialled = next(step for step in ribbon.steps if step.dial_k == ribbon.dial_k)
        # The picture was taken at that setting: white paint there is as grey as a grey card.
        red, _, blue = (int(dialled.tones[0][at : at + 2], 16) for at in (1, 3, 5))
        self.assertAlmostEqual(red, blue, delta=6)
        cold, warm = ribbon.steps[0], ribbon.steps[-1]
        for item, sign in ((cold, -1), (warm, 1)):
            red, _, blue = (int(item.tones[0][at : at + 2], 16) for at in (1, 3, 5))
            self.assertGreater(sign * (red - blue), 30)

    def test_corrections_say_what_they_did_and_how_to_undo_them(self):
        body = self.titled("White hull in full sun")
        self.assertEqual(self.answered(body).corrections, [])
        mean = self.answered(body).picture.mean_ev100
        changed = body.model_copy(update={"picture_glass_stops": 6.0, "light_shift_stops": -2.0})
        glass, hour = self.answered(changed).corrections
        self.assertIn(f"mean EV {mean + 6:.1f} instead of EV {mean:.1f}", glass.words)
        self.assertIn("brighter than a white hull in full sun", glass.doubt)
        self.assertIn("2.0 stops weaker than measured", hour.words)
        taken_back = changed.model_copy(update={**glass.patch, **hour.patch})
        self.assertEqual(self.answered(taken_back).corrections, [])

    def test_a_sheet_without_spots_meters_the_whole_frame(self):
        body = self.titled("White hull in full sun").model_copy(update={"spots": []})
        found = self.answered(body)
        self.assertEqual([r.kind for r in found.readings], ["frame"])
        self.assertAlmostEqual(found.readings[0].ev100, found.picture.mean_ev100)
        self.assertGreater(found.readings[0].plus_minus_stops, 0.5)

    def test_raw_is_surer_than_processed(self):
        raw = self.answered(self.titled("Bronze on the shed bench")).readings[0]
        processed = self.answered(self.titled("White hull in full sun")).readings[0]
        self.assertLess(raw.plus_minus_stops, processed.plus_minus_stops)

    def test_a_lamp_that_clipped_reads_at_least(self):
        body = self.titled("Lantern evening on the quay")
        lamp = SpotBody(id="lamp", x=0.511, y=0.393, r=0.02)
        found = self.answered(body.model_copy(update={"spots": [lamp]})).readings[0]
        self.assertEqual(found.state, "clipped")
        self.assertGreater(found.clipped_share, 0.3)

    def test_what_will_clip_is_said_before_the_dry_run_shows_it(self):
        dry_room = PreviewCache(self.room)
        for title in (
            "Tarred hull on the hard",
            "White hull in full sun",
            "Lantern evening on the quay",
            "Varnish tins for the shop",
        ):
            body = self.titled(title)
            found = self.answered(body)
            slip = found.plan.slip
            row = [step.value for step in found.map.isos].index(slip.iso)
            column = [step.value_s for step in found.map.shutters].index(slip.shutter_s)
            least = found.map.clipped_share[row][column]
            most = (found.map.clipped_share_most or found.map.clipped_share)[row][column]
            shown = dry_run(body, shipped_profile, dry_room, request=FrameRequest()).figures
            with self.subTest(title):
                self.assertLess(least - 0.005, shown.clipped_share)
                self.assertLess(shown.clipped_share, most + 0.02)

    def test_map_line_and_open_stretch_lie_on_the_wanted_exposure(self):
        found = self.answered(self.titled("Lantern evening on the quay"))
        wanted = found.plan.wanted_ev100
        for point in (*found.map.line, *found.map.open):
            got = np.log2(1.8**2 / point.shutter_s) - np.log2(point.iso / 100)
            self.assertAlmostEqual(got, wanted, places=6)
        self.assertLessEqual(found.map.open[1].shutter_s, 2 ** (3 + 1.5) / 24 + 1e-9)
        self.assertGreaterEqual(found.map.isos[0].headroom_stops, 2.4)
        floors = [step.floor_stops for step in found.map.isos]
        self.assertEqual(floors, sorted(floors))

    def test_pictures_let_go_when_room_is_short(self):
        room = PictureCache(self.library)
        self.addCleanup(room.close)
        hashes = [body.picture for _, body in self.bodies if body.picture]
        with mock.patch.object(metering, "MAX_OPEN_BYTES", 1):
            for sha256 in hashes:
                first = room.spot_tone(sha256, Spot("a", 0.5, 0.5))
            again = room.spot_tone(hashes[0], Spot("a", 0.5, 0.5))
        self.assertEqual(len(room._open), 1)
        self.assertIsNotNone(first and again)

    def test_auto_numbers_take_the_lens_they_were_read_with(self):
        def ev(lens):
            source = AutoNumbers(iso=100, shutter_s=0.01, lens=lens)
            return self.answered(SheetBody(readings=[ReadingBody(id="r", source=source)])).readings[
                0
            ]

        self.assertAlmostEqual(ev("long").ev100 - ev("main").ev100, 2 * np.log2(2.6 / 1.8))

    def test_default_places_follow_the_aim(self):
        reading = ReadingBody(id="r", role="subject", source=EvNumber(ev100=6))
        dark = SheetBody.model_validate({"readings": [reading], "strategy": {"exposure": "dark"}})
        self.assertEqual(self.answered(dark).readings[0].place, -2.0)
        self.assertEqual(self.answered(SheetBody(readings=[reading])).readings[0].place, 0.0)

    def test_the_report_is_plain_json(self):
        report = self.answered(self.titled("White hull in full sun")).picture.report
        again = type(report).model_validate(json.loads(report.model_dump_json()))
        self.assertEqual(again, report)
