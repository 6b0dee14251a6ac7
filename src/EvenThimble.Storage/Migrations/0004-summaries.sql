-- What lists tell of a revision, as JSON, so that no list opens a job; empty until it was computed.
ALTER TABLE revision ADD COLUMN summary TEXT NOT NULL DEFAULT '';
