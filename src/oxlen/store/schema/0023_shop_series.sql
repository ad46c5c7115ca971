-- A shop series: things that are photographed alike with the slip of one sheet.
-- `options` are its views, grey patch and how it is handed over; the aim is what is shot next.
CREATE TABLE shop_series (
    id INTEGER PRIMARY KEY,
    sheet_id INTEGER NOT NULL UNIQUE REFERENCES sheet (id) ON DELETE CASCADE,
    reference_take_id INTEGER REFERENCES take (id) ON DELETE SET NULL,
    options TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(options)),
    aim_thing_id INTEGER REFERENCES shop_thing (id) ON DELETE SET NULL,
    aim_view TEXT,
    changed_at TEXT NOT NULL
) STRICT;
CREATE TABLE shop_thing (
    id INTEGER PRIMARY KEY,
    uid TEXT NOT NULL UNIQUE,                   -- what its code contains
    series_id INTEGER NOT NULL REFERENCES shop_series (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    name TEXT NOT NULL,
    number TEXT NOT NULL DEFAULT '',
    width_cm REAL CHECK (width_cm > 0),
    height_cm REAL CHECK (height_cm > 0),
    depth_cm REAL CHECK (depth_cm > 0),
    skipped INTEGER NOT NULL DEFAULT 0 CHECK (skipped IN (0, 1))
) STRICT;
CREATE INDEX things_of_shop_series ON shop_thing (series_id, position);
-- A take of the sheet in its series: the thing and view it shows; none for a code or a spare frame.
CREATE TABLE shop_take (
    take_id INTEGER PRIMARY KEY REFERENCES take (id) ON DELETE CASCADE,
    series_id INTEGER NOT NULL REFERENCES shop_series (id) ON DELETE CASCADE,
    thing_id INTEGER REFERENCES shop_thing (id) ON DELETE SET NULL,
    view TEXT,
    how TEXT NOT NULL CHECK (how IN ('order', 'code', 'hand', 'spare'))
) STRICT;
CREATE INDEX takes_of_shop_series ON shop_take (series_id);
-- What was measured of a take against a reference; `key` is both pictures and the grey patch.
CREATE TABLE shop_check (
    take_id INTEGER PRIMARY KEY REFERENCES take (id) ON DELETE CASCADE,
    key TEXT NOT NULL,
    found TEXT NOT NULL CHECK (json_valid(found))
) STRICT;
