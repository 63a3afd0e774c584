-- A class that practices together: the same questions on every table, answers by seat, no names. Whoever has the key of
-- the round may take a seat. Questions are kept as they were asked.
CREATE TABLE practice_round (
  id INTEGER PRIMARY KEY,
  key TEXT NOT NULL UNIQUE,
  seats INTEGER NOT NULL CHECK (seats BETWEEN 1 AND 60),
  question INTEGER NOT NULL DEFAULT 1,   -- the one that is projected; past the last, the round is over
  revealed INTEGER NOT NULL DEFAULT 0,
  began_at TEXT NOT NULL
) STRICT;

CREATE TABLE practice_question (
  round_id INTEGER NOT NULL REFERENCES practice_round(id) ON DELETE CASCADE,
  number INTEGER NOT NULL,
  document TEXT NOT NULL,
  PRIMARY KEY (round_id, number)
) STRICT, WITHOUT ROWID;

CREATE TABLE practice_seat (
  round_id INTEGER NOT NULL REFERENCES practice_round(id) ON DELETE CASCADE,
  number INTEGER NOT NULL,               -- of the question
  seat INTEGER NOT NULL,
  low REAL,
  high REAL,
  choice INTEGER,
  PRIMARY KEY (round_id, number, seat)
) STRICT, WITHOUT ROWID;
