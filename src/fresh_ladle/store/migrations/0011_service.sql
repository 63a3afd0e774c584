-- A service: dishes for many, eaten at a moment in the time of the place. Dishes are held as they were when they were
-- put in. What was done is kept by the number of the task. Records of temperatures are closed once and then only added to.
CREATE TABLE service (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  eaten_at TEXT NOT NULL,          -- local date and time, without offset
  zone TEXT NOT NULL,
  place TEXT NOT NULL,
  cooks INTEGER NOT NULL,
  ovens INTEGER NOT NULL,
  trays INTEGER NOT NULL,
  burners INTEGER NOT NULL,
  blender_ml REAL NOT NULL,
  at_risk INTEGER NOT NULL CHECK (at_risk IN (0, 1)),
  again_at TEXT,                   -- the moment from which the day was planned again, in UTC
  created_at TEXT NOT NULL
) STRICT;

CREATE TABLE service_dish (
  service_id INTEGER NOT NULL REFERENCES service(id) ON DELETE CASCADE,
  place INTEGER NOT NULL,
  recipe_id INTEGER NOT NULL REFERENCES recipe(id) ON DELETE CASCADE,
  number INTEGER,
  name TEXT NOT NULL,
  servings REAL NOT NULL CHECK (servings > 0),
  document TEXT NOT NULL,
  former TEXT NOT NULL,            -- what its lines were called in the original, where they are something else now
  PRIMARY KEY (service_id, place)
) STRICT, WITHOUT ROWID;
CREATE INDEX service_dish_recipe ON service_dish(recipe_id);

CREATE TABLE service_done (
  service_id INTEGER NOT NULL REFERENCES service(id) ON DELETE CASCADE,
  task INTEGER NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (service_id, task)
) STRICT, WITHOUT ROWID;

-- What came back of a dish after the meal, in grams.
CREATE TABLE service_leftover (
  service_id INTEGER NOT NULL REFERENCES service(id) ON DELETE CASCADE,
  place INTEGER NOT NULL,
  grams REAL NOT NULL CHECK (grams >= 0),
  at TEXT NOT NULL,
  PRIMARY KEY (service_id, place)
) STRICT, WITHOUT ROWID;

-- The bought dish that a recipe stands against: a food with a label and a price of its own.
CREATE TABLE bought_instead (
  recipe_id INTEGER PRIMARY KEY REFERENCES recipe(id) ON DELETE CASCADE,
  food_key TEXT NOT NULL
) STRICT;

CREATE TABLE stock (
  food_key TEXT PRIMARY KEY,
  grams REAL NOT NULL CHECK (grams >= 0),
  changed_at TEXT NOT NULL
) STRICT;

CREATE TABLE temperature_record (
  id INTEGER PRIMARY KEY,
  service_id INTEGER NOT NULL REFERENCES service(id) ON DELETE CASCADE,
  dish TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('cooling', 'cold holding', 'hot holding')),
  opened_at TEXT NOT NULL,
  closed_at TEXT
) STRICT;
CREATE INDEX temperature_record_service ON temperature_record(service_id);

CREATE TABLE temperature_entry (
  record_id INTEGER NOT NULL REFERENCES temperature_record(id) ON DELETE CASCADE,
  seq INTEGER NOT NULL,
  at TEXT NOT NULL,
  celsius REAL,
  what TEXT NOT NULL,              -- a reading, or what was done and said
  after_closing INTEGER NOT NULL CHECK (after_closing IN (0, 1)),
  PRIMARY KEY (record_id, seq)
) STRICT, WITHOUT ROWID;

CREATE TRIGGER temperature_entry_stays BEFORE UPDATE ON temperature_entry
BEGIN
  SELECT RAISE(ABORT, 'an entry of a record cannot be changed');
END;

CREATE TRIGGER temperature_entry_is_kept BEFORE DELETE ON temperature_entry
WHEN EXISTS (SELECT 1 FROM temperature_record WHERE id = OLD.record_id)
BEGIN
  SELECT RAISE(ABORT, 'an entry of a record cannot be taken out');
END;

CREATE TRIGGER temperature_record_closes_once BEFORE UPDATE ON temperature_record
WHEN OLD.closed_at IS NOT NULL
BEGIN
  SELECT RAISE(ABORT, 'a closed record cannot be changed');
END;
