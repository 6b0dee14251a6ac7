-- Stitches of designs, each blob once, under the SHA-256 of its bytes.
CREATE TABLE stitch_blob (
    hash  TEXT PRIMARY KEY,
    bytes BLOB NOT NULL
) WITHOUT ROWID;

-- Designs on the shelf, with the file byte for byte as it came.
CREATE TABLE design (
    id             INTEGER PRIMARY KEY AUTOINCREMENT,
    title          TEXT    NOT NULL,
    file_name      TEXT    NOT NULL,
    kind           TEXT    NOT NULL,
    tags           TEXT    NOT NULL DEFAULT '',
    added_at       TEXT    NOT NULL,
    deleted_at     TEXT,
    width          REAL    NOT NULL,
    height         REAL    NOT NULL,
    stitches       INTEGER NOT NULL,
    thread_changes INTEGER NOT NULL,
    notes          TEXT    NOT NULL,
    blob_hash      TEXT    NOT NULL REFERENCES stitch_blob (hash),
    parts          TEXT    NOT NULL,
    original       BLOB    NOT NULL,
    original_hash  TEXT    NOT NULL,
    picture        BLOB    NOT NULL
);

CREATE UNIQUE INDEX design_original ON design (original_hash);

-- A job points at one of its revisions; version grows with every change, undo and redo included.
CREATE TABLE job (
    id         INTEGER PRIMARY KEY AUTOINCREMENT,
    title      TEXT    NOT NULL,
    made_at    TEXT    NOT NULL,
    changed_at TEXT    NOT NULL,
    deleted_at TEXT,
    version    INTEGER NOT NULL,
    position   INTEGER NOT NULL
);

CREATE TABLE revision (
    job_id   INTEGER NOT NULL REFERENCES job (id),
    position INTEGER NOT NULL,
    label    TEXT    NOT NULL,
    made_at  TEXT    NOT NULL,
    document TEXT    NOT NULL,
    PRIMARY KEY (job_id, position)
) WITHOUT ROWID;

-- Thread charts.
CREATE TABLE thread_chart (
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    maker TEXT NOT NULL,
    range TEXT NOT NULL,
    UNIQUE (maker, range)
);

CREATE TABLE thread (
    chart_id INTEGER NOT NULL REFERENCES thread_chart (id),
    place    INTEGER NOT NULL,
    number   TEXT    NOT NULL,
    name     TEXT    NOT NULL,
    colour   TEXT    NOT NULL,
    PRIMARY KEY (chart_id, place)
) WITHOUT ROWID;
