-- What those who practice poured, weighed; and what the practice has taken over from it as its own.
CREATE TABLE practice_pour (
  id INTEGER PRIMARY KEY,
  learner TEXT NOT NULL,
  asked TEXT NOT NULL,
  word TEXT NOT NULL,
  food_group TEXT NOT NULL,
  grams REAL NOT NULL CHECK (grams > 0),
  at TEXT NOT NULL,
  UNIQUE (learner, asked)
) STRICT;

CREATE TABLE own_pour (
  word TEXT NOT NULL,
  food_group TEXT NOT NULL,
  grams REAL NOT NULL,
  low REAL NOT NULL,
  high REAL NOT NULL,
  pours INTEGER NOT NULL,
  since TEXT NOT NULL,
  PRIMARY KEY (word, food_group)
) STRICT, WITHOUT ROWID;
