-- Which preset was kept last is told by a count: a clock may be set back.
ALTER TABLE preset ADD COLUMN turn INTEGER NOT NULL DEFAULT 0;
