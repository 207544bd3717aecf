CREATE TABLE `import_rejects` (
	`import_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`row_number` int NOT NULL,
	`why` varchar(500) NOT NULL,
	`cells` longtext NOT NULL,
	CONSTRAINT `import_rejects_import_id_row_number_pk` PRIMARY KEY(`import_id`,`row_number`)
);
--> statement-breakpoint
CREATE TABLE `imports` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`file_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`name` varchar(120) NOT NULL,
	`size` bigint NOT NULL,
	`state` varchar(12) NOT NULL,
	`problem` varchar(300) NOT NULL DEFAULT '',
	`reading` longtext,
	`written` longtext NOT NULL,
	`columns_found` longtext NOT NULL,
	`total` int NOT NULL DEFAULT 0,
	`evidence` longtext NOT NULL,
	`per_minute` int NOT NULL,
	`last_row` int NOT NULL DEFAULT 0,
	`done` int NOT NULL DEFAULT 0,
	`counts` longtext NOT NULL,
	`rehearsed` longtext,
	`by_name` varchar(120) NOT NULL,
	`created_at` bigint NOT NULL,
	`ended_at` bigint,
	`due_at` bigint NOT NULL,
	`lease_until` bigint NOT NULL DEFAULT 0,
	`lease_owner` varchar(40),
	CONSTRAINT `imports_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE INDEX `imports_work` ON `imports` (`state`,`due_at`);--> statement-breakpoint
CREATE INDEX `imports_source` ON `imports` (`source_id`,`id`);