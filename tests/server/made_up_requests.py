"""Requests made up from the API's own description, by a seed, within a time."""

from __future__ import annotations

import os
import random
import re
import time
from collections import Counter
from collections.abc import Callable, Iterator
from contextlib import suppress
from dataclasses import dataclass, field
from typing import Any

import httpx
import schemathesis
from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis.errors import Unsatisfiable
from schemathesis.generation import GenerationMode

SEED = int(os.environ.get("OXLEN_TEST_SEED", random.SystemRandom().randrange(2**32)))
"""Fresh in every run; the one of a failure is printed, to be set again."""
SLOW_S = 5.0
NO_ANSWER_S = 120.0
"""After which a request counts as never answered; a busy machine may take a while."""
IS_LONG = re.compile(
    r"/(imports|changes|logbook/file|outing-files|stacks)\b|/card\.(html|pdf)|bench"
)
"""Work that is declared long: reported as it goes, a stream, or made for a whole outing."""
MODES = (GenerationMode.POSITIVE, GenerationMode.NEGATIVE)


@dataclass
class Asker:
    """Makes requests to each operation, valid ones and invalid ones, and checks every answer.

    `each` of either kind; once `budget_s` is used up, `least` for the operations that are left.
    """

    url: str
    checks: list[Callable[..., Any]]
    each: int
    least: int
    budget_s: float
    asked: int = 0
    slow: list[str] = field(default_factory=list)

    def operations(self) -> Iterator[tuple[Any, GenerationMode]]:
        """Every operation twice, in an order of the seed's: each comes early in some runs."""
        # The first answer takes a busy machine longer than the loader below waits.
        httpx.get(f"{self.url}/api/openapi.json", timeout=120)
        schema = schemathesis.openapi.from_url(f"{self.url}/api/openapi.json")
        found = [
            (operation.ok(), mode) for operation in schema.get_all_operations() for mode in MODES
        ]
        random.Random(SEED).shuffle(found)
        self._until_s = time.monotonic() + self.budget_s
        yield from found

    def ask(self, operation: Any, mode: GenerationMode) -> None:
        """Requests of one kind to one operation; a failed check is raised with its request."""
        count = self.each if time.monotonic() < self._until_s else self.least

        @seed(SEED)
        @settings(
            max_examples=count,
            deadline=None,
            database=None,
            phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )
        @given(case=operation.as_strategy(generation_mode=mode))
        def requested(case: Any) -> None:
            self.asked += 1
            began = time.monotonic()
            case.call_and_validate(checks=self.checks, timeout=NO_ANSWER_S)
            if time.monotonic() - began > SLOW_S and not IS_LONG.search(operation.label):
                self.slow.append(operation.label)

        # Where nothing is asked for, nothing can be asked wrongly.
        with suppress(Unsatisfiable):
            requested()

    def often_slow(self) -> list[str]:
        """Operations slow again and again: a busy machine makes any slow now and then."""
        return [label for label, times in Counter(self.slow).items() if times > 2]
