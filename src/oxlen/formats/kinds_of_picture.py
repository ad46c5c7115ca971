"""What kind of picture a sheet is, in the words a logbook is searched by."""

from __future__ import annotations

from oxlen.core.decisions.exposure.ask import CLOSEUP, DRAWING, LAMPS, LOOKS, MOTION, SKY
from oxlen.formats.sheet.file import SheetBody

KINDS = {
    "drawing": "lamp drawing",
    "stars": "night sky",
    "water": "moving water",
    "moving": "motion",
    "close": "close-up",
    "lamp": "lamp light",
    "still": "still subject",
}


def kind_of_picture(body: SheetBody) -> str:
    """The kind that decides a sheet's settings most, one of `KINDS`.

    >>> kind_of_picture(SheetBody())
    'still'
    """
    asked = body.asked()
    reported = {
        "drawing": asked[DRAWING.name] is not None,
        "stars": asked[SKY.name] is not None,
        "water": bool(asked[LOOKS.name]),
        "moving": bool(asked[MOTION.name]),
        "close": asked[CLOSEUP.name] is not None,
        "lamp": asked[LAMPS.name] is not None,
    }
    return next((kind for kind, applies in reported.items() if applies), "still")
