-- Deliveries know their target by its id; those of routes from before there were ids are called t1, t2 … as they stood.
ALTER TABLE `deliveries` ADD `target_id` varchar(40) NOT NULL DEFAULT '';
--> statement-breakpoint
UPDATE `deliveries` SET `target_id` = CONCAT('t', `target_index` + 1);
--> statement-breakpoint
ALTER TABLE `deliveries` MODIFY `target_id` varchar(40) NOT NULL;
--> statement-breakpoint
ALTER TABLE `deliveries` DROP COLUMN `target_index`;
