-- Letter sets: alphabets that came as stitch files. What was put right about one is its document; its files stay as they came.
CREATE TABLE letter_set (
    id       INTEGER PRIMARY KEY,
    name     TEXT NOT NULL UNIQUE,
    document TEXT NOT NULL,
    version  INTEGER NOT NULL,
    added_at TEXT NOT NULL
);

-- The files of a set under their paths, and the stitches of those that could be read.
CREATE TABLE letter_set_file (
    set_id    INTEGER NOT NULL REFERENCES letter_set (id) ON DELETE CASCADE,
    path      TEXT NOT NULL,
    bytes     BLOB NOT NULL,
    blob_hash TEXT,
    PRIMARY KEY (set_id, path)
) WITHOUT ROWID;

CREATE INDEX letter_set_file_blob ON letter_set_file (blob_hash);
