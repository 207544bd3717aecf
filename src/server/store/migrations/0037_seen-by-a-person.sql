-- Who looked there and said that it had arrived is how that is known.
UPDATE `deliveries` SET `proved_by` = 'person', `cause_detail` = NULL WHERE `state` = 'delivered' AND `cause_detail` = 'Seen there by a person.';
