CREATE TABLE `noted_arrivals` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`received_at` bigint NOT NULL,
	`outcome` varchar(20) NOT NULL,
	`why` varchar(300) NOT NULL,
	`content_type` varchar(120) NOT NULL,
	`headers` longtext NOT NULL,
	`body` longtext NOT NULL,
	`submissions` longtext NOT NULL,
	CONSTRAINT `noted_arrivals_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `source_secrets` (
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`secret` longtext NOT NULL,
	`set_at` bigint NOT NULL,
	CONSTRAINT `source_secrets_source_id` PRIMARY KEY(`source_id`)
);
--> statement-breakpoint
CREATE TABLE `source_shapes` (
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`submission_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`noted_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`kinds` longtext NOT NULL,
	`gone` longtext NOT NULL,
	CONSTRAINT `source_shapes_source_id` PRIMARY KEY(`source_id`)
);
--> statement-breakpoint
CREATE INDEX `noted_arrivals_source` ON `noted_arrivals` (`source_id`,`id`);