-- How many films a revision has and how large it is, found when its small picture is made; all are made once more.
DELETE FROM looks;
ALTER TABLE looks ADD COLUMN films INTEGER;
ALTER TABLE looks ADD COLUMN width_mm REAL;
ALTER TABLE looks ADD COLUMN height_mm REAL;
