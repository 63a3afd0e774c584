-- A serving of another size for one use; what a service comes with; minutes set for a task; steps that were timed.
ALTER TABLE service_dish ADD COLUMN serving_grams REAL CHECK (serving_grams > 0);

CREATE TABLE service_beside (
  service_id INTEGER PRIMARY KEY REFERENCES service(id) ON DELETE CASCADE,
  document TEXT NOT NULL           -- a recipe of one serving: what each guest gets with it
) STRICT;

CREATE TABLE service_minutes (
  service_id INTEGER NOT NULL REFERENCES service(id) ON DELETE CASCADE,
  task INTEGER NOT NULL,
  active INTEGER NOT NULL CHECK (active > 0),
  waiting INTEGER NOT NULL CHECK (waiting >= 0),
  PRIMARY KEY (service_id, task)
) STRICT, WITHOUT ROWID;

-- What a step took. `usual` are the minutes of work that the tables give for it, 0 where the method says them.
CREATE TABLE timed_step (
  service_id INTEGER NOT NULL REFERENCES service(id) ON DELETE CASCADE,
  task INTEGER NOT NULL,
  recipe_id INTEGER NOT NULL REFERENCES recipe(id) ON DELETE CASCADE,
  words TEXT NOT NULL,
  verb TEXT NOT NULL,
  usual REAL NOT NULL CHECK (usual >= 0),
  active INTEGER NOT NULL CHECK (active > 0),
  waiting INTEGER NOT NULL CHECK (waiting >= 0),
  at TEXT NOT NULL,
  PRIMARY KEY (service_id, task)
) STRICT, WITHOUT ROWID;
CREATE INDEX timed_step_recipe ON timed_step(recipe_id);
