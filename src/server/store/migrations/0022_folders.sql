ALTER TABLE `connections` ADD `folder` varchar(60) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `routes` ADD `folder` varchar(60) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `routes` ADD `archived_at` bigint;--> statement-breakpoint
ALTER TABLE `sources` ADD `folder` varchar(60) DEFAULT '' NOT NULL;