CREATE TABLE `sendings` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`route_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`state` varchar(10) NOT NULL,
	`since` bigint NOT NULL,
	`until` bigint NOT NULL,
	`per_minute` int NOT NULL,
	`total` int NOT NULL,
	`done` int NOT NULL DEFAULT 0,
	`sent` int NOT NULL DEFAULT 0,
	`held` int NOT NULL DEFAULT 0,
	`asked` int NOT NULL DEFAULT 0,
	`left_out` int NOT NULL DEFAULT 0,
	`last_submission` varchar(36) NOT NULL DEFAULT '',
	`due_at` bigint NOT NULL,
	`started_at` bigint NOT NULL,
	`ended_at` bigint,
	`by_name` varchar(120) NOT NULL,
	CONSTRAINT `sendings_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE INDEX `sendings_work` ON `sendings` (`state`,`due_at`);--> statement-breakpoint
CREATE INDEX `sendings_route` ON `sendings` (`route_id`);