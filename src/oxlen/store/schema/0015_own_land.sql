-- Land under a sky of stars from frames of its own: their names as JSON, and how much they are lifted.
ALTER TABLE stack ADD COLUMN land TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(land));
ALTER TABLE stack ADD COLUMN land_lift_stops REAL NOT NULL DEFAULT 0;
