-- One bowl at the bench: what went in, as it went in. Nothing is taken out of a bowl: a mistake is struck out and stays.
CREATE TABLE bench (
  id INTEGER PRIMARY KEY,
  recipe_id INTEGER NOT NULL REFERENCES recipe(id) ON DELETE CASCADE,
  base TEXT NOT NULL,
  base_revision INTEGER NOT NULL,
  full INTEGER NOT NULL CHECK (full IN (0, 1)),
  by_code TEXT NOT NULL,
  started_at TEXT NOT NULL,
  ended_at TEXT,
  ended_as TEXT CHECK (ended_as IN ('recipe', 'left'))
) STRICT;
CREATE INDEX bench_recipe ON bench(recipe_id);
CREATE UNIQUE INDEX bench_open ON bench(recipe_id) WHERE ended_at IS NULL;

CREATE TABLE bench_event (
  bench_id INTEGER NOT NULL REFERENCES bench(id) ON DELETE CASCADE,
  seq INTEGER NOT NULL,
  at TEXT NOT NULL,
  text TEXT NOT NULL,
  line TEXT NOT NULL,
  token TEXT NOT NULL,
  struck_at TEXT,
  PRIMARY KEY (bench_id, seq),
  UNIQUE (bench_id, token)
) STRICT, WITHOUT ROWID;
