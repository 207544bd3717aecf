CREATE TABLE `own_files` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`name` varchar(120) NOT NULL,
	`media_type` varchar(120) NOT NULL,
	`size` bigint NOT NULL,
	`sha256` char(64) character set ascii collate ascii_bin NOT NULL,
	`width` int NOT NULL DEFAULT 0,
	`height` int NOT NULL DEFAULT 0,
	`added_at` bigint NOT NULL,
	CONSTRAINT `own_files_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `sources` ADD `publish_at` bigint;--> statement-breakpoint
ALTER TABLE `sources` ADD `publish_by` varchar(120);--> statement-breakpoint
ALTER TABLE `sources` ADD `archived_at` bigint;--> statement-breakpoint
ALTER TABLE `submissions` ADD `took_seconds` int;--> statement-breakpoint
ALTER TABLE `submissions` ADD `replied_at` bigint;--> statement-breakpoint
ALTER TABLE `submissions` ADD `replied_by` varchar(120);