-- Plans set aside for review. `steps` is JSON; they are worked out again on the draft when they are looked at.
CREATE TABLE kept_plan (
  id INTEGER PRIMARY KEY,
  recipe_id INTEGER NOT NULL REFERENCES recipe(id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  name TEXT NOT NULL,
  why TEXT NOT NULL,
  steps TEXT NOT NULL,
  targets TEXT NOT NULL,
  kept_at TEXT NOT NULL
) STRICT;

-- Schools of fat of the practice's own: what each refuses to bring in.
CREATE TABLE own_school (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL UNIQUE,
  creed TEXT NOT NULL,
  refuses_oil INTEGER NOT NULL,
  refuses_salt INTEGER NOT NULL,
  refuses_sugar INTEGER NOT NULL,
  refuses_full_fat_dairy INTEGER NOT NULL
) STRICT;
