-- The days on which the app was begun: a clock that is wrong for a day must not empty the bin.
CREATE TABLE days (day TEXT PRIMARY KEY);
