-- How thick a bowl was found: a run in cm, seconds, or the place of a word, with the water that had gone in by then.
CREATE TABLE thickness_reading (
  id INTEGER PRIMARY KEY,
  bench_id INTEGER NOT NULL REFERENCES bench(id) ON DELETE CASCADE,
  at TEXT NOT NULL,
  how TEXT NOT NULL,
  value REAL NOT NULL,
  water_share REAL NOT NULL CHECK (water_share >= 0),
  minutes REAL NOT NULL CHECK (minutes >= 0),
  celsius REAL,
  struck_at TEXT,
  token TEXT NOT NULL,
  UNIQUE (bench_id, token)
) STRICT;
