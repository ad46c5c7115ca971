-- A phone that knew the words waits until the computer confirms it; those paired before are confirmed.
ALTER TABLE device ADD COLUMN is_confirmed INTEGER NOT NULL DEFAULT 1 CHECK (is_confirmed IN (0, 1));
ALTER TABLE device ADD COLUMN paired_from TEXT NOT NULL DEFAULT '';
