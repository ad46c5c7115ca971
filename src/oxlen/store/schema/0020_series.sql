-- Sheets shot alike: one leads, and the others keep what is locked of it. `pattern` is the leading
-- sheet as it was locked.
CREATE TABLE series (
    id INTEGER PRIMARY KEY,
    uid TEXT NOT NULL UNIQUE,
    outing_id INTEGER NOT NULL REFERENCES outing (id) ON DELETE CASCADE,
    lead_id INTEGER NOT NULL REFERENCES sheet (id) ON DELETE CASCADE,
    title TEXT NOT NULL,
    locked TEXT NOT NULL CHECK (json_valid(locked)),
    pattern TEXT NOT NULL CHECK (json_valid(pattern)),
    changed_at TEXT NOT NULL
) STRICT;
CREATE INDEX series_of_outing ON series (outing_id);
-- A sheet belongs to one series at most; the leading sheet to its own.
CREATE TABLE series_sheet (
    sheet_id INTEGER PRIMARY KEY REFERENCES sheet (id) ON DELETE CASCADE,
    series_id INTEGER NOT NULL REFERENCES series (id) ON DELETE CASCADE
) STRICT;
CREATE INDEX sheets_of_series ON series_sheet (series_id);
