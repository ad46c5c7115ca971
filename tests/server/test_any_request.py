"""Requests made up from the API's own description: no 5xx, and no answer it does not name."""

import shutil
import tempfile
import unittest
from contextlib import suppress
from pathlib import Path

import httpx
import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis.errors import Unsatisfiable
from schemathesis.checks import not_a_server_error
from schemathesis.generation import GenerationMode
from schemathesis.specs.openapi.checks import content_type_conformance, status_code_conformance

from tests.browser.app_in_browser import Server, demo_library
from tests.counts import seeds

EXAMPLES = len(seeds(1, 5))
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
        asked = 0
        for found in self.schema.get_all_operations():
            operation = found.ok()
            for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE):
                with self.subTest(operation.label, mode=mode.name):
                    asked += self.ask(operation, mode)
        self.assertGreater(asked, 150)

    def ask(self, operation, mode):
        """Requests of one kind to one operation; how many were made."""
        count = 0

        @settings(
            max_examples=EXAMPLES,
            deadline=None,
            database=None,
            derandomize=True,
            phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )
        @given(case=operation.as_strategy(generation_mode=mode))
        def one(case):
            nonlocal count
            count += 1
            case.call_and_validate(checks=CHECKS)

        # Where nothing is asked for, nothing can be asked wrongly.
        with suppress(Unsatisfiable):
            one()
        return count
