"""`./oxlen bench`: all figures, each beside what it should be at most."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Mapping

from bench import (
    corrections,
    deciding,
    dry_running,
    first_take,
    live,
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
    shop_series,
    shop_work,
    stacks,
    surviving,
    takes,
    trails,
)
from bench.harness.page import PAGE, page
from bench.harness.results import Module, results

MODULES: Mapping[str, Module] = {
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
    "shop-series": shop_series,
    "shop-work": shop_work,
    "stacks": stacks,
    "surviving": surviving,
    "takes": takes,
    "corrections": corrections,
    "live": live,
    "logbook": logbook,
    "long-times": long_times,
    "nights": nights,
    "trails": trails,
}


def main() -> int:
    """Print every figure; the exit code is 1 when one is over or a module failed.

    What cannot be measured on a busy machine is reported as noisy, and not judged.
    """
    parser = argparse.ArgumentParser(prog="oxlen bench", description=__doc__)
    parser.add_argument("names", nargs="*", metavar="NAME", help="modules to run; all by default")
    parser.add_argument("--list", action="store_true", help="the names of all modules")
    parser.add_argument("--page", action="store_true", help="write them to docs/PERFORMANCE.md")
    parser.add_argument("--json", action="store_true", help="the figures as a JSON list")
    asked = parser.parse_args()
    unknown = sorted(set(asked.names) - set(MODULES))
    if unknown:
        parser.error(f"there is no {', '.join(unknown)}; --list has all names")
    if asked.list:
        print(*MODULES, sep="\n")
        return 0
    found = []
    for result in results(MODULES, asked.names or MODULES):
        found.append(result)
        if not asked.json:
            print(result.words, flush=True)
    if asked.json:
        print(json.dumps([vars(outcome) for outcome in found], indent=1))
    if asked.page:
        PAGE.write_text(page(found, PAGE.read_text("utf-8") if PAGE.exists() else ""), "utf-8")
    return int(any(outcome.state in ("over", "failed") for outcome in found))


if __name__ == "__main__":
    sys.exit(main())
