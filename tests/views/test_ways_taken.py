"""A sheet's answer: trades taken, light read, limits opened, the map, all against the core."""

import itertools

import numpy as np

from oxlen.core.decisions.plan import plan
from oxlen.core.decisions.solver.frontier import figures_of_steps
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.labels import steps_label
from oxlen.core.light.exposure import luminance_cd_m2
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.sheet.file import SheetBody
from oxlen.metering.light import measured
from oxlen.metering.sheet_brief import brief_of_sheet
from oxlen.takes.importing import onto_sheet
from oxlen.views.answer import answer
from tests.in_library import NOW, InLibrary
from tests.pictures.making import EV100, corners, dng, exif, jpeg
from tests.pictures.test_reading import code_ev

PROFILE = shipped_profile("wherry-3")
FILTERS = (LensFilter("ND 64", 64.0), LensFilter("ND 1000", 1000.0))


def reading(ev100, role="subject", name="a", **more):
    """A reading off a hand meter, as the sheet holds it."""
    source = {"kind": "ev", "ev100": ev100}
    return {"id": name, "role": role, "source": source, **more}


SHEETS = {
    "walkers at dusk": {
        "readings": [reading(4.0), reading(7.0, "keep-bright", "b")],
        "motion": [{"subject": "walker"}, {"subject": "runner"}],
        "output": {"snr": "excellent"},
    },
    "one coming on": {
        "readings": [reading(5.0)],
        "motion": [{"subject": "runner-towards", "speed_m_s": 6, "distance_m": 8}],
        "output": {"snr": 30},
    },
    "glass by day": {
        "readings": [reading(13.0)],
        "support": "tripod",
        "looks": [{"look": "glass", "subject": "swell"}],
    },
    "texture handheld": {
        "readings": [reading(12.0)],
        "looks": [{"look": "texture", "subject": "sluice"}],
    },
    "tins under a slow lamp": {
        "readings": [reading(7.0)],
        "flicker": {"driver_hz": 7},
        "strategy": {"iso_cap": 100},
        "hold": {"stabiliser_stops": 1},
    },
    "night handheld": {"readings": [reading(-3.0)], "light_shift_stops": 0.5},
    "sky to keep": {
        "readings": [
            reading(8.0),
            reading(15.0, "keep-bright", "b"),
            reading(6.0, "keep-dark", "c"),
        ],
        "output": {"snr": 40},
    },
    "capped low": {
        "readings": [reading(-1.0)],
        "strategy": {"iso_cap": 200},
        "output": {"snr": "any"},
    },
    "worn for nothing": {
        "readings": [reading(9.0)],
        "glass": [{"name": "ND 8", "factor": 8}],
        "framing": {"distance_m": 3, "background_m": 10},
        "motion": [{"subject": "walker"}],
    },
}


class OfSheets(InLibrary):
    def answered(self, body):
        return answer(
            SheetBody.model_validate(body), shipped_profile, self.room, filters_at_hand=FILTERS
        )


class TradesTaken(OfSheets):
    def test_every_trade_and_lens_of_many_sheets_leads_where_it_says(self):
        seen = set()
        for name, given in SHEETS.items():
            body = SheetBody.model_validate(given)
            found = self.answered(given)
            ways = [
                *((trade.id, found.trades[trade.id], trade.slip) for trade in found.plan.trades),
                *(
                    (f"to {option.lens_id}", found.lenses[option.lens_id], option.slip)
                    for option in found.plan.lenses
                    if option.conflict is None and option.lens_id in found.lenses
                ),
            ]
            for way_id, way, slip in ways:
                seen.add(way_id)
                changed = SheetBody.model_validate({**body.model_dump(), **way.patch})
                with self.subTest(name, way=way_id):
                    if not way.patch:
                        # Done in the world or by the phone itself: the sheet stays as it is.
                        self.assertIn(way_id, ("elsewhere", "fill", "night-mode", "flash", "auto"))
                        continue
                    again = self.answered(changed.model_dump())
                    led = again.plan.slip
                    self.assertIsNone(again.plan.conflict)
                    self.assertEqual(
                        (led.lens, led.iso, led.shutter_s), (slip.lens, slip.iso, slip.shutter_s)
                    )
                    self.assertEqual(way.slip, steps_label(led.iso, led.shutter_s))
        wanted = {"tripod", "brace", "burst", "light", "accept_blur", "accept_noise", "no_glass"}
        self.assertLessEqual(wanted | {"accept_bands", "lift_cap", "to ultra-wide"}, seen)

    def test_a_way_names_only_what_it_changes(self):
        for name, given in SHEETS.items():
            body = SheetBody.model_validate(given).model_dump()
            found = self.answered(given)
            for way_id, way in found.trades.items():
                with self.subTest(name, way=way_id):
                    same = [
                        key
                        for key, value in way.patch.items()
                        if key != "steps_by_hand" and body[key] == value
                    ]
                    self.assertEqual(same, [])

    def test_light_to_come_adds_to_what_was_expected_already(self):
        found = self.answered(SHEETS["night handheld"])
        light = next(trade for trade in found.plan.trades if trade.id == "light")
        shift = found.trades["light"].patch["light_shift_stops"]
        self.assertGreater(shift, 0.5)
        self.assertIn(f"Add {shift - 0.5:.1f} stop", light.text)

    def test_letting_a_highlight_go_and_bracketing_it_are_two_things(self):
        given = SHEETS["sky to keep"]
        trades = self.answered(given).trades
        clip, bracket = trades["clip"].patch, trades["bracket"].patch
        # Neither forgets what was read: the one clips it, the other gives it a frame.
        self.assertEqual(set(clip), {"strategy", "steps_by_hand"})
        self.assertTrue(clip["strategy"]["let_clip"])
        self.assertEqual(set(bracket), {"frames", "steps_by_hand"})
        self.assertEqual(bracket["frames"]["combine"], "bracket")
        lost = self.answered({**given, **clip})
        self.assertEqual(len(lost.readings), 3)
        self.assertEqual(len(lost.plan.exposures), 1)

    def test_a_bracket_is_a_plan_of_frames_that_keeps_both_ends(self):
        given = SHEETS["sky to keep"]
        found = self.answered({**given, **self.answered(given).trades["bracket"].patch}).plan
        evs = [exposure.ev100_set for exposure in found.exposures]
        self.assertEqual(evs, sorted(evs, reverse=True))
        # The sky at EV 15 clips 2.5 over mid; half a third of a stop is what steps may miss.
        self.assertGreaterEqual(evs[0], 15 - 2.5 - 0.2)
        self.assertLessEqual(max(a - b for a, b in itertools.pairwise(evs)), 2.4)
        main = found.slip.ev100_set
        self.assertLess(min(abs(main - ev) for ev in evs), 0.2)
        self.assertIn(
            "bracketed",
            next(setting for setting in found.settings if setting.field == "frames").label,
        )
        for exposure in found.exposures:
            fields = {line.field: line.value for line in exposure.settings}
            ladder = PROFILE.to_phone().lens("main").mode(None).manual
            self.assertIn(fields["shutter_s"], ladder.shutter_s)
            self.assertIn(fields["iso"], ladder.iso)


class Opened(OfSheets):
    def test_each_of_several_movers_opens_its_own_fields(self):
        found = self.answered(SHEETS["walkers at dusk"])
        for limit_id, at in (("freeze", 0), ("freeze-2", 1)):
            id = found.fields[limit_id]
            left = SHEETS["walkers at dusk"]["motion"][1 - at]["subject"]
            self.assertEqual([m["subject"] for m in id.dropped["motion"]], [left])
            self.assertTrue(all(field.path[:2] == ["motion", at] for field in id.fields))
        speeds = [found.fields[name].fields[0].value for name in ("freeze", "freeze-2")]
        self.assertLess(speeds[0], speeds[1])

    def test_a_driven_lamp_has_its_rate_to_change_and_the_mains_have_not(self):
        for flicker, labels in (
            ({"driver_hz": 480}, ["Driver", "Flicker accepted"]),
            ({"mains_hz": 50}, ["Flicker accepted"]),
        ):
            found = self.answered({"readings": [reading(8.0)], "flicker": flicker})
            fields = found.fields["flicker"].fields
            self.assertEqual([field.label for field in fields], labels)

    def test_ends_of_a_field_are_what_the_sheet_accepts(self):
        given = {**SHEETS["walkers at dusk"], "strategy": {"iso_cap": 800}}
        for limit_id, spot in self.answered(given).fields.items():
            for field in spot.fields:
                if field.low is None:
                    continue
                for value, kept in ((field.low, True), (field.high, True), (-1, False)):
                    body = SheetBody.model_validate(given).model_dump()
                    place = body
                    for key in field.path[:-1]:
                        place = place[key]
                    place[field.path[-1]] = int(value) if field.unit == "frames" else value
                    with self.subTest(limit_id, field=field.label, value=value):
                        if kept:
                            SheetBody.model_validate(body)
                        else:
                            with self.assertRaises(ValueError):
                                SheetBody.model_validate(body)


class Light(OfSheets):
    def test_the_phones_own_meter_offset_moves_only_its_own_pictures(self):
        generous = PROFILE.model_copy(update={"meter_offset_stops": 0.4})
        other = exif()
        other[271] = "Harrow"
        for block, shift in ((exif(), 0.4), (other, 0.0)):
            body, _ = self.taken_in(jpeg(corners(), block), "wall.jpg")
            spots = [{"id": "hull", "x": 0.25, "y": 0.75, "r": 0.1}]
            body = SheetBody.model_validate({**body.model_dump(), "spots": spots})
            light = measured(body, generous, self.room)
            spot = light.readings[0]
            self.assertAlmostEqual(spot.ev100, code_ev(140) + shift, delta=0.03)
            self.assertAlmostEqual(spot.luminance_cd_m2, float(luminance_cd_m2(spot.ev100)))
            plain = measured(body, PROFILE, self.room)
            self.assertAlmostEqual(light.mean_ev100 - plain.mean_ev100, shift)

    def test_what_the_file_says_stands_before_what_was_given_by_hand(self):
        by_hand = {"iso": 800, "shutter_s": 0.5, "f_number": 2.8}
        reported, _ = self.taken_in(jpeg(corners()), "told.jpg")
        untold, _ = self.taken_in(jpeg(corners(), exif(iso=None)), "untold.jpg")
        for body, wanted in ((reported, EV100), (untold, np.log2(2.8**2 / 0.5 / 8))):
            given = SheetBody.model_validate({**body.model_dump(), "by_hand": by_hand})
            light = measured(given, PROFILE, self.room).picture
            self.assertAlmostEqual(light.settings_ev100, float(wanted))
            self.assertEqual(light.missing, [])
        bare = measured(untold, PROFILE, self.room).picture
        self.assertEqual((bare.settings_ev100, bare.missing), (None, ["ISO"]))

    def test_a_place_of_ones_own_is_told_from_the_usual_one(self):
        found = self.answered(
            {"readings": [reading(8.0), reading(9.0, name="b", place=-1.5)]}
        ).readings
        self.assertEqual(
            [(spot.place, spot.place_is_default) for spot in found], [(0.0, True), (-1.5, False)]
        )

    def test_light_expected_later_moves_the_plan_and_not_what_was_read(self):
        now = self.answered({"readings": [reading(8.0)]})
        later = self.answered({"readings": [reading(8.0)], "light_shift_stops": -2.0})
        self.assertEqual(later.readings[0].ev100, 8.0)
        self.assertAlmostEqual(later.plan.wanted_ev100, now.plan.wanted_ev100 - 2.0)

    def test_patterns_and_clipping_need_a_picture_and_its_exposure(self):
        body, _ = self.taken_in(jpeg(corners(300, 400)), "wall.jpg")
        found = self.answered(body.model_dump())
        self.assertEqual([p.id for p in found.patterns], ["whole", "centre", "spot", "highlight"])
        whole = next(p for p in found.patterns if p.id == "whole")
        self.assertAlmostEqual(whole.ev100, found.picture.mean_ev100, delta=0.02)
        self.assertIsNotNone(found.map.clipped_share)
        untold, _ = self.taken_in(jpeg(corners(), exif(iso=None)), "untold.jpg")
        for bare in (untold.model_dump(), {"readings": [reading(8.0)]}):
            bare = {**bare, "readings": [reading(8.0)]}
            found = self.answered(bare)
            self.assertEqual((found.patterns, found.map.clipped_share), ([], None))


class OnTheMap(OfSheets):
    def test_a_contour_has_its_snr_wherever_it_is(self):
        given = SHEETS["walkers at dusk"]
        found = self.answered(given)
        body = SheetBody.model_validate(given)
        light = measured(body, PROFILE, self.room)
        search = plan(brief_of_sheet(body, PROFILE.to_phone(), light)).search
        self.assertEqual([spot.snr for spot in found.map.contours], [10.0, 40.0])
        for contour in found.map.contours:
            self.assertGreater(len(contour.points), 10)
            for point in contour.points:
                figures = figures_of_steps(search, point.iso, point.shutter_s)
                self.assertAlmostEqual(figures.snr_subject / contour.snr, 1, delta=0.01)

    def test_broken_limits_are_bits_in_the_order_of_their_names(self):
        found = self.answered(SHEETS["walkers at dusk"]).map
        hold = found.limit_ids.index("hold")
        limit_s = 2 ** PROFILE.to_phone().lens("main").stabiliser_stops / 24
        for row in found.broken:
            for step, bits in zip(found.shutters, row, strict=True):
                self.assertEqual(bool(bits >> hold & 1), step.value_s > limit_s * (1 + 1e-9))
        for row, column in found.diagonal:
            self.assertLessEqual(
                abs(found.residual_stops[row][column]), found.half_step_stops + 0.01
            )


class TakingIn(OfSheets):
    def test_a_sheet_is_titled_after_its_file(self):
        for name, title in (
            ("yard_wall-2.jpg", "yard wall 2"),
            ("___.jpg", "Untitled sheet"),
            ("h" * 300 + ".jpg", "h" * 120),
            ("Rümpfe am Slip.JPEG", "Rümpfe am Slip"),
        ):
            body, _ = self.taken_in(jpeg(corners()), name)
            self.assertEqual(body.title, title)

    def test_another_picture_on_a_sheet_keeps_its_spots_and_drops_what_was_given_by_hand(self):
        body, taken = self.taken_in(jpeg(corners(), exif(iso=None)), "untold.jpg")
        again, other = self.taken_in(dng(), "told.dng", onto_sheet(taken.sheet_id, NOW))
        self.assertEqual(other.sheet_id, taken.sheet_id)
        self.assertEqual((again.title, again.by_hand), (body.title, None))
        self.assertEqual(again.picture, other.sha256)
        self.assertNotEqual(again.picture, body.picture)
