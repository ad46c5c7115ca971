"""Entries of TIFF directories taken out in place: the bytes stay where they are, zeroed."""

from __future__ import annotations

import struct
from collections.abc import Collection
from dataclasses import dataclass

TYPE_BYTES = {1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8, 13: 4}
SUB_IFDS, EXIF_IFD, GPS_IFD, INTEROP_IFD = 330, 34665, 34853, 40965
DIRECTORIES = (SUB_IFDS, EXIF_IFD, INTEROP_IFD)
ENTRY_BYTES, MOST_DIRECTORIES = 12, 64


@dataclass
class TiffEntries:
    """A TIFF within some bytes, from `start` on; ValueError where it is none. [TIFF6]"""

    data: bytearray
    start: int = 0

    def __post_init__(self) -> None:
        order = bytes(self.data[self.start : self.start + 2])
        if order not in (b"II", b"MM"):
            raise ValueError("no TIFF")
        self._order = "<" if order == b"II" else ">"

    def has(self, tag: int) -> bool:
        """Whether its first directory has a tag."""
        at = self._number("I", self.start + 4)
        return any(self._number("H", entry) == tag for entry in self._entries(self.start + at))

    def remove(self, tags: Collection[int]) -> int:
        """Take entries with these tags out of every directory, their values zeroed; how many."""
        waiting, seen, removed = [self._number("I", self.start + 4)], set[int](), 0
        while waiting and len(seen) < MOST_DIRECTORIES:
            offset = waiting.pop()
            at = self.start + offset
            if offset == 0 or offset in seen or at + 2 > len(self.data):
                continue
            seen.add(offset)
            entries = self._entries(at)
            for entry in entries:
                if self._number("H", entry) in DIRECTORIES:
                    waiting += self._pointers(entry)
            if entries:
                waiting.append(self._number("I", entries[-1] + ENTRY_BYTES))
            removed += self._remove_from(at, entries, tags)
        return removed

    def _entries(self, at: int) -> list[int]:
        """Where the entries of a directory begin."""
        count = self._number("H", at)
        places = [at + 2 + ENTRY_BYTES * index for index in range(count)]
        if count and places[-1] + ENTRY_BYTES + 4 > len(self.data):
            raise ValueError("a directory reaches past the end")
        return places

    def _remove_from(self, at: int, entries: list[int], tags: Collection[int]) -> int:
        kept = []
        for entry in entries:
            if self._number("H", entry) not in tags:
                kept.append(bytes(self.data[entry : entry + ENTRY_BYTES]))
                continue
            if self._number("H", entry) == GPS_IFD:
                self._blank_directory(self._pointers(entry))
            self._blank_value(entry)
        if len(kept) == len(entries):
            return 0
        following = bytes(self.data[entries[-1] + ENTRY_BYTES : entries[-1] + ENTRY_BYTES + 4])
        made = struct.pack(f"{self._order}H", len(kept)) + b"".join(kept) + following
        whole = 2 + ENTRY_BYTES * len(entries) + 4
        self.data[at : at + whole] = made + bytes(whole - len(made))
        return len(entries) - len(kept)

    def _blank_directory(self, offsets: list[int]) -> None:
        for offset in offsets:
            at = self.start + offset
            if at + 2 > len(self.data):
                continue
            entries = self._entries(at)
            for entry in entries:
                self._blank_value(entry)
            whole = 2 + ENTRY_BYTES * len(entries) + 4
            self.data[at : at + whole] = bytes(whole)

    def _blank_value(self, entry: int) -> None:
        place, length = self._value(entry)
        end = min(place + length, len(self.data))
        if place < end:
            self.data[place:end] = bytes(end - place)

    def _value(self, entry: int) -> tuple[int, int]:
        """Where an entry's value is, and how many bytes it has."""
        length = TYPE_BYTES.get(self._number("H", entry + 2), 1) * self._number("I", entry + 4)
        if length <= 4:
            return entry + 8, length
        return self.start + self._number("I", entry + 8), length

    def _pointers(self, entry: int) -> list[int]:
        """The directories that an entry points to."""
        place, length = self._value(entry)
        count = min(length // 4, MOST_DIRECTORIES)
        return [self._number("I", place + 4 * index) for index in range(count)]

    def _number(self, kind: str, at: int) -> int:
        try:
            return int(struct.unpack_from(f"{self._order}{kind}", self.data, at)[0])
        except struct.error as error:
            raise ValueError("a directory reaches past the end") from error
