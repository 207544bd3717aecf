CREATE TABLE `chat_lines` (
	`conversation_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`number` int NOT NULL,
	`said_by` varchar(10) NOT NULL,
	`name` varchar(120) NOT NULL DEFAULT '',
	`text` longtext NOT NULL,
	`link` longtext,
	`at` bigint NOT NULL,
	CONSTRAINT `chat_lines_conversation_id_number_pk` PRIMARY KEY(`conversation_id`,`number`)
);
--> statement-breakpoint
CREATE TABLE `conversations` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`source_version` int NOT NULL,
	`token_hash` char(64) character set ascii collate ascii_bin NOT NULL,
	`status` varchar(12) NOT NULL,
	`state` longtext NOT NULL,
	`language` varchar(5) NOT NULL,
	`visit` longtext NOT NULL,
	`last_input` varchar(40) NOT NULL DEFAULT '',
	`line_count` int NOT NULL,
	`wanted_until` bigint,
	`colleague` varchar(120) NOT NULL DEFAULT '',
	`submission_id` char(36) character set ascii collate ascii_bin,
	`started_at` bigint NOT NULL,
	`touched_at` bigint NOT NULL,
	CONSTRAINT `conversations_id` PRIMARY KEY(`id`),
	CONSTRAINT `conversations_token_hash_unique` UNIQUE(`token_hash`)
);
--> statement-breakpoint
CREATE INDEX `conversations_status` ON `conversations` (`status`,`touched_at`);--> statement-breakpoint
CREATE INDEX `conversations_touched` ON `conversations` (`touched_at`);--> statement-breakpoint
CREATE INDEX `conversations_source` ON `conversations` (`source_id`,`id`);--> statement-breakpoint
CREATE INDEX `conversations_submission` ON `conversations` (`submission_id`);