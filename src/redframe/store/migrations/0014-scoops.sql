-- Scoops whose bees an association counted by hand: from three on they say how many bees its scoop holds.
ALTER TABLE policy ADD COLUMN scoops jsonb NOT NULL DEFAULT '[]' CHECK (jsonb_typeof(scoops) = 'array');  -- [{ml, bees}]
