-- A colony counted because it was likely to be over, or to tell most, is judged by its count; the mean of its apiary is not.
ALTER TABLE mite_count ADD COLUMN on_purpose boolean NOT NULL DEFAULT false;
