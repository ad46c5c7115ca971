"""Phone profiles as people exchange them: figures with their origin, older versions, answers."""

import json
import unittest

from oxlen.core.errors import BadInput
from oxlen.formats.phone.answers import PhoneAnswers
from oxlen.formats.phone.file import phone_file
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.phone.shipped import shipped_profiles
from oxlen.phones.answers import answered
from oxlen.phones.file_facts import FileColourMatrix, FileFacts, RawLevels
from oxlen.phones.from_files import phone_from

DAY = "2026-11-26"


def facts(name="a.jpg", **told):
    """A file of a 27 mm f/1.9 lens."""
    usual = {
        "format": "JPEG",
        "kind": "processed",
        "megabytes": 4.0,
        "long_px": 4032,
        "short_px": 3024,
        "make": "Tolver",
        "model": "Punt 2",
        "iso": 100.0,
        "shutter_s": 0.01,
        "f_number": 1.9,
        "focal_mm": 4.4,
        "focal35_mm": 27.0,
    }
    return FileFacts(name, **{**usual, **told})


class Exchange(unittest.TestCase):
    def test_a_profile_comes_back_from_its_file_with_every_origin(self):
        for profile in shipped_profiles().values():
            data = phone_file(profile)
            self.assertEqual(data["format"], "oxlen-phone/2")
            back = PhoneProfile.model_validate_json(json.dumps(data))
            self.assertEqual(
                back.model_dump(exclude={"origins"}), profile.model_dump(exclude={"origins"})
            )
            lens = data["lenses"][0]
            self.assertEqual(set(lens["f_number"]), {"value", "plus_minus", "origin", "date"})
            # What the meter's ± was is the ± of its offset.
            meter = data["meter_offset_stops"]
            self.assertEqual(meter["plus_minus"], profile.meter_plus_minus_stops)

    def test_origins_and_doubts_survive(self):
        made = phone_from([facts()], date=DAY).profile
        back = PhoneProfile.model_validate(phone_file(made))
        path = "lenses.main.12-2mp.pixel_pitch_um"
        self.assertEqual(back.origins[path], made.origins[path])
        self.assertEqual(back.origins[path].origin, "file")

    def test_nothing_of_owner_place_or_serial_is_in_a_file(self):
        words = json.dumps(phone_file(phone_from([facts()], date=DAY).profile)).lower()
        for secret in ("owner", "serial", "gps", "latitude", "artist"):
            self.assertNotIn(secret, words)

    def test_a_figure_of_a_wrong_shape_is_refused_by_name(self):
        data = phone_file(shipped_profiles()["dabber"])
        data["lenses"][0]["f_number"] = {"value": "wide", "origin": "file"}
        with self.assertRaisesRegex(ValueError, "f_number"):
            PhoneProfile.model_validate(data)


class FromFiles(unittest.TestCase):
    def test_lenses_pixels_and_pitch_come_from_the_files(self):
        files = [
            facts(),
            facts("b.jpg"),
            facts("wide.jpg", focal_mm=2.1, focal35_mm=13.0, f_number=2.2),
            facts(
                "tele.jpg", focal_mm=9.3, focal35_mm=72.0, f_number=2.6, long_px=4000, short_px=3000
            ),
            facts("front.jpg", focal_mm=3.2, focal35_mm=26.0, f_number=2.0, lens="Punt front"),
        ]
        found = phone_from(files, date=DAY)
        self.assertEqual(
            [lens.id for lens in found.profile.lenses], ["main", "ultra-wide", "long", "front"]
        )
        mode = found.profile.lenses[0].modes[0]
        # 43.267·4.4/27 mm over a diagonal of 5040 px.
        self.assertAlmostEqual(mode.pixel_pitch_um, 1.399, places=3)
        stated = found.profile.origins["lenses.main.12-2mp.pixel_pitch_um"]
        self.assertAlmostEqual(stated.plus_minus, 1.399 * (0.5 / 27 + 0.005 / 4.4), places=3)
        self.assertEqual(found.notes, ())

    def test_a_raw_files_own_noise_and_lift_are_taken(self):
        raw = facts(
            "a.dng",
            kind="raw",
            format="DNG",
            iso=200.0,
            noise=(1 / 3000, (2.5 / 3000) ** 2),
            baseline_stops=0.6,
        )
        found = phone_from([facts(), raw], date=DAY).profile
        mode = found.lenses[0].modes[0]
        # 3000 e⁻ at white at ISO 200 are 12 000 at ISO 50.
        self.assertAlmostEqual(mode.full_well_e, 12_000)
        self.assertAlmostEqual(mode.read_noise_e[0][1], 2.5)
        self.assertAlmostEqual(mode.headroom_stops.raw, 2.474 + 0.6, places=3)
        place = "lenses.main.12-2mp"
        self.assertEqual(found.origins[f"{place}.full_well_e"].origin, "file")
        self.assertEqual(found.origins["lenses.main.stabiliser_stops"].origin, "assumed")

    def test_how_raw_is_laid_out_and_the_phone_held_is_kept(self):
        matrix = FileColourMatrix(21, (0.8, -0.2, -0.1, -0.4, 1.2, 0.2, -0.1, 0.2, 0.6))
        levels = RawLevels("RGGB", 64.0, 1023.0, active_px=(4032, 3024), matrices=(matrix,))
        raw = facts("a.dng", kind="raw", levels=levels, is_upright=True)
        files = [raw, facts(is_upright=True), facts("c.jpg", is_upright=False)]
        found = phone_from(files, date=DAY).profile
        kept = found.lenses[0].modes[0].raw
        self.assertEqual((kept.mosaic, kept.black_dn, kept.white_dn), ("RGGB", 64, 1023))
        self.assertEqual((kept.active_px, kept.matrices[0].illuminant), ((4032, 3024), 21))
        self.assertAlmostEqual(found.handling.upright_share, 2 / 3, places=3)
        place = "lenses.main.12-2mp.raw.matrices"
        self.assertEqual(found.origins[place].origin, "file")
        again = PhoneProfile.model_validate(phone_file(found)).lenses[0].modes[0].raw
        self.assertEqual(again, kept)
        self.assertIsNone(phone_from([facts()], date=DAY).profile.lenses[0].modes[0].raw)

    def test_what_is_no_plain_picture_of_it_is_told_apart(self):
        odd = [
            facts(),
            facts("zoom.jpg", zoom=1.37, focal35_mm=37.0),
            facts("crop2.jpg", zoom=2.0, focal35_mm=54.0),
            facts("wide-cut.jpg", short_px=2268),
            facts("by-hand.jpg", short_px=1777),
            facts("edited.jpg", is_edited=True, long_px=2000, short_px=1500),
            facts("cut.jpg", long_px=None, short_px=None),
            facts("screen.png", f_number=None, focal_mm=None, focal35_mm=None, make="", model=""),
        ]
        found = phone_from(odd, date=DAY)
        self.assertEqual(
            [(lens.id, len(lens.modes)) for lens in found.profile.lenses],
            [("main", 1), ("main-cropped-2x", 1)],
        )
        stated = " ".join(found.notes)
        for words in (
            "zoom.jpg has 1.4× digital zoom",
            "wide-cut.jpg has another aspect, which crops 25% of the pixels",
            "by-hand.jpg is cropped",
            "edited.jpg was edited",
            "cut.jpg is cut short",
            "screen.png has no lens data",
        ):
            self.assertIn(words, stated)

    def test_two_phones_are_refused_by_name_and_so_is_none(self):
        with self.assertRaisesRegex(
            BadInput, "2 phones.*Tolver Punt 2: a.jpg.*Skerry Yawl 1: b.jpg"
        ):
            phone_from([facts(), facts("b.jpg", make="Skerry", model="Yawl 1")], date=DAY)
        with self.assertRaisesRegex(BadInput, "No picture among these tells of a lens"):
            phone_from([facts(f_number=None, focal_mm=None)], date=DAY)

    def test_without_a_35_mm_figure_the_view_is_assumed_and_said(self):
        found = phone_from([facts(focal35_mm=None)], date=DAY)
        self.assertEqual(found.profile.origins["lenses.main.focal35_mm"].origin, "assumed")
        self.assertIn("do not contain the focal length of the Main lens", found.notes[0])

    def test_two_hundred_megapixels_are_a_mode_of_their_own(self):
        full = facts("full.jpg", long_px=16320, short_px=12240)
        found = phone_from([facts(), facts("b.jpg"), full], date=DAY)
        modes = found.profile.lenses[0].modes
        self.assertEqual([mode.id for mode in modes], ["12-2mp", "200mp"])
        self.assertAlmostEqual(modes[0].pixel_pitch_um / modes[1].pixel_pitch_um, 4.05, places=2)


class Answers(unittest.TestCase):
    def test_what_was_said_is_typed_and_what_was_skipped_stays_assumed(self):
        made = phone_from([facts()], date=DAY).profile
        stated = PhoneAnswers(
            iso_low=100, iso_high=1600, steps="wholes", kelvin_low=2500, slider_high=100, raw_on=[]
        )
        own = answered(made, stated, date=DAY)
        self.assertEqual(own.ladders["by-hand"].iso, [100, 200, 400, 800, 1600])
        self.assertEqual(own.origins["ladders.by-hand.iso"].origin, "typed")
        self.assertEqual(own.white.low_k, 2500)
        lens = own.lenses[0]
        self.assertEqual((lens.focus.slider_low, lens.focus.slider_high), (0, 100))
        self.assertIsNone(lens.modes[0].files.raw_mb)
        # The well at a given ISO stays what it was.
        mode, before = lens.modes[0], made.lenses[0].modes[0]
        self.assertAlmostEqual(
            mode.full_well_e * mode.base_iso, before.full_well_e * before.base_iso
        )
        self.assertEqual(own.origins["lenses.main.stabiliser_stops"].origin, "assumed")
        untouched = answered(made, PhoneAnswers(), date=DAY)
        self.assertEqual(untouched.ladders, made.ladders)

    def test_ends_the_wrong_way_about_are_refused_in_words(self):
        with self.assertRaisesRegex(ValueError, "highest ISO must be above"):
            PhoneAnswers(iso_low=800, iso_high=100)
