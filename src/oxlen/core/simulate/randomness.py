"""Where a capture's randomness comes from: a generator, or a pool of it for quick looks."""

from __future__ import annotations

from functools import lru_cache
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from oxlen.core.simulate.scene import Floats

POOL_SIZE = 1 << 21


class RandomSource(Protocol):
    """What a capture draws on."""

    def normals(self, shape: tuple[int, ...]) -> Floats:
        """Standard normal numbers."""

    def walk(self, steps: int) -> NDArray[np.float64]:
        """Steps of a hand's walk, shape (steps, 2)."""

    def share(self) -> float:
        """A number from 0 to 1."""


class SeededRandom:
    """Drawn afresh from a seed: every pixel independent of every other, in this frame and all."""

    def __init__(self, seed: int) -> None:
        self._hand = np.random.default_rng([seed, 1])
        self._light = np.random.default_rng([seed, 2])
        # Apart from the hand's, so that a seed's hand is the same whatever else the scene draws.
        self._begun = np.random.default_rng([seed, 4])

    def normals(self, shape: tuple[int, ...]) -> Floats:
        """Standard normal numbers."""
        return self._light.standard_normal(shape, dtype=np.float32)

    def walk(self, steps: int) -> NDArray[np.float64]:
        """Steps of a hand's walk, shape (steps, 2)."""
        return self._hand.standard_normal((steps, 2))

    def share(self) -> float:
        """A number from 0 to 1."""
        return float(self._begun.random())


class PooledNoise(SeededRandom):
    """For looks that must come quickly: normals from a fixed pool, begun anywhere in it."""

    def __init__(self, seed: int) -> None:
        super().__init__(seed)
        self._begin = int(np.random.default_rng([seed, 3]).integers(POOL_SIZE))

    def normals(self, shape: tuple[int, ...]) -> Floats:
        """Standard normal numbers, the same for the same seed."""
        count = int(np.prod(shape))
        pool = _pool()
        begin = self._begin % max(1, pool.size - count)
        if count > pool.size:
            return super().normals(shape)
        return pool[begin : begin + count].reshape(shape)


@lru_cache(maxsize=1)
def _pool() -> Floats:
    return np.random.default_rng(7).standard_normal(POOL_SIZE, dtype=np.float32)
