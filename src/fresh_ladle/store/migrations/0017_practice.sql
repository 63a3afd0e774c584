-- Answers of those who practice, by initials; empty where nobody has an account. Nothing here refers to a recipe.
CREATE TABLE practice_answer (
  id INTEGER PRIMARY KEY,
  learner TEXT NOT NULL,
  asked TEXT NOT NULL,         -- random: the same page sent twice is one answer
  kind TEXT NOT NULL,
  seed INTEGER NOT NULL,
  about TEXT NOT NULL,
  subject TEXT NOT NULL,
  low REAL,                    -- the range that was given
  high REAL,
  choice INTEGER,              -- or what was chosen
  value REAL NOT NULL,
  was_right INTEGER NOT NULL,
  at TEXT NOT NULL,
  UNIQUE (learner, asked)
) STRICT;

-- When each is to come again.
CREATE TABLE practice_card (
  learner TEXT NOT NULL,
  kind TEXT NOT NULL,
  about TEXT NOT NULL,
  seed INTEGER NOT NULL,
  due TEXT NOT NULL,
  memory TEXT NOT NULL,        -- JSON of the scheduler
  PRIMARY KEY (learner, kind, about)
) STRICT, WITHOUT ROWID;
CREATE INDEX practice_card_due ON practice_card(learner, due);
