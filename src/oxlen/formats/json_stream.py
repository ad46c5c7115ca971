"""A long list in a JSON object, read item by item: never all of it as data at once."""

from __future__ import annotations

import json
import re
from collections.abc import Generator, Iterator
from typing import Any

from oxlen.core.errors import BadInput

SPACE = re.compile(r"[ \t\n\r]*")
_DECODER = json.JSONDecoder()


class JsonList:
    """The items of the list under `key` of a JSON object; its other members once all are read.

    BadInput, which names `what`, where the text is no such object.
    """

    def __init__(self, text: str, key: str, *, what: str) -> None:
        self._text, self._key, self._what = text, key, what
        self.others: dict[str, Any] = {}

    def __iter__(self) -> Iterator[Any]:
        found = False
        at = self._after(0, "{")
        while not self._is(at, "}"):
            name, at = self._value(at)
            at = self._after(at, ":")
            if name == self._key and self._is(at, "[") and not found:
                found = True
                at = yield from self._items(self._after(at, "["))
            else:
                self.others[str(name)], at = self._value(at)
            at = self._next(at, "}")
        if self._space(self._after(at, "}")) != len(self._text):
            raise self._broken("something follows its end")
        if not found:
            raise BadInput(f"{self._what} has no list of {self._key}.", self._key)

    def _items(self, at: int) -> Generator[Any, None, int]:
        """The items, and where the list ends."""
        while not self._is(at, "]"):
            item, at = self._value(at)
            yield item
            at = self._next(at, "]")
        return self._after(at, "]")

    def _next(self, at: int, end: str) -> int:
        """Past the comma, or before the end."""
        if self._is(at, end):
            return at
        at = self._after(at, ",")
        if self._is(at, end):
            raise self._broken(f"there is a comma before {end}")
        return at

    def _value(self, at: int) -> tuple[Any, int]:
        try:
            return _DECODER.raw_decode(self._text, self._space(at))
        except (json.JSONDecodeError, RecursionError) as error:
            raise self._broken(str(error)) from None
        except ValueError:
            raise BadInput(f"{self._what} has a number with too many digits.") from None

    def _after(self, at: int, sign: str) -> int:
        if not self._is(at, sign):
            raise self._broken(f"{sign} is missing at character {self._space(at)}")
        return self._space(at) + 1

    def _is(self, at: int, sign: str) -> bool:
        return self._text.startswith(sign, self._space(at))

    def _space(self, at: int) -> int:
        found = SPACE.match(self._text, at)
        return at if found is None else found.end()

    def _broken(self, why: str) -> BadInput:
        return BadInput(f"{self._what} is not JSON: {why}.")
