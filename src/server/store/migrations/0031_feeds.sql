CREATE TABLE `feeds` (
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`fed_by` varchar(10) NOT NULL,
	`address` longtext NOT NULL,
	`every_minutes` int NOT NULL,
	`takes` boolean NOT NULL,
	`evidence` longtext NOT NULL,
	`per_minute` int NOT NULL,
	`last_hash` varchar(64) NOT NULL DEFAULT '',
	`asked_at` bigint,
	`brought_at` bigint,
	`problem` varchar(300) NOT NULL DEFAULT '',
	`due_at` bigint NOT NULL,
	`lease_until` bigint NOT NULL DEFAULT 0,
	CONSTRAINT `feeds_source_id` PRIMARY KEY(`source_id`)
);
--> statement-breakpoint
ALTER TABLE `imports` ADD `fed_by` varchar(10);--> statement-breakpoint
ALTER TABLE `imports` ADD `goes_on` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `imports` ADD `before_id` char(36) character set ascii collate ascii_bin;