"""Two edits of one sheet: what only one changed is taken, what both changed is named."""

import unittest

from oxlen.core.errors import BadInput
from oxlen.formats.sheet.file import SheetBody, SpotBody
from oxlen.formats.sheet.merge import merge_sheets, take_mine
from oxlen.views.merged import merged_view

SKY = SpotBody(id="sky", name="Bright cloud", role="keep-bright", x=0.5, y=0.1)
HULL = SpotBody(id="hull", name="Tarred planks", x=0.4, y=0.6)
BEFORE = SheetBody(title="Sluice", spots=[SKY, HULL])


def changed(**fields):
    """The sheet with other fields."""
    return BEFORE.model_copy(update=fields)


def view(mine, theirs, keep_mine=()):
    """Both merged."""
    return merged_view(BEFORE, mine, theirs=theirs, version=7, keep_mine=list(keep_mine))


class Merging(unittest.TestCase):
    def test_what_only_one_changed_is_taken_down_to_the_fields_of_a_spot(self):
        mine = changed(title="Sluice at dusk", spots=[SKY, HULL.model_copy(update={"x": 0.3})])
        theirs = changed(
            support="tripod",
            spots=[SKY, HULL.model_copy(update={"place": -2.0}), SpotBody(id="new", x=0.9, y=0.9)],
        )
        found = view(mine, theirs)
        self.assertEqual(found.clashes, [])
        self.assertEqual((found.version, found.body.title), (7, "Sluice at dusk"))
        self.assertEqual(found.body.asked()["support"], "tripod")
        self.assertEqual([spot.id for spot in found.body.spots], ["sky", "hull", "new"])
        hull = found.body.spots[1]
        self.assertEqual((hull.x, hull.place), (0.3, -2.0))

    def test_the_same_change_twice_is_no_clash_and_what_one_took_out_stays_out(self):
        mine = changed(title="Dusk", spots=[HULL])
        found = view(mine, changed(title="Dusk", support="tripod"))
        self.assertEqual(found.clashes, [])
        self.assertEqual([spot.id for spot in found.body.spots], ["hull"])

    def test_a_clash_is_told_in_words_and_settled_one_by_one(self):
        mine = changed(title="Mine", support="tripod", spots=[SKY])
        theirs = changed(
            title="Theirs", support="braced", spots=[SKY, HULL.model_copy(update={"x": 0.1})]
        )
        found = view(mine, theirs)
        self.assertEqual(
            [(clash.name, clash.mine, clash.theirs) for clash in found.clashes],
            [
                ("Title", "Mine", "Theirs"),
                ("Spots, “Tarred planks”", "nothing", "Tarred planks"),
                ("Support", "tripod", "braced"),
            ],
        )
        self.assertEqual((found.body.title, len(found.body.spots)), ("Theirs", 2))
        settled = view(mine, theirs, [("spots", "hull"), ("support",)]).body
        self.assertEqual((settled.title, settled.asked()["support"]), ("Theirs", "tripod"))
        self.assertEqual([spot.id for spot in settled.spots], ["sky"])

    def test_what_cannot_both_hold_is_refused_in_words(self):
        spots = [SpotBody(id=f"s{k}", x=0.1, y=0.1) for k in range(40)]
        mine = changed(spots=[*spots[:20], SKY, HULL][:40])
        theirs = changed(
            spots=[SKY, HULL, *spots[20:], *(SpotBody(id=f"t{k}", x=0.1, y=0.1) for k in range(18))]
        )
        with self.assertRaisesRegex(BadInput, "contradict each other"):
            view(mine, theirs)

    def test_deep_places_are_found_again(self):
        before = {"light": {"sky": {"ev": 1}}, "list": [{"id": "a", "n": 1}]}
        mine = {"light": {"sky": {"ev": 2}}, "list": [{"id": "a", "n": 2}]}
        theirs = {"light": {"sky": {"ev": 3}}, "list": [{"id": "a", "n": 3}]}
        merged = merge_sheets(before, mine, theirs)
        self.assertEqual(
            [clash.path for clash in merged.clashes], [("light", "sky", "ev"), ("list", "a", "n")]
        )
        self.assertEqual(take_mine(merged.body, merged.clashes), mine)


if __name__ == "__main__":
    unittest.main()
