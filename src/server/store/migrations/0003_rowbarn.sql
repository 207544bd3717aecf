-- The stand-in for sheets has another name.
UPDATE `connections` SET `profile` = 'rowbarn', `name` = REPLACE(`name`, 'Tallyrow', 'Rowbarn') WHERE `profile` = 'tallyrow';
