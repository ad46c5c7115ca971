"""Whether a slider's scale should be measured again: it is old, or the phone was updated."""

from __future__ import annotations

from datetime import date

from oxlen.core.kit.focus_drive import NamedScale

RECHECK_AFTER_DAYS = 365


def recheck_words(named: NamedScale, today: date, software: str = "") -> str:
    """Why a point of the scale should be checked again; empty while there is no reason to.

    `software` is what the phone's pictures say it runs on now.
    """
    dates = sorted(point.date for point in named.scale.points if point.date)
    if software and named.software and software != named.software:
        return (
            f"Measured with software {named.software}. The phone now has {software}. Check one "
            "point first."
        )
    if dates and (today - date.fromisoformat(dates[0])).days > RECHECK_AFTER_DAYS:
        return f"Measured on {dates[0]}, more than a year ago. Check one point again."
    return ""
