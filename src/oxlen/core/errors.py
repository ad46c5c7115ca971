"""Every error Oxlen raises on purpose.

OxlenError
├── OutOfRange       a number outside what the formula holds for (also a ValueError)
├── BadInput         something handed in that cannot be used; names the field (also a ValueError)
├── NotFound         nothing is kept under that name
├── EditClash        an edit was made from an older state than the one kept
├── NeedsConsent     done only once its consequences, which the message names, are agreed to
├── NotPaired        asked over the network by a device that is not paired
│   ├── NotConfirmed     by one that knew the words and waits for the computer's yes
│   └── NotAllowed       by one that was, for what is done on the computer alone
├── PairingRefused   a code that does not pair
│   └── PairingWaits     not before some time has passed
├── TooMany          more at once than there is room for
├── PictureError     a picture file that cannot be read; names file and cause
│   └── PixelsUnreadable   its settings may still be read
├── WorkFailed       heavy work that took too long, or whose process died
├── UnreadableSheet  a kept sheet that cannot be read; its text is kept
└── ArchiveError     a backup that cannot be trusted
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any


class OxlenError(Exception):
    """Root of the family: a stable `code`, a sentence for a photographer, and details as data."""

    code = "error"

    def __init__(self, message: str, **details: Any) -> None:
        super().__init__(message)
        self.message = message
        self.details: Mapping[str, Any] = details

    def __reduce__(self) -> tuple[Any, ...]:
        # Errors cross from worker processes; each class takes other arguments than its sentence.
        return _remade, (type(self), dict(self.__dict__), self.args)


def _remade(kind: type[OxlenError], state: dict[str, Any], args: tuple[Any, ...]) -> OxlenError:
    error = kind.__new__(kind, *args)
    error.__dict__.update(state)
    return error


class OutOfRange(OxlenError, ValueError):
    """A number outside the range its formula holds for."""

    code = "out-of-range"

    def __init__(
        self, name: str, value: object, *, low: object = None, high: object = None, unit: str = ""
    ) -> None:
        bounds = {
            (True, True): f"between {low} and {high}",
            (True, False): f"above {low}",
            (False, True): f"below {high}",
            (False, False): "a finite number",
        }[low is not None, high is not None]
        tail = f" {unit}" if unit else ""
        super().__init__(
            f"{name} is {value}; it must be {bounds}{tail}.",
            name=name,
            value=value if isinstance(value, int | float | str) else str(value),
            low=low,
            high=high,
            unit=unit,
        )


class BadInput(OxlenError, ValueError):
    """Input that cannot be used; `field` says which part of it."""

    code = "bad-input"

    def __init__(self, message: str, field: str = "", **details: Any) -> None:
        super().__init__(message, field=field, **details)


class NotFound(OxlenError):
    """Nothing is kept under that name."""

    code = "not-found"


class EditClash(OxlenError):
    """An edit made from an older state than the one kept; nothing was overwritten."""

    code = "edit-clash"


class NeedsConsent(OxlenError):
    """What follows from it was not agreed to yet; the message says what that is."""

    code = "needs-consent"


class NotPaired(OxlenError):
    """Asked over the network by a device that is not paired."""

    code = "not-paired"


class NotConfirmed(NotPaired):
    """Asked by a device that knew the words, before the computer confirmed it."""

    code = "not-confirmed"


class NotAllowed(NotPaired):
    """Asked by a paired device for what is done on the computer that runs Oxlen alone."""

    code = "not-allowed"


class PairingRefused(OxlenError):
    """A code that does not pair: wrong, used, or run out."""

    code = "pairing-refused"


class PairingWaits(PairingRefused):
    """No code is taken before some time has passed; `retry_s` says how long."""

    code = "pairing-waits"


class TooMany(OxlenError):
    """More at once than there is room for."""

    code = "too-many"


class PictureError(OxlenError):
    """A picture file that cannot be used; the message names the file and the cause."""

    code = "picture-unreadable"

    def __init__(self, file_name: str, cause: str, **details: Any) -> None:
        super().__init__(f"{file_name}: {cause}", file=file_name, cause=cause, **details)
        self.cause = cause


class PixelsUnreadable(PictureError):
    """The pixels are cut, missing or packed in a way that cannot be opened."""

    code = "pixels-unreadable"


class WorkFailed(OxlenError):
    """Heavy work that was ended before it was done; nothing of it was kept."""

    code = "work-failed"


class UnreadableSheet(OxlenError):
    """A kept sheet whose body cannot be read; `text` is what is kept of it."""

    code = "unreadable-sheet"

    def __init__(self, message: str, text: str) -> None:
        super().__init__(message)
        self.text = text


class ArchiveError(OxlenError):
    """A backup file that fails verification; what was kept before is untouched."""

    code = "archive-unreadable"
