"""Numbers as photographers say them: 1/250 s, 0.6 s, 2 min; a true minus sign.

The front end writes the same values by web/src/ui/numbers.ts; tests/reference/number_cases.json
holds both to one table.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from decimal import ROUND_HALF_UP, Decimal

MINUS = "−"


def shutter_label(shutter_s: float) -> str:
    """A shutter time as people say it.

    >>> shutter_label(0.004), shutter_label(0.6), shutter_label(120)
    ('1/250 s', '0.6 s', '2 min')
    """
    if shutter_s >= 60:
        minutes, seconds = divmod(round(shutter_s), 60)
        return f"{minutes} min" + (f" {seconds} s" if seconds else "")
    if shutter_s >= 0.29 and abs(shutter_s - 1 / 3) > 0.002:
        return f"{shutter_s:.2g} s" if shutter_s < 10 else f"{shutter_s:.0f} s"
    denominator = 1 / shutter_s
    rounded = round(denominator, 0 if denominator >= 10 else 1)
    return f"1/{rounded:g} s"


def time_label(time_s: float) -> str:
    """A time that is no step of a phone, to two digits, so that it does not pass for one.

    >>> time_label(1 / 952), time_label(0.2571), time_label(1 / 3), time_label(88)
    ('1/950 s', '0.26 s', '1/3 s', '1 min 28 s')
    """
    if time_s == 0:
        return "0 s"
    denominator = 1 / time_s
    if time_s < 0.1:
        return f"1/{two_digits(denominator)} s"
    is_fraction = abs(denominator - round(denominator)) < 0.01
    return shutter_label(time_s) if is_fraction or time_s >= 10 else f"{two_digits(time_s)} s"


def steps_label(iso: float, shutter_s: float) -> str:
    """A pair of steps in a few words.

    >>> steps_label(64, 1 / 1000)
    '1/1000 s, ISO 64'
    """
    return f"{shutter_label(shutter_s)}, ISO {iso:g}"


def fixed_label(value: float, digits: int) -> str:
    """So many digits after the point: a half rounds up, a true minus, none on zero.

    >>> fixed_label(1.25, 1), fixed_label(-0.31, 1), fixed_label(-0.02, 1)
    ('1.3', '−0.3', '0.0')
    """
    exact = abs(Decimal(float(value)))
    text = f"{exact.quantize(Decimal(1).scaleb(-digits), ROUND_HALF_UP):f}"
    return MINUS + text if value < 0 and float(text) else text


def signed(value: float, digits: int = 1) -> str:
    """A number with its sign, a true minus, and no sign on zero.

    >>> signed(-1.25), signed(0.5), signed(0.01)
    ('−1.3', '+0.5', '0.0')
    """
    text = fixed_label(value, digits)
    return "+" + text if value > 0 and float(text) else text


def few_label(value: float) -> str:
    """One digit after the point below 10, none above: an SNR, a blur in pixels.

    >>> few_label(8.04), few_label(138.2)
    ('8.0', '138')
    """
    return fixed_label(value, 1 if abs(value) < 10 else 0)


def percent_label(share: float) -> str:
    """A share as a percentage.

    >>> percent_label(0.034), percent_label(0.61), percent_label(0.0004)
    ('3.4 %', '61 %', 'under 0.1 %')
    """
    if 0 < share < 0.001:
        return "under 0.1 %"
    return f"{fixed_label(100 * share, 1 if share < 0.1 else 0)} %"


def file_size_label(megabytes: float) -> str:
    """The size of files.

    >>> file_size_label(12.34), file_size_label(1234.0)
    ('12.3 MB', '1.2 GB')
    """
    if megabytes >= 1000:
        return f"{fixed_label(megabytes / 1000, 1)} GB"
    return f"{float(f'{megabytes:.3g}'):.15g} MB"


def duration_label(span_s: float) -> str:
    """A span in seconds, minutes or hours and minutes.

    >>> duration_label(45.0), duration_label(2400.0), duration_label(11_760.0)
    ('45 s', '40 min', '3 h 16 min')
    """
    if span_s < 90:
        return f"{round(span_s)} s"
    hours, minutes = divmod(round(span_s / 60), 60)
    parts = [f"{hours} h"] * (hours > 0) + [f"{minutes} min"] * (minutes > 0 or hours == 0)
    return " ".join(parts)


def day_label(day: date) -> str:
    """A date with its day of the week, in English whatever the machine's language.

    >>> day_label(date(2027, 6, 4))
    'Fri 4 Jun 2027'
    """
    name = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")[day.weekday()]
    months = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"]
    return f"{name} {day.day} {months[day.month - 1]} {day.year}"


def stops_label(stops: float) -> str:
    """A distance in stops, without its direction.

    >>> stops_label(1.04), stops_label(-0.3)
    ('1.0 stop', '0.3 stop')
    """
    text = fixed_label(abs(stops), 1)
    return f"{text} stop" + ("s" if float(text) > 1 else "")


def amount_label(stops: float) -> str:
    """A distance in stops that is there, however small.

    >>> amount_label(0.3), amount_label(0.02)
    ('0.3 stop', 'slightly')
    """
    return "slightly" if abs(stops) < 0.05 else stops_label(stops)


def ev_label(ev100: float) -> str:
    """An EV100 with a true minus.

    >>> ev_label(-2.04), ev_label(12.3)
    ('EV −2.0', 'EV 12.3')
    """
    return f"EV {fixed_label(ev100, 1)}"


def sentence_case(words: str) -> str:
    """Words that begin a sentence.

    >>> sentence_case("face by the window")
    'Face by the window'
    """
    return words[:1].upper() + words[1:]


def uncapped(sentence: str) -> str:
    """A sentence within another; abbreviations keep their capitals.

    >>> uncapped("The light is yours"), uncapped("RAW manages 4")
    ('the light is yours', 'RAW manages 4')
    """
    return sentence if sentence[1:2].isupper() else sentence[:1].lower() + sentence[1:]


def listed(parts: Sequence[str]) -> str:
    """Words in a row, as one says them.

    >>> listed(["a", "b", "c"]), listed(["a"])
    ('a, b and c', 'a')
    """
    return " and ".join(filter(None, [", ".join(parts[:-1]), *parts[-1:]]))


def two_digits(value: float) -> str:
    """A number to two digits that count, never with an exponent.

    >>> two_digits(0.0342), two_digits(64.2), two_digits(871.3)
    ('0.034', '64', '870')
    """
    return f"{float(f'{value:.2g}'):.15g}"


def distance_label(distance_m: float) -> str:
    """A distance as one says it: millimetres and centimetres close up, "infinity" far out.

    >>> distance_label(0.034), distance_label(0.35), distance_label(12.34), distance_label(1e9)
    ('34 mm', '35 cm', '12 m', 'infinity')
    """
    if distance_m >= 1e6:
        return "infinity"
    if distance_m < 0.0995:
        return f"{two_digits(1000 * distance_m)} mm"
    if distance_m < 0.995:
        return f"{two_digits(100 * distance_m)} cm"
    return f"{two_digits(distance_m)} m"


def counted(count: int, noun: str) -> str:
    """A count with its noun, in the plural where that is regular.

    >>> counted(1, "sheet"), counted(3, "sheet")
    ('1 sheet', '3 sheets')
    """
    return f"{count} {noun}" if count == 1 else f"{count} {noun}s"
