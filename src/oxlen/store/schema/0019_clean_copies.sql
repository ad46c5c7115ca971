-- Copies of pictures without place, names and serial numbers that went out with an outing: one that
-- comes back is known as the picture it was made from.
CREATE TABLE clean_copy (
    clean_sha256 TEXT PRIMARY KEY CHECK (length(clean_sha256) = 64),
    sha256 TEXT NOT NULL REFERENCES picture (sha256)
) STRICT, WITHOUT ROWID;
