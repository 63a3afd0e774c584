-- People who sign in. By initials; nobody's name. Without a password an account waits for its link to be used.
CREATE TABLE person (
  id INTEGER PRIMARY KEY,
  initials TEXT NOT NULL UNIQUE COLLATE NOCASE,
  role TEXT NOT NULL CHECK (role IN ('owner', 'dietitian', 'cook', 'reader')),
  password_hash TEXT,
  link_hash TEXT,              -- of the link with which a password is chosen, until it is used
  link_until TEXT,
  since TEXT NOT NULL,
  ended_at TEXT                -- an account that has ended stays, since its initials stand in stories
) STRICT;

-- One row for each browser that is signed in. Only hashes of its tokens are kept.
CREATE TABLE session (
  id INTEGER PRIMARY KEY,
  person_id INTEGER NOT NULL REFERENCES person(id) ON DELETE CASCADE,
  token_hash TEXT NOT NULL UNIQUE,
  former_hash TEXT,            -- of the token before the last change, good for requests that were on their way
  began_at TEXT NOT NULL,
  renewed_at TEXT NOT NULL,
  seen_at TEXT NOT NULL
) STRICT;
CREATE INDEX session_person ON session(person_id);

-- Sign-ins that failed, by hash of what was tried and of where from; forgotten after a quarter of an hour.
CREATE TABLE sign_in_failure (
  what TEXT NOT NULL,
  at REAL NOT NULL             -- seconds since 1970
) STRICT;
CREATE INDEX sign_in_failure_what ON sign_in_failure(what);

-- The key that signs cookies. It never leaves the file but in a copy of it.
CREATE TABLE signing_key (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  key TEXT NOT NULL
) STRICT;

-- Who did what. Rows are only ever added: the triggers hold it.
CREATE TABLE activity (
  id INTEGER PRIMARY KEY,
  at TEXT NOT NULL,
  initials TEXT NOT NULL,      -- empty where nobody has an account
  did TEXT NOT NULL,
  about TEXT NOT NULL          -- the address it was done at
) STRICT;
CREATE TRIGGER activity_stays BEFORE UPDATE ON activity
BEGIN
  SELECT RAISE(ABORT, 'what is in the log cannot be changed');
END;
CREATE TRIGGER activity_is_kept BEFORE DELETE ON activity
BEGIN
  SELECT RAISE(ABORT, 'what is in the log cannot be taken out');
END;

ALTER TABLE version ADD COLUMN kept_by TEXT NOT NULL DEFAULT '';
