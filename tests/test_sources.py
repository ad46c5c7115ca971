"""Formulas say what they take and give, and where they and their constants come from."""

import ast
import re
import unittest

from oxlen.core.compute.registry import COMPUTATIONS
from tests.test_promises import KEY, SOURCE, modules


class Formulas(unittest.TestCase):
    """Numeric functions of the core say unit, range, source and an example that runs."""

    def test_most_of_them_say_all_four(self):
        reported = [(name, missing(doc)) for name, doc in numeric_functions()]
        silent = {name: parts for name, parts in reported if parts}
        self.assertGreater(len(reported), 60)
        self.assertEqual(silent, {})

    def test_only_definitions_are_by_definition(self):
        stated = {name for name, doc in numeric_functions() if re.search(r"definition", doc)}
        self.assertEqual(stated - DEFINITIONS, set())
        self.assertEqual(DEFINITIONS - stated, set(), "no longer said to be one")
        rules = [entry for entry in COMPUTATIONS.values() if THUMB.search(entry.source)]
        self.assertEqual([entry.id for entry in rules if not is_sourced(entry.source)], [])
        defined = {entry.id for entry in COMPUTATIONS.values() if "definition" in entry.source}
        self.assertEqual(defined, {"mired", "picture_warmth", "combine_modes"})

    def test_constants_of_formulas_say_where_they_come_from(self):
        found = list(constants())
        silent = [name for name, note in found if not (is_sourced(note) or EXACT.search(note))]
        self.assertGreater(len(found), 100)
        self.assertEqual(silent, [])


def numeric_functions():
    """Public functions of the core's formulas that give numbers."""
    for domain in FORMULA_DOMAINS:
        for path, tree in modules(SOURCE / "core" / domain):
            for node in tree.body:
                is_public = isinstance(node, ast.FunctionDef) and not node.name.startswith("_")
                if is_public and NUMERIC.search(ast.unparse(node.returns)):
                    doc = ast.get_docstring(node) or ""
                    yield f"{path.stem}.{node.name}", " ".join(doc.split())


def constants():
    """Names of the numbers with a fraction that formulas use, and the note under each."""
    for domain in FORMULA_DOMAINS:
        for path, tree in modules(SOURCE / "core" / domain):
            for node, after in zip(tree.body, [*tree.body[1:], None], strict=True):
                if isinstance(node, ast.Assign | ast.AnnAssign) and has_fraction(node.value):
                    name = ast.unparse(getattr(node, "target", None) or node.targets[0])
                    is_note = isinstance(after, ast.Expr) and isinstance(after.value, ast.Constant)
                    note = str(after.value.value) if is_note else ""
                    yield f"{path.stem}.{name}", " ".join(note.split())


def has_fraction(value):
    numbers = (node.value for node in ast.walk(value) if isinstance(node, ast.Constant))
    return any(isinstance(number, float) for number in numbers)


# A unit, a scale or a term defined as just this; whatever else has a source or a derivation.
DEFINITIONS = {
    *("meter.channel_stops", "meter.percentiles", "patterns.tone_above", "placement.placed_ev100"),
    *("tone.stops_from_mid", "tone.highest_channel", "drawing.background_stops"),
    *("adaptation.xyz_of", "adaptation.xy_of", "ladder.widest_gap_stops"),
    *("temperature.mired", "temperature.kelvin", "temperature.picture_warmth_mired"),
    *("place.altitude_deg", "place.bearing_deg", "place.between_deg"),
    *("brightness.sky_luminance_cd_m2", "brightness.magnitude_of"),
}
EXACT = re.compile(r"Exact|Own choice|Measured")
FORMULA_DOMAINS = ("light", "colour", "sensor", "hold", "motion", "lens", "focus", "kit", "sky")
NUMERIC = re.compile(r"\b(Real|float|NDArray|int)\b")
UNITS = re.compile(
    r"\b(stops?|s|mm|m|m/s|µm|lx|lux|cd/m²|EV100|ISO|px|K|e⁻|DN|degrees|shares?|no unit|electrons?"
    r"|°|Hz|MB|ratio|f-number|chance|contrast|density|dioptres|mired|chromaticity|XYZ)\b|[°µ²]"
)
RANGE = re.compile(
    r"positive|OutOfRange|between|0\.\.1|0 to 1|at least|at most|inside|above|under|−inf"
    r"|finite|more than|BadInput|from −90 to 90"
)
DERIVED = re.compile(r"Derived[ :]|By geometry|by counting|Own choice: \w+")
THUMB = re.compile(r"[Rr]ule of thumb")
HOW_FAR_OFF = re.compile(r"(from|for) [\s\S]*off by|off by up to|its ±")


def is_sourced(doc):
    """Whether a published source, a derivation, or how far a rule of thumb is off is stated."""
    if THUMB.search(doc):
        return bool(HOW_FAR_OFF.search(doc))
    return bool(KEY.search(doc) or DERIVED.search(doc))


def missing(doc):
    """Which of unit, range, source and example a docstring lacks."""
    source = is_sourced(doc) or "By definition" in doc
    checks = {"unit": UNITS.search(doc), "range": RANGE.search(doc), "source": source}
    checks["example"] = ">>>" in doc
    return [name for name, found in checks.items() if not found]
