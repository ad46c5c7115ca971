"""How much is written to the log: a host that misbehaves does not fill the disk with lines."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable

MOST_LINES, EVERY_S = 30, 60.0
LOGGERS = ("uvicorn.error", "asyncio", "oxlen")


class LineLimit(logging.Filter):
    """So many lines in a while; the next one afterwards says how many were left out."""

    def __init__(self, seconds: Callable[[], float] = time.monotonic) -> None:
        super().__init__()
        self._seconds = seconds
        self._since_s, self._lines, self._left_out = seconds(), 0, 0

    def filter(self, record: logging.LogRecord) -> bool:
        """Whether a line is written."""
        now_s = self._seconds()
        if now_s - self._since_s >= EVERY_S:
            self._since_s, self._lines = now_s, 0
        self._lines += 1
        if self._lines > MOST_LINES:
            self._left_out += 1
            return False
        if self._left_out:
            record.msg = f"{record.getMessage()} ({self._left_out} earlier lines left out)"
            record.args, self._left_out = (), 0
        return True


def limit_log_lines() -> None:
    """Bound the lines of every logger that others can make write."""
    for name in LOGGERS:
        logger = logging.getLogger(name)
        if not any(isinstance(known, LineLimit) for known in logger.filters):
            logger.addFilter(LineLimit())
