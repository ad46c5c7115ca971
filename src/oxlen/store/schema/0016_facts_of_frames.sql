-- What a frame of a stack is, read once by a worker as it comes in: looking at a stack opens no file.
-- Frames kept before have none until a worker has read them.
ALTER TABLE stack_frame ADD COLUMN width_px INTEGER;
ALTER TABLE stack_frame ADD COLUMN height_px INTEGER;
ALTER TABLE stack_frame ADD COLUMN is_raw INTEGER CHECK (is_raw IN (0, 1));
ALTER TABLE stack_frame ADD COLUMN byte_count INTEGER;
