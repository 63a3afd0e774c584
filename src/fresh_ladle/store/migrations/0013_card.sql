-- What an educator chose for the card of a recipe, as JSON: for whom, variations, facts, words of their own; and where
-- they let words stand that a rule marks.
CREATE TABLE card_choice (
  recipe_id INTEGER PRIMARY KEY REFERENCES recipe(id) ON DELETE CASCADE,
  document TEXT NOT NULL,
  changed_at TEXT NOT NULL
) STRICT;

CREATE TABLE word_let_stand (
  recipe_id INTEGER NOT NULL REFERENCES recipe(id) ON DELETE CASCADE,
  rule TEXT NOT NULL,
  words TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (recipe_id, rule, words)
) STRICT, WITHOUT ROWID;
