-- Filters the photographer owns, and choices kept as presets.
CREATE TABLE glass (
    id TEXT PRIMARY KEY,
    name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 60),
    factor REAL NOT NULL CHECK (factor >= 1),    -- takes the light down to 1/factor
    note TEXT NOT NULL DEFAULT '',               -- how it was measured, what it is good for
    changed_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;

CREATE TABLE preset (
    id TEXT PRIMARY KEY,
    preset TEXT NOT NULL CHECK (json_valid(preset)),
    changed_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;
