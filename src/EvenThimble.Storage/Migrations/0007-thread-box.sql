-- The thread box. Charts of one's own stand beside those that come with the program; those that one buys are in an order.
ALTER TABLE thread_chart ADD COLUMN own INTEGER NOT NULL DEFAULT 0;
ALTER TABLE thread_chart ADD COLUMN bought_place INTEGER;

-- How a thread is sold; NULL: as is usual for its range.
ALTER TABLE thread ADD COLUMN weight INTEGER;
ALTER TABLE thread ADD COLUMN cone_metres REAL;
ALTER TABLE thread ADD COLUMN price TEXT;

-- Racks with the cones on them. A cone keeps all that is known of its thread, whatever becomes of the chart.
CREATE TABLE rack (
    id   INTEGER PRIMARY KEY,
    name TEXT NOT NULL UNIQUE
);

CREATE TABLE cone (
    rack_id     INTEGER NOT NULL REFERENCES rack (id) ON DELETE CASCADE,
    maker       TEXT    NOT NULL,
    number      TEXT    NOT NULL,
    name        TEXT    NOT NULL,
    colour      TEXT    NOT NULL,
    fibre       TEXT    NOT NULL,
    weight      INTEGER,
    count       INTEGER NOT NULL,
    full_metres REAL    NOT NULL,
    left_metres REAL    NOT NULL,
    stands      TEXT    NOT NULL,
    low_metres  REAL    NOT NULL,
    empty_grams REAL,
    used_metres REAL    NOT NULL,
    PRIMARY KEY (rack_id, maker, number)
) WITHOUT ROWID;

CREATE INDEX cone_thread ON cone (maker, number);

-- Which rack a job is sewn from.
CREATE TABLE job_rack (
    job_id  INTEGER PRIMARY KEY,
    rack_id INTEGER NOT NULL REFERENCES rack (id) ON DELETE CASCADE
);

-- What was taken in place of what, so that it is offered first the next time.
CREATE TABLE substitution (
    maker     TEXT NOT NULL,
    number    TEXT NOT NULL,
    to_maker  TEXT NOT NULL,
    to_number TEXT NOT NULL,
    at        TEXT NOT NULL,
    PRIMARY KEY (maker, number)
) WITHOUT ROWID;

-- What was sewn from which rack; its lines are JSON.
CREATE TABLE thread_use (
    id        INTEGER PRIMARY KEY AUTOINCREMENT,
    rack_id   INTEGER REFERENCES rack (id) ON DELETE SET NULL,
    job_id    INTEGER NOT NULL,
    title     TEXT    NOT NULL,
    copies    INTEGER NOT NULL,
    lines     TEXT    NOT NULL,
    sewn_at   TEXT    NOT NULL,
    undone_at TEXT
);

-- What is to be bought for which job.
CREATE TABLE to_buy (
    job_id INTEGER NOT NULL,
    title  TEXT    NOT NULL,
    maker  TEXT    NOT NULL,
    number TEXT    NOT NULL,
    name   TEXT    NOT NULL,
    colour TEXT    NOT NULL,
    metres REAL    NOT NULL,
    PRIMARY KEY (job_id, maker, number, name)
) WITHOUT ROWID;

-- Which thread is on which needle of a machine now.
CREATE TABLE needle (
    machine TEXT    NOT NULL,
    needle  INTEGER NOT NULL,
    maker   TEXT    NOT NULL,
    number  TEXT    NOT NULL,
    name    TEXT    NOT NULL,
    colour  TEXT    NOT NULL,
    PRIMARY KEY (machine, needle)
) WITHOUT ROWID;

INSERT INTO rack (name) VALUES ('My rack');
