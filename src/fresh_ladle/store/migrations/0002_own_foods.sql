-- Foods of the practice's own, from a label or copied from another food.
CREATE TABLE own_food (
  key TEXT PRIMARY KEY,
  document TEXT NOT NULL,
  changed_at TEXT NOT NULL
) STRICT;

CREATE TABLE price (
  food_key TEXT PRIMARY KEY,
  amount REAL NOT NULL CHECK (amount >= 0),
  pack_grams REAL NOT NULL CHECK (pack_grams > 0),
  changed_at TEXT NOT NULL
) STRICT;

-- The figures per 100 g each accepted version was computed with. Versions from before hold none and use those of today.
ALTER TABLE version ADD COLUMN pinned TEXT NOT NULL DEFAULT '{}';
