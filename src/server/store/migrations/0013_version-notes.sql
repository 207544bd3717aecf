ALTER TABLE `route_versions` ADD `note` varchar(300) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `route_versions` ADD `by_name` varchar(120) DEFAULT '' NOT NULL;