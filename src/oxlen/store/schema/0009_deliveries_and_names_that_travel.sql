-- What a page sent from its queue, by a mark of its own: sent twice, it is done once.
CREATE TABLE delivery (
    mark TEXT PRIMARY KEY CHECK (length(mark) BETWEEN 8 AND 64),
    sheet_id INTEGER NOT NULL REFERENCES sheet (id),
    delivered_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- Names under which outings and sheets are known to every Oxlen they are carried to.
ALTER TABLE outing ADD COLUMN uid TEXT;
UPDATE outing SET uid = lower(hex(randomblob(16)));
CREATE UNIQUE INDEX outing_by_uid ON outing (uid);
ALTER TABLE sheet ADD COLUMN uid TEXT;
UPDATE sheet SET uid = lower(hex(randomblob(16)));
CREATE UNIQUE INDEX sheet_by_uid ON sheet (uid);
