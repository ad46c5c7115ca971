-- A logbook names takes by their pictures, processed or RAW: each is found by an index.
CREATE INDEX take_by_raw_picture ON take (raw_sha256) WHERE raw_sha256 IS NOT NULL;
