-- Where a live camera is sharp: distances that were measured, and what it was set to there.
ALTER TABLE live_camera ADD COLUMN focus TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(focus));
