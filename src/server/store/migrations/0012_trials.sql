CREATE TABLE `trials` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`route_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`version` int,
	`document` longtext NOT NULL,
	`fingerprint` char(64) character set ascii collate ascii_bin NOT NULL,
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`person` longtext NOT NULL,
	`targets` longtext NOT NULL,
	`state` varchar(10) NOT NULL,
	`started_at` bigint NOT NULL,
	`ended_at` bigint,
	`by_name` varchar(120) NOT NULL,
	CONSTRAINT `trials_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE INDEX `trials_route` ON `trials` (`route_id`,`started_at`);