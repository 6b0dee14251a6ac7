-- The number of a letter set that was taken out is never given again: pages and pictures are kept under it.
CREATE TABLE letter_set_numbered (
    id       INTEGER PRIMARY KEY AUTOINCREMENT,
    name     TEXT NOT NULL UNIQUE,
    document TEXT NOT NULL,
    version  INTEGER NOT NULL,
    added_at TEXT NOT NULL
);

CREATE TABLE letter_set_file_numbered (
    set_id    INTEGER NOT NULL REFERENCES letter_set_numbered (id) ON DELETE CASCADE,
    path      TEXT NOT NULL,
    bytes     BLOB NOT NULL,
    blob_hash TEXT,
    PRIMARY KEY (set_id, path)
) WITHOUT ROWID;

INSERT INTO letter_set_numbered SELECT id, name, document, version, added_at FROM letter_set;
INSERT INTO letter_set_file_numbered SELECT set_id, path, bytes, blob_hash FROM letter_set_file WHERE set_id IN (SELECT id FROM letter_set);
DROP TABLE letter_set_file;
DROP TABLE letter_set;
ALTER TABLE letter_set_numbered RENAME TO letter_set;
ALTER TABLE letter_set_file_numbered RENAME TO letter_set_file;
CREATE INDEX letter_set_file_blob ON letter_set_file (blob_hash);
