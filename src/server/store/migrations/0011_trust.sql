ALTER TABLE `claims` MODIFY COLUMN `rule` varchar(20) NOT NULL;--> statement-breakpoint
ALTER TABLE `contact_values` MODIFY COLUMN `rule` varchar(20) NOT NULL DEFAULT 'latest';--> statement-breakpoint
ALTER TABLE `claims` ADD `trust` varchar(10) DEFAULT 'usual' NOT NULL;--> statement-breakpoint
ALTER TABLE `contact_values` ADD `trust` varchar(10) DEFAULT 'usual' NOT NULL;