-- Star trails whose gaps between frames are closed.
ALTER TABLE stack ADD COLUMN close_gaps INTEGER NOT NULL DEFAULT 0 CHECK (close_gaps IN (0, 1));
