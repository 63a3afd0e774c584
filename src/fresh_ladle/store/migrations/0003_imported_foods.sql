-- Composition data brought in from a national table: figures and portions, without taste.
CREATE TABLE imported_food (
  key TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  food_group TEXT NOT NULL,
  source TEXT NOT NULL
) STRICT;

CREATE TABLE imported_figure (
  food_key TEXT NOT NULL REFERENCES imported_food(key) ON DELETE CASCADE,
  nutrient TEXT NOT NULL,
  per_100_g REAL NOT NULL,
  PRIMARY KEY (food_key, nutrient)
) STRICT, WITHOUT ROWID;

CREATE TABLE imported_portion (
  food_key TEXT NOT NULL REFERENCES imported_food(key) ON DELETE CASCADE,
  unit TEXT NOT NULL,
  grams REAL NOT NULL CHECK (grams > 0),
  PRIMARY KEY (food_key, unit)
) STRICT, WITHOUT ROWID;
