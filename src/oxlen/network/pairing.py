"""Pairing a phone: a code of six words, good for two minutes and one use; guessing gets slow."""

from __future__ import annotations

import hashlib
import hmac
import re
import secrets
from dataclasses import dataclass
from threading import Lock

from oxlen.core.errors import PairingRefused, PairingWaits
from oxlen.network.words import pairing_words

CODE_WORDS = 6
VALID_S = 120.0
WRONG_A_CODE = 5
"""Wrong tries after which a code is void."""
WRONG_IN_ALL, LOCKED_S = 15, 600.0
"""Wrong tries without a right one after which nothing is paired for ten minutes."""
FIRST_WAIT_S, LONGEST_WAIT_S = 1.0, 60.0
NO_CODE = "There is no code to pair with just now: ask for one on the computer that runs Oxlen."
WRONG_CODE = "Those are not the words on the screen."


@dataclass(frozen=True)
class Offer:
    """A code to pair one phone with, and until when (seconds of the desk's clock)."""

    words: tuple[str, ...]
    until_s: float


class PairingDesk:
    """Gives out codes and takes them back; of a code itself only its digest is kept.

    Times are seconds of any clock that does not run backwards, given by the caller.
    """

    def __init__(self) -> None:
        self._lock = Lock()
        self._digest: bytes | None = None
        self._until_s = self._wait_until_s = self._locked_until_s = 0.0
        self._wrong = self._wrong_in_all = 0

    def offer(self, now_s: float) -> Offer:
        """A new code; an earlier one is void. PairingRefused while the desk is locked."""
        with self._lock:
            self._check_lock(now_s)
            words = tuple(secrets.SystemRandom().sample(pairing_words(), CODE_WORDS))
            self._digest, self._until_s = _digest(" ".join(words)), now_s + VALID_S
            self._wrong, self._wait_until_s = 0, now_s
            return Offer(words, self._until_s)

    def withdraw(self) -> None:
        """Make the code void."""
        with self._lock:
            self._digest = None

    def redeem(self, said: str, now_s: float) -> None:
        """Take the words of a code, once. PairingRefused says why not, and when to try again."""
        with self._lock:
            self._check_lock(now_s)
            if now_s < self._wait_until_s:
                wait_s = self._wait_until_s - now_s
                raise PairingWaits(f"Wait {wait_s:.0f} s before the next try.", retry_s=wait_s)
            if self._digest is None or now_s > self._until_s:
                self._digest = None
                self._count_wrong(now_s)
                raise PairingRefused(NO_CODE)
            if not hmac.compare_digest(_digest(_plain(said)), self._digest):
                self._count_wrong(now_s)
                raise PairingRefused(WRONG_CODE)
            self._digest, self._wrong_in_all = None, 0

    def _check_lock(self, now_s: float) -> None:
        if now_s < self._locked_until_s:
            minutes = max(1, round((self._locked_until_s - now_s) / 60))
            raise PairingWaits(
                f"Too many wrong codes: pairing is shut for {minutes} more minutes.",
                retry_s=self._locked_until_s - now_s,
            )

    def _count_wrong(self, now_s: float) -> None:
        """Each wrong try doubles the wait; some void the code, and more shut the desk."""
        self._wrong += 1
        self._wrong_in_all += 1
        wait_s = min(FIRST_WAIT_S * 2.0 ** (self._wrong - 1), LONGEST_WAIT_S)
        self._wait_until_s = now_s + wait_s
        if self._wrong >= WRONG_A_CODE:
            self._digest = None
        if self._wrong_in_all >= WRONG_IN_ALL:
            self._digest, self._wrong_in_all = None, 0
            self._locked_until_s = now_s + LOCKED_S


def _plain(said: str) -> str:
    """The words as people may type them: any case, any marks between."""
    return " ".join(re.findall(r"[a-z]+", said[:200].casefold()))


def _digest(words: str) -> bytes:
    return hashlib.sha256(words.encode()).digest()


def new_token() -> str:
    """A token for a paired device: 256 bits."""
    return secrets.token_urlsafe(32)


def token_digest(token: str) -> str:
    """What is kept of a token: it cannot be made back into one."""
    return hashlib.sha256(token.encode("utf-8", "replace")).hexdigest()
