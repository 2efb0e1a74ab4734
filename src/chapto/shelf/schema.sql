-- The index over all breakdowns. It can be thrown away: everything in it is read from their files again.
CREATE TABLE breakdown (
  id INTEGER PRIMARY KEY,
  path TEXT NOT NULL UNIQUE,
  state TEXT NOT NULL,                       -- here, missing, damaged
  trouble TEXT NOT NULL DEFAULT '',          -- a sentence, where it is not here
  changed INTEGER NOT NULL DEFAULT 0,        -- when the file was changed, nanoseconds
  size INTEGER NOT NULL DEFAULT 0,
  digest TEXT NOT NULL DEFAULT '',           -- SHA-256 of the file
  title TEXT NOT NULL DEFAULT '',
  part TEXT NOT NULL DEFAULT '',
  first TEXT NOT NULL DEFAULT '',
  second TEXT NOT NULL DEFAULT '',
  rules TEXT NOT NULL DEFAULT '',
  style TEXT NOT NULL DEFAULT '',
  about TEXT NOT NULL DEFAULT '',
  sections TEXT NOT NULL DEFAULT '[]',       -- titles of its chapters
  marks TEXT NOT NULL DEFAULT '[]',          -- kinds of what is drawn
  filmed TEXT NOT NULL DEFAULT '',           -- day of its footage, where a file says so
  saved TEXT NOT NULL DEFAULT '',            -- day on which the file was saved
  day TEXT NOT NULL DEFAULT ''               -- the day it counts for: filmed, else first out, else saved
);
CREATE INDEX breakdown_digest ON breakdown (digest);
CREATE TABLE place (
  id INTEGER PRIMARY KEY,
  breakdown INTEGER NOT NULL REFERENCES breakdown (id) ON DELETE CASCADE,
  key TEXT NOT NULL,
  is_exchange INTEGER NOT NULL,
  start REAL NOT NULL,
  "end" REAL NOT NULL,
  footage TEXT NOT NULL,
  media_in REAL NOT NULL,
  media_out REAL NOT NULL,
  technique TEXT NOT NULL,
  called TEXT NOT NULL,
  who TEXT NOT NULL,
  against TEXT NOT NULL,
  outcome TEXT NOT NULL,
  before TEXT NOT NULL,
  after TEXT NOT NULL,
  way TEXT NOT NULL,                         -- positions from the one to the other
  moments TEXT NOT NULL,                     -- kinds with seconds after the start
  explained INTEGER NOT NULL,
  answer TEXT NOT NULL,
  answer_after REAL,
  round TEXT NOT NULL,
  same TEXT NOT NULL                         -- the same in another breakdown: file and second
);
CREATE INDEX place_breakdown ON place (breakdown);
CREATE INDEX place_technique ON place (technique);
CREATE INDEX place_before ON place (before);
CREATE VIRTUAL TABLE words USING fts5 (
  names, said, noted, who, of, tokenize = "unicode61 remove_diacritics 2", prefix = '2 3'
);
CREATE TABLE stay (
  breakdown INTEGER NOT NULL REFERENCES breakdown (id) ON DELETE CASCADE,
  position TEXT NOT NULL, start REAL NOT NULL, seconds REAL NOT NULL, top TEXT NOT NULL, explained INTEGER NOT NULL,
  same TEXT NOT NULL
);
CREATE INDEX stay_breakdown ON stay (breakdown);
CREATE TABLE step (
  breakdown INTEGER NOT NULL REFERENCES breakdown (id) ON DELETE CASCADE,
  start TEXT NOT NULL, "end" TEXT NOT NULL, at REAL NOT NULL, key TEXT NOT NULL, outcome TEXT NOT NULL,
  explained INTEGER NOT NULL, same TEXT NOT NULL
);
CREATE INDEX step_breakdown ON step (breakdown);
CREATE TABLE seen (
  breakdown INTEGER NOT NULL REFERENCES breakdown (id) ON DELETE CASCADE,
  name TEXT NOT NULL, part TEXT NOT NULL, agreement TEXT NOT NULL, how TEXT NOT NULL, "when" TEXT NOT NULL,
  minor INTEGER, credit TEXT NOT NULL, until TEXT NOT NULL, is_owner INTEGER NOT NULL
);
CREATE INDEX seen_breakdown ON seen (breakdown);
CREATE INDEX seen_name ON seen (name);
CREATE TABLE out (
  breakdown INTEGER NOT NULL REFERENCES breakdown (id) ON DELETE CASCADE,
  at TEXT NOT NULL, site TEXT NOT NULL, address TEXT NOT NULL, title TEXT NOT NULL, goes_public TEXT NOT NULL,
  withdrawn TEXT NOT NULL
);
CREATE INDEX out_breakdown ON out (breakdown);
CREATE TABLE promise (
  breakdown INTEGER NOT NULL REFERENCES breakdown (id) ON DELETE CASCADE,
  kind TEXT NOT NULL, quote TEXT NOT NULL, sentence TEXT NOT NULL, beat TEXT NOT NULL, word INTEGER NOT NULL,
  place TEXT NOT NULL                        -- the exchange or section it was said over
);
CREATE INDEX promise_breakdown ON promise (breakdown);
CREATE TABLE file (
  breakdown INTEGER NOT NULL REFERENCES breakdown (id) ON DELETE CASCADE,
  id TEXT NOT NULL, name TEXT NOT NULL, path TEXT NOT NULL, fingerprint TEXT NOT NULL, mirrored INTEGER NOT NULL
);
CREATE INDEX file_breakdown ON file (breakdown);
