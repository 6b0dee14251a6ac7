-- Lettering fonts of the user's own, under the hash of their file; those that come with the program are beside the program.
CREATE TABLE letter_font (
    hash      TEXT PRIMARY KEY,
    name      TEXT NOT NULL UNIQUE,
    file_name TEXT NOT NULL,
    bytes     BLOB NOT NULL,
    added_at  TEXT NOT NULL
) WITHOUT ROWID;

-- When a font was last written with, so that the last ones come first.
CREATE TABLE letter_font_use (
    name    TEXT PRIMARY KEY,
    used_at TEXT NOT NULL
) WITHOUT ROWID;

-- Pairs of letters whose distance was set by hand, by the font's name: what is added to that without kerning, in heights of its capitals.
CREATE TABLE kerning_pair (
    font       TEXT NOT NULL,
    left_text  TEXT NOT NULL,
    right_text TEXT NOT NULL,
    share      REAL NOT NULL,
    PRIMARY KEY (font, left_text, right_text)
) WITHOUT ROWID;
