-- States of a draft form a tree: an edit after an undo starts a new branch, and nothing that was done is thrown away.
ALTER TABLE draft_state ADD COLUMN parent INTEGER;
UPDATE draft_state SET parent = seq - 1 WHERE seq > 0;

-- Which state a draft showed at each revision, so that an edit made on an older page can be merged with what came between.
CREATE TABLE revision_state (
  recipe_id INTEGER NOT NULL REFERENCES recipe(id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  seq INTEGER NOT NULL,
  PRIMARY KEY (recipe_id, revision)
) STRICT, WITHOUT ROWID;
INSERT INTO revision_state SELECT recipe_id, revision, cursor FROM draft;

-- The state in which the version was kept that the draft is based on; the edits since then are the story of the next one.
ALTER TABLE draft ADD COLUMN base_seq INTEGER NOT NULL DEFAULT 0;
ALTER TABLE version ADD COLUMN edits TEXT NOT NULL DEFAULT '[]';

-- What happened to a version after it was kept. Codes only, never a person's name.
CREATE TABLE version_mark (
  id INTEGER PRIMARY KEY,
  version_id INTEGER NOT NULL REFERENCES version(id) ON DELETE CASCADE,
  kind TEXT NOT NULL CHECK (kind IN ('tasted', 'approved')),
  by_code TEXT NOT NULL,
  remark TEXT NOT NULL,
  at TEXT NOT NULL
) STRICT;
CREATE INDEX version_mark_version ON version_mark(version_id);

ALTER TABLE target ADD COLUMN basis TEXT NOT NULL DEFAULT 'serving' CHECK (basis IN ('serving', '100 g'));
ALTER TABLE target ADD COLUMN firmness TEXT NOT NULL DEFAULT 'hard' CHECK (firmness IN ('hard', 'soft'));
-- Allergens and food keys, as a JSON list.
ALTER TABLE profile ADD COLUMN exclusions TEXT NOT NULL DEFAULT '[]';

-- A recipe that is put away is off the shelf but not lost.
ALTER TABLE recipe ADD COLUMN put_away INTEGER NOT NULL DEFAULT 0;

CREATE TABLE setting (
  name TEXT PRIMARY KEY,
  value TEXT NOT NULL
) STRICT;

-- How each recipe stands, worked out once for each revision, so that the Shelf need not work out every recipe.
CREATE TABLE standing (
  recipe_id INTEGER PRIMARY KEY REFERENCES recipe(id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  title TEXT NOT NULL,
  kind TEXT NOT NULL,
  servings REAL NOT NULL,
  serving_grams REAL NOT NULL,
  changed INTEGER NOT NULL,
  problems INTEGER NOT NULL,
  allergens_known INTEGER NOT NULL,
  worked_at TEXT NOT NULL
) STRICT;
CREATE INDEX standing_worked ON standing(worked_at DESC);

CREATE TABLE standing_figure (
  recipe_id INTEGER NOT NULL REFERENCES recipe(id) ON DELETE CASCADE,
  nutrient TEXT NOT NULL,
  basis TEXT NOT NULL,         -- serving, 100 g
  value REAL NOT NULL,
  low REAL NOT NULL,
  high REAL NOT NULL,
  complete INTEGER NOT NULL,
  original REAL NOT NULL,      -- what the original held
  PRIMARY KEY (recipe_id, nutrient, basis)
) STRICT, WITHOUT ROWID;

-- What a recipe holds, by the word it is looked for under: allergen:sesame, food:feta, refused:seeds-not-oil.
CREATE TABLE standing_holds (
  what TEXT NOT NULL,
  recipe_id INTEGER NOT NULL REFERENCES recipe(id) ON DELETE CASCADE,
  PRIMARY KEY (what, recipe_id)
) STRICT, WITHOUT ROWID;

CREATE VIRTUAL TABLE standing_text USING fts5(title, foods, tokenize = 'porter unicode61 remove_diacritics 2', prefix = '2 3');
