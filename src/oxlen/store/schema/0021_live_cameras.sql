-- Cameras that pages have looked through, one for each phone and browser: what they can do here, and
-- the measured curve of their preview.
CREATE TABLE live_camera (
    key TEXT PRIMARY KEY NOT NULL CHECK (length(key) BETWEEN 1 AND 41),
    name TEXT NOT NULL,
    phone_id TEXT NOT NULL,
    can TEXT NOT NULL CHECK (json_valid(can)),
    curve TEXT CHECK (curve IS NULL OR json_valid(curve)),
    curve_plus_minus_stops REAL,
    curve_at TEXT,
    seen_at TEXT NOT NULL
) STRICT;
