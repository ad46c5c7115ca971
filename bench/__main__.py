"""`./oxlen bench`: all figures, each beside what it should be at most."""

from __future__ import annotations

import argparse
import json
import sys
import traceback
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Literal

from bench import (
    corrections,
    deciding,
    dry_running,
    first_take,
    loading,
    logbook,
    long_times,
    many,
    meanwhile,
    nights,
    own_phone,
    phone_page,
    reading,
    sharpness,
    stacks,
    surviving,
    takes,
    trails,
)

MODULES = {
    "reading": reading,
    "deciding": deciding,
    "loading": loading,
    "dry": dry_running,
    "first-take": first_take,
    "many": many,
    "meanwhile": meanwhile,
    "own-phone": own_phone,
    "phone-page": phone_page,
    "sharpness": sharpness,
    "stacks": stacks,
    "surviving": surviving,
    "takes": takes,
    "corrections": corrections,
    "logbook": logbook,
    "long-times": long_times,
    "nights": nights,
    "trails": trails,
}


@dataclass(frozen=True)
class Result:
    """A figure beside its bound, or a module that could not be run."""

    name: str
    ratio: float | None
    bound: float | None
    state: Literal["ok", "over", "failed"]
    why: str = ""

    @property
    def words(self) -> str:
        """As a line for people."""
        if self.state == "failed":
            return f"failed  {self.name}: {self.why}"
        return f"{self.state:>6}  {self.ratio:8.2f}  (at most {self.bound:g})  {self.name}"


def results(names: Iterable[str]) -> Iterator[Result]:
    """Every figure of some modules; one that fails does not keep the others from running."""
    for name in names:
        try:
            for words, measured, most in MODULES[name].figures():
                state: Literal["ok", "over"] = "over" if measured > most else "ok"
                yield Result(words, measured, most, state)
        except Exception as error:
            traceback.print_exc()
            yield Result(name, None, None, "failed", f"{type(error).__name__}: {error}")


def main() -> int:
    """Print every figure; the exit code is 1 when one is over or a module failed."""
    parser = argparse.ArgumentParser(prog="oxlen bench", description=__doc__)
    parser.add_argument("names", nargs="*", metavar="NAME", help="modules to run; all by default")
    parser.add_argument("--list", action="store_true", help="the names of all modules")
    parser.add_argument("--json", action="store_true", help="the figures as a JSON list")
    asked = parser.parse_args()
    unknown = sorted(set(asked.names) - set(MODULES))
    if unknown:
        parser.error(f"there is no {', '.join(unknown)}; --list has all names")
    if asked.list:
        print(*MODULES, sep="\n")
        return 0
    found = []
    for one in results(asked.names or MODULES):
        found.append(one)
        if not asked.json:
            print(one.words, flush=True)
    if asked.json:
        print(json.dumps([vars(one) for one in found], indent=1))
    return int(any(one.state != "ok" for one in found))


if __name__ == "__main__":
    sys.exit(main())
