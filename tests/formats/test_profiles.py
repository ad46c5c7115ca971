"""Phone profiles and briefs as files: what is refused, in which words; what stays the same."""

import copy
import unittest

from oxlen.core.errors import BadInput, NotFound
from oxlen.core.labels import ev_label, signed, stops_label
from oxlen.formats.json_text import parse_json
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.phone.shipped import shipped_profile, shipped_profiles
from oxlen.formats.plan.brief import EXAMPLE_BRIEF, BriefFile
from oxlen.formats.refusal import parse_model
from oxlen.formats.sheet.file import EXAMPLE_SHEET, SheetBody


def changed(path, value):
    """The older shipped profile as data with one field changed; path is keys and indices."""
    data = copy.deepcopy(shipped_profile("dabber").model_dump(mode="json"))
    part = data
    for key in path[:-1]:
        part = part[key]
    part[path[-1]] = value
    return data


class Profiles(unittest.TestCase):
    def test_every_wrong_field_is_named(self):
        lens = ("lenses", 0)
        mode = (*lens, "modes", 0)
        rows = [
            (("format",), "oxlen-phone/9", "format"),
            (("id",), "Has Spaces", "id"),
            (("name",), "", "name"),
            (("meter_offset_stops",), 40, "meter_offset_stops"),
            (("ladders", "by-hand", "iso"), [], "ladders.by-hand.iso"),
            (("ladders", "by-hand", "iso"), [100, 100], "steps must increase"),
            (("ladders", "by-hand", "shutter_s"), [-1, 2], "ladders.by-hand.shutter_s.0"),
            ((*lens, "f_number"), 0.1, "lenses.0.f_number"),
            ((*lens, "focal_mm"), "wide", "lenses.0.focal_mm"),
            ((*lens, "focal_mm"), float("inf"), "lenses.0.focal_mm"),
            ((*lens, "modes"), [], "lenses.0.modes"),
            ((*mode, "width_px"), 1, "width_px"),
            ((*mode, "full_well_e"), 0, "full_well_e"),
            ((*mode, "prnu_share"), 0.9, "prnu_share"),
            ((*mode, "read_noise_e"), [[200, 2], [100, 3]], "ISO ascending"),
            ((*mode, "headroom_stops"), {"raw": 3}, "processed is missing"),
            ((*mode, "manual"), "lost", "names a ladder lost"),
            (("lenses",), [], "lenses"),
            (("glow",), 1, "unknown field glow"),
        ]
        for path, value, words in rows:
            with self.subTest(words), self.assertRaisesRegex(BadInput, words):
                parse_model(PhoneProfile, changed(path, value), "The profile")

    def test_lenses_and_modes_are_named_once(self):
        data = shipped_profile("dabber").model_dump(mode="json")
        data["lenses"] = data["lenses"] * 2
        with self.assertRaisesRegex(BadInput, "lens main is named twice"):
            parse_model(PhoneProfile, data, "The profile")

    def test_a_profile_survives_its_json(self):
        for profile in shipped_profiles().values():
            self.assertEqual(PhoneProfile.model_validate_json(profile.model_dump_json()), profile)
            self.assertEqual(profile.to_phone().lenses[0].f_number, profile.lenses[0].f_number)

    def test_unknown_phone_says_which_there_are(self):
        with self.assertRaisesRegex(NotFound, "wherry-3, dabber"):
            shipped_profile("skiff")

    def test_many_faults_are_listed_but_not_without_end(self):
        with self.assertRaises(BadInput) as caught:
            parse_model(PhoneProfile, {f"x{n}": n for n in range(50)}, "The profile")
        self.assertLess(len(caught.exception.message), 400)
        self.assertGreater(len(caught.exception.details["problems"]), 40)


class Briefs(unittest.TestCase):
    def test_published_examples_hold(self):
        brief = parse_model(BriefFile, EXAMPLE_BRIEF, "The brief").to_brief(shipped_profile)
        self.assertEqual(brief.readings[0].place_stops, -2)
        self.assertEqual(brief.lens.id, "main")
        self.assertEqual(parse_model(SheetBody, EXAMPLE_SHEET, "The sheet").phone, "wherry-3")

    def test_roles_with_underscores_are_understood(self):
        data = {**EXAMPLE_BRIEF, "readings": [{"role": "keep_dark", "ev100": 1}]}
        self.assertEqual(parse_model(BriefFile, data, "The brief").readings[0].role, "keep-dark")

    def test_refusals_name_the_field(self):
        rows = [
            ({"support": "balloon"}, "support"),
            ({"strategy": {"iso": "roof"}}, "strategy.iso"),
            ({"strategy": {"iso_cap": 0}}, "strategy.iso_cap"),
            ({"format": "film"}, "format"),
            ({"readings": [{"role": "subject", "ev100": 99}]}, "readings.0.ev100"),
            ({"readings": [{"role": "subject", "ev100": 5, "place": 30}]}, "readings.0.place"),
            ({"phone": 7}, "phone"),
        ]
        for part, words in rows:
            with self.subTest(words), self.assertRaisesRegex(BadInput, words):
                parse_model(BriefFile, {**EXAMPLE_BRIEF, **part}, "The brief")

    def test_json_that_is_none(self):
        for text in ("", "{", "[1,", "nope", "{'a': 1}"):
            with self.subTest(text), self.assertRaisesRegex(BadInput, "The brief is not JSON"):
                parse_json(text, "The brief")


class Words(unittest.TestCase):
    def test_numbers_carry_sign_and_true_minus(self):
        rows = [
            (signed, (1.04, -0.96, 0.04, -0.04), ["+1.0", "−1.0", "0.0", "0.0"]),
            (ev_label, (12.34, -0.04, -3), ["EV 12.3", "EV 0.0", "EV −3.0"]),
            (stops_label, (0.5, -1, 2.25), ["0.5 stop", "1.0 stop", "2.3 stops"]),
        ]
        for label, values, words in rows:
            self.assertEqual([label(value) for value in values], words)
