-- Foods as shipped, for search and for looking a figure up; the reading of recipes works on the same rows in memory.
CREATE TABLE food (
  key TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  aliases TEXT NOT NULL,
  food_group TEXT NOT NULL,
  stocked INTEGER NOT NULL,
  note TEXT NOT NULL
) STRICT;

CREATE TABLE food_figure (
  food_key TEXT NOT NULL REFERENCES food(key) ON DELETE CASCADE,
  nutrient TEXT NOT NULL,
  per_100_g REAL,              -- NULL is not determined, never zero
  source TEXT NOT NULL,
  grade TEXT NOT NULL CHECK (grade IN ('A', 'B', 'C')),
  PRIMARY KEY (food_key, nutrient)
) STRICT, WITHOUT ROWID;

CREATE VIRTUAL TABLE food_text USING fts5(name, aliases, key UNINDEXED, tokenize = 'porter unicode61 remove_diacritics 2', prefix = '2 3');

CREATE TABLE shipped (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  checksum TEXT NOT NULL
) STRICT;

CREATE TABLE profile (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE,
  eaten_as TEXT NOT NULL,      -- side, main, dip, spread, dressing
  school TEXT NOT NULL,
  note TEXT NOT NULL DEFAULT ''
) STRICT;

CREATE TABLE target (
  profile_id INTEGER NOT NULL REFERENCES profile(id) ON DELETE CASCADE,
  nutrient TEXT NOT NULL,
  side TEXT NOT NULL CHECK (side IN ('at most', 'at least')),
  limit_value REAL NOT NULL CHECK (limit_value >= 0),
  PRIMARY KEY (profile_id, nutrient, side)
) STRICT;

CREATE TABLE recipe (
  id INTEGER PRIMARY KEY,
  title TEXT NOT NULL,
  profile_id INTEGER REFERENCES profile(id) ON DELETE SET NULL,
  created_at TEXT NOT NULL
) STRICT;

-- An accepted version never changes: the triggers hold what the code promises.
CREATE TABLE version (
  id INTEGER PRIMARY KEY,
  recipe_id INTEGER NOT NULL REFERENCES recipe(id) ON DELETE CASCADE,
  number INTEGER NOT NULL,
  name TEXT NOT NULL,
  note TEXT NOT NULL,
  document TEXT NOT NULL,
  created_at TEXT NOT NULL,
  UNIQUE (recipe_id, number)
) STRICT;

CREATE TRIGGER version_is_immutable BEFORE UPDATE ON version
BEGIN
  SELECT RAISE(ABORT, 'an accepted version cannot be changed');
END;

-- Work happens in a draft: every accepted edit is a state of its own, and undo moves the cursor.
CREATE TABLE draft (
  recipe_id INTEGER PRIMARY KEY REFERENCES recipe(id) ON DELETE CASCADE,
  based_on INTEGER REFERENCES version(id),
  revision INTEGER NOT NULL,
  cursor INTEGER NOT NULL
) STRICT;

CREATE TABLE draft_state (
  recipe_id INTEGER NOT NULL REFERENCES recipe(id) ON DELETE CASCADE,
  seq INTEGER NOT NULL,
  document TEXT NOT NULL,
  what TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (recipe_id, seq)
) STRICT, WITHOUT ROWID;
