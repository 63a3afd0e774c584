-- A version that holds what must not be in it for whom it is made was handed out all the same: which exclusions it broke,
-- in words, and why.
CREATE TABLE handed_out (
  recipe_id INTEGER NOT NULL REFERENCES recipe(id) ON DELETE CASCADE,
  version_number INTEGER NOT NULL,
  broken TEXT NOT NULL,
  reason TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (recipe_id, version_number, broken)
) STRICT, WITHOUT ROWID;
