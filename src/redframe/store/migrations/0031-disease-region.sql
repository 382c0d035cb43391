-- How common brood diseases are in the region of an association, as a part of its policy: versioned with it.
ALTER TABLE policy ADD COLUMN disease_region jsonb NOT NULL DEFAULT '{}';
