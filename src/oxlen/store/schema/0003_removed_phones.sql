-- A phone taken out of the kit is kept for the sheets, and their earlier states, that name it.
ALTER TABLE phone ADD COLUMN removed_at TEXT;
