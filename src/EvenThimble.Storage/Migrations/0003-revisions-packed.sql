-- Shapes of drawings, each once, under the SHA-256 of its bytes; packed with Brotli.
CREATE TABLE shape (
    hash   TEXT PRIMARY KEY,
    packed BLOB NOT NULL
) WITHOUT ROWID;

-- Which stitches and shapes the revisions of a job name. It may name more than that after revisions went (then the job is loose), never less.
CREATE TABLE job_blob (
    job_id INTEGER NOT NULL REFERENCES job (id),
    hash   TEXT    NOT NULL,
    PRIMARY KEY (job_id, hash)
) WITHOUT ROWID;

ALTER TABLE job ADD COLUMN loose INTEGER NOT NULL DEFAULT 0;

-- A revision is packed with Brotli: whole, or as the difference from an earlier one of its job, so many steps from a whole one.
ALTER TABLE revision ADD COLUMN packed BLOB NOT NULL DEFAULT x'';
ALTER TABLE revision ADD COLUMN base INTEGER;
ALTER TABLE revision ADD COLUMN steps INTEGER NOT NULL DEFAULT 0;
