CREATE TABLE `shops` (
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`connection_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`position` varchar(120) NOT NULL DEFAULT '',
	`heard_at` bigint,
	`asked_at` bigint,
	`missed` int NOT NULL DEFAULT 0,
	`missed_at` bigint,
	`problem` varchar(300) NOT NULL DEFAULT '',
	`due_at` bigint NOT NULL DEFAULT 0,
	`lease_until` bigint NOT NULL DEFAULT 0,
	CONSTRAINT `shops_source_id` PRIMARY KEY(`source_id`),
	CONSTRAINT `shops_connection_id_unique` UNIQUE(`connection_id`)
);
--> statement-breakpoint
ALTER TABLE `imports` ADD `fetched` longtext;