-- What came in without a sheet, until it is put to one; a RAW lies beside its processed file.
CREATE TABLE inbox (
    id INTEGER PRIMARY KEY,
    sha256 TEXT NOT NULL UNIQUE REFERENCES picture (sha256),
    raw_sha256 TEXT REFERENCES picture (sha256),
    mark TEXT UNIQUE,
    added_at TEXT NOT NULL
) STRICT;

-- Judged further: stars, words to find it by, and why it was kept or dropped.
ALTER TABLE take ADD COLUMN rating INTEGER NOT NULL DEFAULT 0 CHECK (rating BETWEEN 0 AND 5);
ALTER TABLE take ADD COLUMN keywords TEXT NOT NULL DEFAULT '';
ALTER TABLE take ADD COLUMN why TEXT NOT NULL DEFAULT '';
ALTER TABLE take ADD COLUMN lens TEXT NOT NULL DEFAULT '';
ALTER TABLE take ADD COLUMN situation TEXT NOT NULL DEFAULT '';
-- How a take was developed, and what was found when it was held against its plan.
ALTER TABLE take ADD COLUMN recipe TEXT CHECK (recipe IS NULL OR json_valid(recipe));
ALTER TABLE take ADD COLUMN finding TEXT CHECK (finding IS NULL OR json_valid(finding));
-- Read out of the settings once, to be searched by.
ALTER TABLE take ADD COLUMN iso REAL GENERATED ALWAYS AS (json_extract(settings, '$.iso')) VIRTUAL;
ALTER TABLE take ADD COLUMN shutter_s REAL
    GENERATED ALWAYS AS (json_extract(settings, '$.shutter_s')) VIRTUAL;
ALTER TABLE take ADD COLUMN shot_at TEXT
    GENERATED ALWAYS AS (coalesce(taken_at, added_at)) VIRTUAL;
-- One for each order of the logbook, with all that it filters by: a page is read off the index alone.
CREATE INDEX take_by_time ON take
    (shot_at, id, sheet_id, state, rating, iso, shutter_s, lens, situation, deleted_at);
CREATE INDEX take_by_iso ON take
    (iso, id, sheet_id, state, rating, shutter_s, shot_at, lens, situation, deleted_at);
CREATE INDEX take_by_shutter ON take
    (shutter_s, id, sheet_id, state, rating, iso, shot_at, lens, situation, deleted_at);
CREATE INDEX take_by_rating ON take
    (rating, id, sheet_id, state, iso, shutter_s, shot_at, lens, situation, deleted_at);
CREATE INDEX take_by_picture ON take (sha256);

-- Words of a take: its own, its file's name, its sheet's and its outing's.
CREATE VIRTUAL TABLE take_words USING fts5 (words, tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3');

CREATE VIEW take_text AS
SELECT take.id AS id, take.sheet_id AS sheet_id, sheet.outing_id AS outing_id,
       take.note || ' ' || take.why || ' ' || take.keywords || ' ' || take.lens || ' '
       || picture.file_name || ' ' || coalesce(json_extract(revision.body, '$.title'), '') || ' '
       || coalesce(json_extract(revision.body, '$.intent'), '') || ' '
       || outing.title || ' ' || outing.place AS words
FROM take
JOIN picture ON picture.sha256 = take.sha256
JOIN sheet ON sheet.id = take.sheet_id
JOIN sheet_revision AS revision
  ON revision.sheet_id = sheet.id AND revision.number = sheet.revision
JOIN outing ON outing.id = sheet.outing_id;

INSERT INTO take_words (rowid, words) SELECT id, words FROM take_text;

CREATE TRIGGER take_words_added AFTER INSERT ON take BEGIN
    INSERT INTO take_words (rowid, words) SELECT id, words FROM take_text WHERE id = new.id;
END;
CREATE TRIGGER take_words_changed AFTER UPDATE OF note, why, keywords, lens, sheet_id ON take BEGIN
    UPDATE take_words SET words = (SELECT words FROM take_text WHERE id = new.id)
    WHERE rowid = new.id;
END;
CREATE TRIGGER take_words_removed AFTER DELETE ON take BEGIN
    DELETE FROM take_words WHERE rowid = old.id;
END;
CREATE TRIGGER sheet_words_changed AFTER UPDATE OF revision ON sheet BEGIN
    UPDATE take_words SET words = (SELECT words FROM take_text WHERE id = take_words.rowid)
    WHERE rowid IN (SELECT id FROM take WHERE sheet_id = new.id);
END;
CREATE TRIGGER outing_words_changed AFTER UPDATE OF title, place ON outing BEGIN
    UPDATE take_words SET words = (SELECT words FROM take_text WHERE id = take_words.rowid)
    WHERE rowid IN (SELECT take.id FROM take JOIN sheet ON sheet.id = take.sheet_id
                    WHERE sheet.outing_id = new.id);
END;

-- A slip saved with all it was decided by, to be decided again the same.
CREATE TABLE bundle (
    id INTEGER PRIMARY KEY,
    sheet_id INTEGER NOT NULL REFERENCES sheet (id),
    name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    bundle TEXT NOT NULL CHECK (json_valid(bundle)),
    made_at TEXT NOT NULL
) STRICT;
CREATE INDEX bundle_by_sheet ON bundle (sheet_id, id);

-- What takes taught of a phone and its owner, in the planner's use until it is let go.
CREATE TABLE learned (
    phone_id TEXT NOT NULL,
    name TEXT NOT NULL CHECK (name IN ('hold_stops', 'meter_offset_stops')),
    value REAL NOT NULL,
    plus_minus REAL NOT NULL,
    takes INTEGER NOT NULL,
    learned_at TEXT NOT NULL,
    PRIMARY KEY (phone_id, name)
) STRICT, WITHOUT ROWID;
