CREATE TABLE `route_sources` (
	`route_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	CONSTRAINT `route_sources_route_id_source_id_pk` PRIMARY KEY(`route_id`,`source_id`)
);
--> statement-breakpoint
CREATE INDEX `route_sources_source` ON `route_sources` (`source_id`);--> statement-breakpoint
INSERT INTO `route_sources` (`route_id`, `source_id`) SELECT `id`, `source_id` FROM `routes`;--> statement-breakpoint
ALTER TABLE `routes` DROP COLUMN `source_id`;