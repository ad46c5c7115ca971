"""`./oxlen bench`: all figures, each beside what it should be at most."""

from __future__ import annotations

import sys

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


def main() -> int:
    """Print every figure; the exit code is 1 when one is over."""
    over = 0
    for name in sys.argv[1:] or MODULES:
        for words, measured, most in MODULES[name].figures():
            over += measured > most
            mark = "over" if measured > most else "ok"
            print(f"{mark:>4}  {measured:8.2f}  (at most {most:g})  {words}", flush=True)
    return 1 if over else 0


if __name__ == "__main__":
    sys.exit(main())
