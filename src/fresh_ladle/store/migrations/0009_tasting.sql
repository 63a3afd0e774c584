-- A blind tasting: its question, what was served as it was then, a seat for each taster with its cups, and the ballots.
-- Tasters are seats by number, never names. A seat's address holds a key that says nothing of what is in its cups.
CREATE TABLE tasting (
  id INTEGER PRIMARY KEY,
  question TEXT NOT NULL,
  attribute TEXT NOT NULL,
  expected TEXT NOT NULL,
  note TEXT NOT NULL,
  simulated INTEGER NOT NULL DEFAULT 0 CHECK (simulated IN (0, 1)),
  planned_at TEXT NOT NULL,
  opened_at TEXT,
  closed_at TEXT
) STRICT;

CREATE TABLE tasting_sample (
  tasting_id INTEGER NOT NULL REFERENCES tasting(id) ON DELETE CASCADE,
  sample TEXT NOT NULL,
  recipe_id INTEGER NOT NULL REFERENCES recipe(id) ON DELETE CASCADE,
  number INTEGER,
  name TEXT NOT NULL,
  document TEXT NOT NULL,
  PRIMARY KEY (tasting_id, sample)
) STRICT, WITHOUT ROWID;
CREATE INDEX tasting_sample_recipe ON tasting_sample(recipe_id);

CREATE TABLE tasting_seat (
  tasting_id INTEGER NOT NULL REFERENCES tasting(id) ON DELETE CASCADE,
  seat INTEGER NOT NULL,
  key TEXT NOT NULL UNIQUE,
  cups TEXT NOT NULL,
  agreed_at TEXT,
  PRIMARY KEY (tasting_id, seat)
) STRICT, WITHOUT ROWID;

CREATE TABLE ballot (
  tasting_id INTEGER NOT NULL REFERENCES tasting(id) ON DELETE CASCADE,
  seat INTEGER NOT NULL,
  answers TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (tasting_id, seat)
) STRICT, WITHOUT ROWID;
