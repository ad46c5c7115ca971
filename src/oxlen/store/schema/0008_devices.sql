-- Phones that were paired over the network. Of a token only its digest is kept.
CREATE TABLE device (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL,
    token_sha256 TEXT NOT NULL UNIQUE,
    may_change_kit INTEGER NOT NULL DEFAULT 0 CHECK (may_change_kit IN (0, 1)),
    paired_at TEXT NOT NULL,
    last_seen_at TEXT NOT NULL,
    expires_at TEXT NOT NULL
) STRICT;
