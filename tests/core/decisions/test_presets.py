"""Shipped presets are met on both phones over the light they are for, or say what they need."""

import unittest

import numpy as np

from oxlen.core.decisions.plan import plan
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.plan.brief import BriefFile
from oxlen.formats.sheet.shipped_presets import shipped_presets

PLACES = {"bright-ground": 1.7, "dark-ground": -2.0}
BEHIND = {"silhouette": 4.0, "grey-daylight": 2.0}
"""How much brighter the sky is that these are about."""


def planned(preset, phone, ev100):
    """The plan of a preset for a subject in a light."""
    readings = [{"role": "subject", "ev100": ev100, "place": PLACES.get(preset.id)}]
    if preset.id in BEHIND:
        readings.append({"role": "keep-bright", "ev100": ev100 + BEHIND[preset.id]})
    choices = preset.choices.model_dump(exclude_unset=True)
    brief = BriefFile(phone=phone, readings=readings, **choices)
    return plan(brief.to_brief(shipped_profile))


class Presets(unittest.TestCase):
    def test_each_is_met_over_its_light_or_says_what_it_needs(self):
        for preset in shipped_presets():
            low, high = preset.light_ev100
            for phone in ("wherry-3", "dabber"):
                for ev100 in np.arange(low, high + 0.1, 0.5):
                    found = planned(preset, phone, float(ev100))
                    with self.subTest(preset.id, phone=phone, ev100=ev100):
                        if found.conflict is None:
                            continue
                        self.assertTrue(preset.needs, found.conflict.sentence)
                        self.assertTrue(found.trades, found.conflict.sentence)

    def test_what_needs_nothing_more_is_not_said_to(self):
        for preset in shipped_presets():
            if not preset.needs:
                continue
            low, high = preset.light_ev100
            found = [planned(preset, "dabber", float(e)) for e in np.arange(low, high + 0.1, 0.5)]
            with self.subTest(preset.id):
                self.assertTrue(any(item.conflict for item in found) or preset.id == "rider-panned")


if __name__ == "__main__":
    unittest.main()
