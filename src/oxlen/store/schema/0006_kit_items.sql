-- Lamps and clip-on lenses the photographer owns, each as its open JSON.
CREATE TABLE kit_item (
    kind TEXT NOT NULL CHECK (kind IN ('lamp', 'clip-on')),
    id TEXT NOT NULL,
    body TEXT NOT NULL CHECK (json_valid(body)),
    changed_at TEXT NOT NULL,
    PRIMARY KEY (kind, id)
) STRICT, WITHOUT ROWID;
