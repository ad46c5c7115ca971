"""Asks as they are written: filled in from what is usual, refused when incomplete, read alike."""

import unittest
from typing import Any

from oxlen.core.ask import plain
from oxlen.core.decisions.exposure.ask import Hold, Lamps, Output
from oxlen.core.decisions.exposure.motion_ask import FrozenMotion, ShownMotion
from oxlen.core.decisions.lens.ask import Framing
from oxlen.core.decisions.sequence.ask import Frames
from oxlen.core.kit.uses import USES, use_of
from oxlen.core.motion.presets import MOVERS, mover_preset
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.plan.asked import model_of
from oxlen.formats.plan.brief import BriefFile, TonesFile
from oxlen.formats.refusal import parse_model
from oxlen.formats.sheet.file import SheetBody
from oxlen.metering.light import measured
from oxlen.metering.sheet_brief import brief_of_sheet

PROFILE = shipped_profile("wherry-3")
# Their fields are those of the asks: no checker knows them.
MODELS: Any = [
    model_of(frame) for frame in (FrozenMotion, ShownMotion, Lamps, Output, Hold, Frames)
]
MOTION, LOOK, LAMPS, OUTPUT, HOLD, FRAMES = MODELS
FRAMING: Any = model_of(Framing)
WISHES = {
    "support": "braced",
    "strategy": {"iso": "ceiling", "iso_cap": 800, "exposure": "highlights", "shutter_s": 0.01},
    "motion": [{"subject": "cyclist", "distance_m": 12, "pan": 0.06}, {"subject": "hands"}],
    "looks": [{"look": "trails", "subject": "traffic", "share_min": 0.3}],
    "flicker": {"mains_hz": 60, "tolerance": 0.1},
    "output": {"use": "print-a4", "snr": "excellent"},
    "hold": {"burst": 5, "chance": 0.8, "stabiliser_stops": 2, "risk_stops": 0.5},
    "frames": {"count": 4, "gap_s": 0.5},
    "framing": {"distance_m": 4, "background_m": 8, "subject_m": 1.8, "subject_share": 0.6},
    "format": "raw",
    "lens": "main",
}


class Movers(unittest.TestCase):
    def test_what_is_not_said_is_as_usual(self):
        for usual in MOVERS:
            mover = MOTION(subject=usual.id).as_asked.mover
            found = (mover.speed_m_s, mover.distance_m, mover.angle_deg)
            self.assertEqual(found, (usual.speed_m_s, usual.distance_m, usual.direction_deg))
        near = MOTION(subject="dinghy", distance_m=4, direction_deg=0).as_asked
        self.assertEqual((near.label, near.mover.distance_m), ("Dinghy under sail", 4.0))
        self.assertEqual((near.mover.speed_m_s, near.mover.angle_deg), (2.5, 0.0))

    def test_its_own_numbers_do_without_a_usual_one_when_both_are_said(self):
        mover = MOTION(speed_m_s=3, distance_m=7, name="Skiff").as_asked
        self.assertEqual((mover.label, mover.mover.angle_deg), ("Skiff", 90.0))
        self.assertEqual(MOTION(speed_m_s=3, distance_m=7).as_asked.label, "mover")
        for half in ({}, {"speed_m_s": 3}, {"distance_m": 7}, {"direction_deg": 90}):
            with self.subTest(half), self.assertRaisesRegex(ValueError, "say a subject, or"):
                MOTION(**half)
        with self.assertRaisesRegex(ValueError, "Unknown mover tram. Use one of walker"):
            MOTION(subject="tram")

    def test_a_crosser_is_as_long_as_usual_unless_it_is_said(self):
        rows = [
            ({"subject": "boat"}, mover_preset("boat").width_m),
            ({"subject": "boat", "width_m": 2.5}, 2.5),
            ({"speed_m_s": 1, "distance_m": 5}, 1.0),
        ]
        for stated, width in rows:
            self.assertEqual(LOOK(look="vanish", **stated).as_asked.in_force("width_m"), width)

    def test_what_is_asked_is_written_back_as_it_is(self):
        walker = FrozenMotion("walker", "Late walker", off_axis=0.1, pan=0.06)
        sluice = ShownMotion("sluice", look="soft", share_max=3.0, background_stops=-1)
        for asked in (walker, sluice, Lamps(mains_hz=50), Output(snr=12.5), Frames(3, 0.1)):
            self.assertEqual(model_of(type(asked))(**plain(asked)).as_asked, asked)


class Rest(unittest.TestCase):
    def test_a_lamp_says_its_mains_or_its_driver_never_both(self):
        mains = LAMPS(mains_hz=50).as_asked
        self.assertEqual((mains.pulse_hz, mains.mains_hz), (100.0, 50))
        driven = LAMPS(driver_hz=480, tolerance=0.2).as_asked
        self.assertEqual((driven.pulse_hz, driven.mains_hz, driven.tolerance), (480.0, None, 0.2))
        for wrong in ({}, {"mains_hz": 50, "driver_hz": 480}):
            with self.subTest(wrong), self.assertRaisesRegex(ValueError, "either mains_hz or"):
                LAMPS(**wrong)

    def test_an_output_is_a_use_with_sizes_of_ones_own(self):
        for use in USES:
            output = OUTPUT(use=use.id).as_asked
            self.assertEqual(output.size_px, (use.width_px, use.height_px))
        self.assertEqual(OUTPUT(width_px=4000).as_asked.size_px[1], use_of("screen").height_px)
        floors = {"excellent": 40.0, "acceptable": 10.0, "any": None, 17.5: 17.5}
        for stated, floor in floors.items():
            self.assertEqual(OUTPUT(snr=stated).as_asked.snr_floor, floor)
        with self.assertRaisesRegex(ValueError, "Unknown output billboard"):
            OUTPUT(use="billboard")

    def test_what_is_not_said_is_what_the_core_takes_for_it(self):
        self.assertEqual(HOLD().as_asked, Hold())
        self.assertEqual(FRAMES().as_asked, Frames())
        self.assertEqual(FRAMING().as_asked, Framing())

    def test_tones_have_one_edge_more_than_shares_and_ascend(self):
        good = TonesFile(edges_ev100=[2, 4, 8], shares=[0.5, 0.5], lost_share=0.1).to_tones()
        self.assertEqual((good.edges_ev100, good.lost_share), ((2.0, 4.0, 8.0), 0.1))
        with self.assertRaisesRegex(ValueError, "one edge more"):
            TonesFile(edges_ev100=[2, 4], shares=[0.5, 0.5])
        for edges in ([4, 2, 8], [2, 2, 8]):
            with self.assertRaisesRegex(ValueError, "must ascend"):
                TonesFile(edges_ev100=edges, shares=[0.5, 0.5])


class Alike(unittest.TestCase):
    def test_a_brief_and_a_sheet_of_the_same_wishes_ask_for_the_same(self):
        filters = [{"name": "ND 8", "factor": 8}, {"name": "Polariser", "factor": 3}]
        rows = [
            {"output": {}},
            WISHES,
            {**WISHES, "flicker": {"driver_hz": 480}, "output": {"snr": 25}},
        ]
        stated = {"phone": "wherry-3", "about": "Untitled sheet"}
        for wishes in rows:
            reading = {"role": "subject", "ev100": 9.0, "place": -1, "name": ""}
            file = parse_model(
                BriefFile,
                {**stated, "readings": [reading], "nd": {"on": filters}, **wishes},
                "The brief",
            )
            source = {"kind": "ev", "ev100": 9.0}
            entry = {"id": "a", "role": "subject", "place": -1, "source": source}
            body = SheetBody.model_validate({"readings": [entry], "glass": filters, **wishes})
            light = measured(body, PROFILE, None)
            sheet = brief_of_sheet(body, PROFILE.to_phone(), light)
            self.assertEqual(sheet, file.to_brief(shipped_profile))
