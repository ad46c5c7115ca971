"""What can be checked of plain words by a machine, over every string that a person reads."""

import re
import unittest

from tools.words.comments import comments
from tools.words.listing import Shown, listed
from tools.words.python_texts import ROOT

from oxlen.core.decisions.plan import plan
from tests.recorded.answers import SHEETS, any_sheet

OLD_WORDS = (
    r"as they lie|put together|the lighter kept|the darker kept|foretold|not said|not asked|"
    r"goes by|\blet go\b|taken in\b(?! \()|take in\b|dialled otherwise|the band\b|in the hand|"
    r"keep bright|"
    r"keep dark|a long time|let in|turns? white|hang on|the land\b|held against|comes? out\b|"
    r"rule of hand|run list|of glass|dark glass|understood|let it be|it stands|was said|be said"
)
"""Words the guide replaces."""
IN_CODE = re.compile(
    r"as they lie|put together|foretold|goes by|\blet go\b|taken in\b(?! \()|dialled otherwise|"
    r"in the hand|"
    r"\blet in\b|\bturns? white\b|hang on\b(?! strings)|held against|"
    r"rule of hand|run list|of glass|dark glass",
    re.IGNORECASE,
)
"""The same for comments, docstrings and documents, where single words have other uses."""
HIDDEN_SUBJECT = re.compile(
    r"(?<!`)\b(lies|stands (?!so |firm|still|up\b|upright)|stands$|hangs?|hung|"
    r"(?:is|are|was|were|be) (?:told|said)|told apart|(?:not|never) told|nobody said|"
    r"(?:lets|let) (?:go|in)\b|laid on|"
    r"went by|go by|comes to|comes? out|the band|of glass|land's)\b",
    re.IGNORECASE,
)
"""Verbs that hide who does what, and words that the glossary replaces, in comments."""
FOLDERS = {"src": ".py", "tests": ".py", "tools": ".py .mjs", "bench": ".py", "web/src": ".ts .tsx"}
LONG_FOR_A_REASON = (
    "Never look at or aim at the Sun",  # a danger, given whole
    "Without https, others on this network",  # what is at stake, shown before it is chosen
    "there and install the file as a certificate authority",  # steps outside Oxlen
    "The profile is open JSON",  # beside the text it explains
    "stack.id, sheet_id, name",  # columns of a table, nobody reads them
    "gull, heron, seal",  # animals that are recognised, one word each
)
LONG_LABELS = {
    "Foreground under the stars, {}": "the title of a sheet that Oxlen makes",
    "Check what you shot": "the title of a page of the guide",
    "Long exposures and stacks": "the title of a page of the guide",
    "Grey day on the ramp": "the name of a demo scene",
    "Night at the sluice": "the name of a demo scene",
    "e.g. Walkers on the quay": "an example of a name",
    "hazy sun on the creek": "the name somebody gave a light",
    "overcast over the sluice": "the name somebody gave a light",
    "the tea table by the window": "the name somebody gave a light",
    "the thread under the bench lamp": "the name somebody gave a light",
    "the shed wall in the dark": "the name somebody gave a light",
    "e.g. ND 64 or 6 stops": "examples of what may be typed",
    "Subject, what must be sharp, light or dark mood": "examples of what may be typed",
    "metered with a take": "undo's name of an edit",
    "Enter a name first": "why a button is grey",
    "{}, not in your kit": "a phone's name with what is wrong",
    "Let {} of the frame clip": "a way out, a sentence",
    "s until the shot": "the unit of a large figure",
    "pixels of the file": "one of two kinds of pixel",
    "pixels of the output": "one of two kinds of pixel",
}
"""Labels that are longer than three words, each with its reason."""
MOST_SIGNS, MOST_BUTTON_WORDS, MOST_LABEL_WORDS, MOST_REASON_WORDS = 140, 3, 3, 8
OTHERS = {
    "test_words.py",  # the patterns themselves
    "schema.d.ts",  # made from the API's description
}
UNITS = [
    "s",
    "min",
    "EV",
    "K",
    "m",
    "cm",
    "mm",
    "MP",
    "MB",
    "stop",
    "stops",
    "mired",
    "px",
    "h",
    "ISO",
]


def counted(text):
    """Words of a text; what is filled in does not count."""
    return len([word for word in text.replace("{}", " ").split() if re.search(r"\w", word)])


class Words(unittest.TestCase):
    shown: list[Shown]

    @classmethod
    def setUpClass(cls):
        cls.shown = listed()

    def test_the_listing_sees_both_sides(self):
        kinds = {shown.kind for shown in self.shown}
        self.assertLessEqual({"button", "label", "heading", "notice", "error", "read aloud"}, kinds)
        self.assertGreater(len(self.shown), 3500)
        self.assertTrue(any(shown.text == "Unpair all phones" for shown in self.shown))
        self.assertTrue(any("Fixed aperture f/" in shown.text for shown in self.shown))

    def test_the_words_of_the_guide_are_used(self):
        pattern = re.compile(OLD_WORDS, re.IGNORECASE)
        found = [
            f"{shown.place}: {shown.text}" for shown in self.shown if pattern.search(shown.text)
        ]
        self.assertEqual(found, [], "\n".join(found))

    def test_comments_and_documents_use_them_too(self):
        files = [
            path
            for folder, endings in FOLDERS.items()
            for path in (ROOT / folder).rglob("*")
            if path.suffix in endings.split() and path.name not in OTHERS
        ]
        files += [*ROOT.glob("*.md"), *(ROOT / "docs").rglob("*.md")]
        self.assertGreater(len(files), 1000)
        found = [
            f"{path.relative_to(ROOT)}: {line.strip()[:80]}"
            for path in files
            for line in path.read_text("utf-8").splitlines()
            if IN_CODE.search(line)
        ]
        self.assertEqual(found, [], "\n".join(found))

    def test_comments_name_who_does_what(self):
        files = [
            path
            for folder in FOLDERS
            for path in (ROOT / folder).rglob("*")
            if path.suffix in (".py", ".ts", ".tsx") and path.name not in OTHERS
        ]
        found = [
            f"{path.relative_to(ROOT)}: {' '.join(comment.split())[:100]}"
            for path in files
            for comment in comments(path)
            if HIDDEN_SUBJECT.search(comment)
        ]
        self.assertEqual(found, [], "\n".join(found))

    def test_buttons_are_short(self):
        long = [
            f"{shown.place}: {shown.text}"
            for shown in self.shown
            if shown.kind == "button"
            and counted(shown.text) > MOST_BUTTON_WORDS
            and not shown.text.endswith(".")
        ]
        self.assertEqual(long, [])

    def test_labels_are_short(self):
        long = {
            shown.text: shown.place
            for shown in self.shown
            if shown.kind == "label" and counted(shown.text) > MOST_LABEL_WORDS
        }
        self.assertEqual(set(long), set(LONG_LABELS), long)

    def test_reasons_on_the_slip_are_short(self):
        """Over the sheets that are recorded, which ask for anything at random."""
        long, seen = [], set()
        for seed in SHEETS:
            sheet = any_sheet(seed)
            if sheet is None:
                continue
            for line in plan(sheet.brief, ask=False).dialled.settings:
                seen.add(line.field)
                if counted(
                    " ".join(w for w in line.reason.split() if w.strip(",.:") not in UNITS)
                ) > (MOST_REASON_WORDS):
                    long.append(f"{seed} {line.field}: {line.reason}")
        self.assertEqual(long, [])
        self.assertLessEqual({"lens", "iso", "shutter_s", "white", "focus", "format"}, seen)

    def test_sentences_are_short(self):
        long = [
            f"{shown.place}: {shown.text}"
            for shown in self.shown
            if shown.kind in ("text", "button", "label", "heading", "notice", "error", "link")
            and len(shown.text) > MOST_SIGNS
            and not shown.text.startswith(LONG_FOR_A_REASON)
        ]
        self.assertEqual(long, [])


if __name__ == "__main__":
    unittest.main()
