-- Each recipe as numbers, beside how it stands: after a food's figure has changed, figures come from one product of these
-- with the foods, and nothing is read or weighed again. All of this is worked out, and can be worked out anew.
CREATE TABLE shelf_food (
  number INTEGER PRIMARY KEY,
  key TEXT NOT NULL UNIQUE
) STRICT;

CREATE TABLE shelf_form (
  recipe_id INTEGER PRIMARY KEY REFERENCES recipe(id) ON DELETE CASCADE,
  original_pinned INTEGER NOT NULL,   -- whether the original keeps its own figures of all its foods
  form BLOB NOT NULL                  -- float64, see core/nutrients/form.py
) STRICT;

CREATE INDEX shelf_form_unpinned ON shelf_form(recipe_id) WHERE original_pinned = 0;

CREATE TABLE shelf_form_food (
  number INTEGER NOT NULL REFERENCES shelf_food(number),
  recipe_id INTEGER NOT NULL REFERENCES recipe(id) ON DELETE CASCADE,
  PRIMARY KEY (number, recipe_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX shelf_form_food_recipe ON shelf_form_food(recipe_id);
CREATE INDEX shelf_tag_recipe ON shelf_tag(recipe_id);

-- A figure in a serving and in 100 g side by side, and one figure of all recipes together: a figure that changes is
-- written in few places.
DROP TABLE shelf_figure;
CREATE TABLE shelf_figure (
  nutrient TEXT NOT NULL,
  recipe_id INTEGER NOT NULL,
  complete INTEGER NOT NULL,
  value REAL NOT NULL,
  low REAL NOT NULL,
  high REAL NOT NULL,
  original REAL NOT NULL,             -- what the original held
  part_value REAL NOT NULL,           -- in 100 g
  part_low REAL NOT NULL,
  part_high REAL NOT NULL,
  part_original REAL NOT NULL,
  PRIMARY KEY (nutrient, recipe_id)
) STRICT, WITHOUT ROWID;
DELETE FROM shelf_row;
