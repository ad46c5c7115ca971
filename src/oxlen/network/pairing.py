"""Pairing a phone: a code of six words, good for two minutes and one use; guessing gets slow."""

from __future__ import annotations

import hashlib
import hmac
import re
import secrets
from collections import OrderedDict
from dataclasses import dataclass
from threading import Lock

from oxlen.core.errors import PairingRefused, PairingWaits
from oxlen.network.words import pairing_words

CODE_WORDS = 6
VALID_S = 120.0
WRONG_A_CODE = 500
"""Wrong tries, from any address, after which a code is void: of 2^48 codes that is next to none."""
WRONG_IN_ALL, LOCKED_S = 15, 600.0
"""Wrong tries of an address without a right one after which it waits for ten minutes."""
MOST_GUESSERS = 2000
"""Addresses remembered; a private network has fewer."""
FIRST_WAIT_S, LONGEST_WAIT_S = 1.0, 60.0
NO_CODE = "There is no pairing code now. Show one on the computer that runs Oxlen."
WRONG_CODE = "Those words do not match. Check the words on the computer."


@dataclass(frozen=True)
class Offer:
    """A code to pair one phone with, and until when (seconds of the desk's clock)."""

    words: tuple[str, ...]
    until_s: float


@dataclass
class _Guesser:
    """An address that sent wrong words: how often, for this code and in all, and its waits."""

    wrong: int = 0
    wrong_in_all: int = 0
    wait_until_s: float = 0.0
    shut_until_s: float = 0.0


class PairingDesk:
    """Gives out codes and takes them back; of a code itself only its digest is kept.

    Whoever guesses waits by the address guessed from: nobody keeps another phone from pairing, and
    the computer always gives a fresh code. Times are seconds of any clock that does not run
    backwards, given by the caller.
    """

    def __init__(self) -> None:
        self._lock = Lock()
        self._digest: bytes | None = None
        self._until_s = 0.0
        self._wrong_of_code = 0
        self._guessers: OrderedDict[str, _Guesser] = OrderedDict()

    def offer(self, now_s: float) -> Offer:
        """A new code; an earlier one is void."""
        with self._lock:
            words = tuple(secrets.SystemRandom().sample(pairing_words(), CODE_WORDS))
            self._digest, self._until_s = _digest(" ".join(words)), now_s + VALID_S
            self._wrong_of_code = 0
            for guesser in self._guessers.values():
                guesser.wrong = 0
            return Offer(words, self._until_s)

    def withdraw(self) -> None:
        """Make the code void."""
        with self._lock:
            self._digest = None

    def redeem(self, text: str, now_s: float, *, address: str) -> None:
        """Take the words of a code, once. PairingRefused says why not, and when to try again."""
        with self._lock:
            guesser = self._guessers.get(address, _Guesser())
            _check_waits(guesser, now_s)
            if self._digest is None or now_s > self._until_s:
                self._digest = None
                self._count_wrong(guesser, address, now_s)
                raise PairingRefused(NO_CODE)
            if not hmac.compare_digest(_digest(_plain(text)), self._digest):
                self._count_wrong(guesser, address, now_s)
                raise PairingRefused(WRONG_CODE)
            self._digest = None
            self._guessers.pop(address, None)

    def _count_wrong(self, guesser: _Guesser, address: str, now_s: float) -> None:
        """Each wrong try doubles the address's wait; more shut it out for a while."""
        guesser.wrong += 1
        guesser.wrong_in_all += 1
        wait_s = min(FIRST_WAIT_S * 2.0 ** (guesser.wrong - 1), LONGEST_WAIT_S)
        guesser.wait_until_s = now_s + wait_s
        if guesser.wrong_in_all >= WRONG_IN_ALL:
            guesser.wrong_in_all, guesser.shut_until_s = 0, now_s + LOCKED_S
        self._guessers[address] = guesser
        self._guessers.move_to_end(address)
        while len(self._guessers) > MOST_GUESSERS:
            self._guessers.popitem(last=False)
        self._wrong_of_code += 1
        if self._wrong_of_code >= WRONG_A_CODE:
            self._digest = None


def _check_waits(guesser: _Guesser, now_s: float) -> None:
    if now_s < guesser.shut_until_s:
        minutes = max(1, round((guesser.shut_until_s - now_s) / 60))
        raise PairingWaits(
            f"Too many wrong codes from this phone. Try again in {minutes} min.",
            retry_s=guesser.shut_until_s - now_s,
        )
    if now_s < guesser.wait_until_s:
        wait_s = guesser.wait_until_s - now_s
        raise PairingWaits(f"Wait {wait_s:.0f} s before the next try.", retry_s=wait_s)


def _plain(text: str) -> str:
    """The words as people may type them: any case, any marks between."""
    return " ".join(re.findall(r"[a-z]+", text[:200].casefold()))


def _digest(words: str) -> bytes:
    return hashlib.sha256(words.encode()).digest()


def new_token() -> str:
    """A token for a paired device: 256 bits."""
    return secrets.token_urlsafe(32)


def token_digest(token: str) -> str:
    """What is kept of a token: it cannot be made back into one."""
    return hashlib.sha256(token.encode("utf-8", "replace")).hexdigest()
