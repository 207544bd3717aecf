CREATE TABLE `themes` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`name` varchar(60) NOT NULL,
	`look` longtext NOT NULL,
	`updated_at` bigint NOT NULL,
	CONSTRAINT `themes_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `kept_forms` (
	`token_hash` char(64) character set ascii collate ascii_bin NOT NULL,
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`entries` longtext NOT NULL,
	`kept_at` bigint NOT NULL,
	CONSTRAINT `kept_forms_token_hash` PRIMARY KEY(`token_hash`)
);
--> statement-breakpoint
ALTER TABLE `form_events` MODIFY COLUMN `question` varchar(140) character set utf8mb4 collate utf8mb4_bin NOT NULL DEFAULT '';--> statement-breakpoint
CREATE INDEX `kept_forms_age` ON `kept_forms` (`kept_at`);