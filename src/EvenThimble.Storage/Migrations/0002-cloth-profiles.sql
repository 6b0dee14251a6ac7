-- Cloth profiles of the user's own, as JSON; those that come with the program are in the program.
CREATE TABLE cloth_profile (
    id       TEXT PRIMARY KEY,
    document TEXT NOT NULL,
    made_at  TEXT NOT NULL
) WITHOUT ROWID;
