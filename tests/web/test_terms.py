"""Words of the glossary in sentences: each is found where it first occurs, and only as a word."""

import json
import re
import unittest
from pathlib import Path

from tests.web.modules import called

HELP = Path(__file__).parents[2] / "web" / "src" / "features" / "help"
PAGES = {"outing", "sheet", "slip", "spot", "take", "kit"}
"""Places of the app: each has a page or a part by that name, whose help explains it."""


def marked(*sentences):
    """Each sentence with its terms in brackets and their entries."""
    found = called("features/help/terms.ts", "partsOf", [[sentence] for sentence in sentences])
    return [
        "".join(f"[{part['id']}:{part['text']}]" if "id" in part else part["text"] for part in each)
        for each in found
    ]


class Terms(unittest.TestCase):
    def test_the_first_of_each_word_is_marked_and_the_sentence_stays_whole(self):
        self.assertEqual(
            marked("SNR 33, noisier: SNR 20 at −2.0 stops", "Amid a stack of ND 64 and ND 8"),
            [
                "[snr:SNR] 33, noisier: SNR 20 at −2.0 [stop:stops]",
                "Amid a [stack:stack] of [nd:ND] 64 and ND 8",
            ],
        )

    def test_parts_of_other_words_are_not_marked(self):
        plain = ["stopper, midday, eclipse, 20mireds", "two-stop, mid-grey, evening, rawness"]
        self.assertEqual(marked(*plain), plain)

    def test_every_word_that_is_no_page_is_marked_and_every_mark_has_an_entry(self):
        entries = set(re.findall(r'\bid: "([\w-]+)"', (HELP / "words.ts").read_text()))
        written = re.findall(r'^  \["([\w-]+)", ("[^"]+")\]', (HELP / "terms.ts").read_text(), re.M)
        self.assertEqual({name for name, _ in written}, entries - PAGES)
        self.assertTrue(all(json.loads(pattern) for _, pattern in written))
