-- Edits that wait for a person's choice; from when revisions are counted; the order of work a service was given; who
-- tastes at which seat, and who has seen what is poured.
CREATE TABLE waiting_edit (
  id INTEGER PRIMARY KEY,
  recipe_id INTEGER NOT NULL REFERENCES recipe (id) ON DELETE CASCADE,
  base_revision INTEGER NOT NULL,
  document TEXT NOT NULL,
  chooses_profile INTEGER NOT NULL DEFAULT 0 CHECK (chooses_profile IN (0, 1)),
  profile_id INTEGER,
  initials TEXT NOT NULL,
  at TEXT NOT NULL,
  UNIQUE (recipe_id, base_revision, document, chooses_profile, initials)
) STRICT;

CREATE TABLE epoch (
  first_revision INTEGER NOT NULL
) STRICT;

CREATE TABLE service_order (
  service_id INTEGER PRIMARY KEY REFERENCES service (id) ON DELETE CASCADE,
  asked TEXT NOT NULL,
  found TEXT NOT NULL
) STRICT;

CREATE TABLE tasting_taster (
  tasting_id INTEGER NOT NULL REFERENCES tasting (id) ON DELETE CASCADE,
  seat INTEGER NOT NULL,
  initials TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (tasting_id, seat)
) STRICT, WITHOUT ROWID;

CREATE TABLE pouring_seen (
  tasting_id INTEGER NOT NULL REFERENCES tasting (id) ON DELETE CASCADE,
  initials TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (tasting_id, initials)
) STRICT, WITHOUT ROWID;
