-- Hoops of the user's own, each of a machine; lengths in mm.
CREATE TABLE own_hoop (
    id            INTEGER PRIMARY KEY AUTOINCREMENT,
    machine       TEXT    NOT NULL,
    name          TEXT    NOT NULL,
    shape         TEXT    NOT NULL,
    width         REAL    NOT NULL,
    height        REAL    NOT NULL,
    corner_radius REAL    NOT NULL,
    margin        REAL    NOT NULL,
    positions     INTEGER NOT NULL,
    position_step REAL    NOT NULL,
    across        INTEGER NOT NULL
);
