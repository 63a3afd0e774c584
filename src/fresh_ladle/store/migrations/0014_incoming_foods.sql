-- Where a composition release is read to, in small steps, before it takes the place of what was imported: the tables
-- change names in one step. What they hold otherwise is of no use to anybody.
CREATE TABLE incoming_food (
  key TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  food_group TEXT NOT NULL,
  source TEXT NOT NULL
) STRICT;

CREATE TABLE incoming_figure (
  food_key TEXT NOT NULL REFERENCES incoming_food(key) ON DELETE CASCADE,
  nutrient TEXT NOT NULL,
  per_100_g REAL NOT NULL,
  PRIMARY KEY (food_key, nutrient)
) STRICT, WITHOUT ROWID;

CREATE TABLE incoming_portion (
  food_key TEXT NOT NULL REFERENCES incoming_food(key) ON DELETE CASCADE,
  unit TEXT NOT NULL,
  grams REAL NOT NULL CHECK (grams > 0),
  PRIMARY KEY (food_key, unit)
) STRICT, WITHOUT ROWID;
