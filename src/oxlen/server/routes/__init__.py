"""One router per domain."""
