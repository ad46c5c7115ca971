"""Takes by hand that were looked over, for what all takes say together."""

import json

import numpy as np

from oxlen.core.hold.burst import share_sharp


def shot_by_hand(library, sheet_id, count, *, stops, off=0.3, state="kept"):
    """So many takes of a sheet, by a hand that holds so many stops over the rule."""
    draw = np.random.default_rng(1)
    with library.writer() as connection:
        for number in range(count):
            past = draw.uniform(-3, 3)
            sharp = bool(draw.random() < share_sharp(past))
            settings = {"shutter_s": 2.0 ** (stops + past) / 24, "focal35_mm": 24.0, "iso": 100}
            finding = {
                "phone": "wherry-3",
                "support": "handheld",
                "blur": "none" if sharp else "shake",
                "change": "nothing" if sharp else "steady",
                "light": "as_planned",
                "off": [[off + draw.normal(0, 0.1), 0.6]],
                "snr": 30.0,
                "chance": 0.8,
            }
            sha256 = f"{number:064x}"
            connection.execute(
                "INSERT INTO picture VALUES (?, 'a.jpg', 1, '{}', '2026')", (sha256,)
            )
            connection.execute(
                "INSERT INTO take (sheet_id, sha256, shot_on, settings, state, added_at,"
                " finding) VALUES (?, ?, 'slip', ?, ?, '2026-10-03', ?)",
                (sheet_id, sha256, json.dumps(settings), state, json.dumps(finding)),
            )
