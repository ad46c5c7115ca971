"""Requests made up from the API's own description: no 5xx, and no answer it does not name."""

import os
import random
import re
import shutil
import tempfile
import time
import unittest
from collections import Counter
from contextlib import suppress
from pathlib import Path

import httpx
import schemathesis
from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis.errors import Unsatisfiable
from schemathesis.checks import not_a_server_error
from schemathesis.generation import GenerationMode
from schemathesis.specs.openapi.checks import content_type_conformance, status_code_conformance

from tests.browser.app_in_browser import Server, demo_library
from tests.counts import LONG, seeds

EXAMPLES = len(seeds(4, 20))
FRESH = random.SystemRandom().randrange(2**32) if os.environ.get(LONG) else 20_261_201
SEED = int(os.environ.get("OXLEN_TEST_SEED", FRESH))
"""Fresh in every long run; the one of a failure is printed, to be set again."""
SLOW_S = 5.0
IS_LONG = re.compile(r"/(imports|news|logbook/file|outing-files|stacks)\b|/card\.(html|pdf)|bench")
"""Work that is declared long: told as it goes, a stream, or made for a whole outing."""
CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance]


class AnyRequest(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        root = Path(tempfile.mkdtemp())
        cls.addClassCleanup(shutil.rmtree, root)
        demo_library(root / "data")
        cls.server = Server(root / "data")
        cls.addClassCleanup(cls.server.stop)
        # The first answer takes a busy machine longer than the loader below waits.
        httpx.get(f"{cls.server.url}/api/openapi.json", timeout=120)
        cls.schema = schemathesis.openapi.from_url(f"{cls.server.url}/api/openapi.json")

    def test_every_answer_is_one_the_description_names(self):
        asked, slow = 0, []
        for found in self.schema.get_all_operations():
            operation = found.ok()
            for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE):
                with self.subTest(operation.label, mode=mode.name, seed=SEED):
                    asked += self.ask(operation, mode, slow)
        self.assertGreater(asked, 300)
        # A busy machine is slow now and then: an operation is only if it is again and again.
        often = Counter(label for label, _ in slow)
        self.assertEqual([label for label, times in often.items() if times > 2], [], slow)

    def ask(self, operation, mode, slow):
        """Requests of one kind to one operation, slow answers noted; how many were made."""
        count = 0

        @seed(SEED)
        @settings(
            max_examples=EXAMPLES,
            deadline=None,
            database=None,
            phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )
        @given(case=operation.as_strategy(generation_mode=mode))
        def one(case):
            nonlocal count
            count += 1
            began = time.monotonic()
            case.call_and_validate(checks=CHECKS)
            took_s = time.monotonic() - began
            if took_s > SLOW_S and not IS_LONG.search(operation.label):
                slow.append((operation.label, took_s))

        # Where nothing is asked for, nothing can be asked wrongly.
        with suppress(Unsatisfiable):
            one()
        return count
