"""What the themes' colours reach against each other, by WCAG 2.2: a table, worked out anew here."""

import re
import unittest
from pathlib import Path

STYLES = Path(__file__).parents[2] / "web/src/app/styles.css"
GROUNDS = ("ground", "panel", "raised", "sunk", "accent-soft")
TEXT = [(ink, on) for ink in ("ink", "ink-soft") for on in GROUNDS]
TEXT += [("on-accent", "accent"), ("on-surround", "surround"), ("accent", "raised")]
PARTS = [("on-surround", "surround"), *(("accent", on) for on in GROUNDS)]
PARTS += [("line-strong", on) for on in GROUNDS[:3]]
"""What must be seen without being read: focus rings, borders of controls."""


def themes():
    """Every theme's colours, with those of the first where it names none of its own."""
    text = STYLES.read_text("utf-8").split("@media print")[0]
    found = {}
    for name, block in re.findall(r'(?::root|\[data-theme="(\w+)"\]) \{(.*?)\}', text, re.DOTALL):
        colours = dict(re.findall(r"--([\w-]+): (#[0-9a-f]{6});", block))
        found[name or "day"] = {**found.get("day", {}), **colours}
    return found


def luminance(colour):
    """Relative luminance of an sRGB colour. WCAG 2.2, definition of relative luminance."""
    shares = [int(colour[at : at + 2], 16) / 255 for at in (1, 3, 5)]
    linear = [s / 12.92 if s <= 0.04045 else ((s + 0.055) / 1.055) ** 2.4 for s in shares]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


def contrast(colour, other):
    """Contrast of two colours, 1 to 21."""
    dark, light = sorted((luminance(colour), luminance(other)))
    return (light + 0.05) / (dark + 0.05)


class Contrast(unittest.TestCase):
    def test_black_on_white_and_a_published_grey(self):
        self.assertAlmostEqual(contrast("#000000", "#ffffff"), 21.0)
        self.assertAlmostEqual(contrast("#767676", "#ffffff"), 4.54, places=2)

    def test_words_reach_4_5_and_parts_3_in_every_theme(self):
        found = themes()
        self.assertEqual(set(found), {"day", "sun", "night"})
        for theme, colours in found.items():
            for pairs, least in ((TEXT, 4.5), (PARTS, 3.0)):
                for ink, on in pairs:
                    with self.subTest(theme=theme, ink=ink, on=on):
                        self.assertGreaterEqual(contrast(colours[ink], colours[on]), least)

    def test_greys_beside_pictures_are_neutral_by_day(self):
        for theme in ("day", "sun"):
            colours = themes()[theme]
            for name in ("ground", "panel", "raised", "sunk", "surround", "line", "line-strong"):
                with self.subTest(theme=theme, name=name):
                    self.assertEqual(len(set(re.findall("..", colours[name][1:]))), 1)

    def test_text_grows_with_the_size_that_the_reader_has_set(self):
        size = re.search(
            r"html \{.*?font-size: calc\(([\d.]+)(\S+) ", STYLES.read_text(), re.DOTALL
        )
        self.assertEqual(size[2], "%")
        self.assertGreaterEqual(float(size[1]), 90)
