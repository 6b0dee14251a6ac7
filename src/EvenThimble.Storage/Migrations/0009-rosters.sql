-- Rosters, each as a document; what it was before its last changes, to go back to; and what machines have to sew for names.
CREATE TABLE roster (
    id         INTEGER PRIMARY KEY AUTOINCREMENT,
    name       TEXT    NOT NULL,
    people     INTEGER NOT NULL,
    version    INTEGER NOT NULL,
    document   TEXT    NOT NULL,
    changed_at TEXT    NOT NULL
);

CREATE TABLE roster_before (
    roster_id INTEGER NOT NULL REFERENCES roster (id) ON DELETE CASCADE,
    version   INTEGER NOT NULL,
    document  TEXT    NOT NULL,
    PRIMARY KEY (roster_id, version)
);

CREATE TABLE to_sew (
    id       INTEGER PRIMARY KEY AUTOINCREMENT,
    machine  TEXT    NOT NULL,
    job_id   INTEGER NOT NULL,
    title    TEXT    NOT NULL,
    file     TEXT    NOT NULL,
    garments TEXT    NOT NULL,
    copies   INTEGER NOT NULL,
    place    INTEGER NOT NULL,
    state    TEXT    NOT NULL
);

CREATE INDEX to_sew_machine ON to_sew (machine, place);
