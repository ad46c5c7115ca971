-- A set of stars: the line under which the land lies still (places in shares of the frame, as JSON),
-- and which of its frames was taken with the lens covered.
ALTER TABLE stack ADD COLUMN horizon TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(horizon));
ALTER TABLE stack ADD COLUMN dark TEXT;
