CREATE TABLE `audit_events` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`at` bigint NOT NULL,
	`actor_kind` varchar(10) NOT NULL,
	`actor_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`actor_name` varchar(120) NOT NULL,
	`act` varchar(40) NOT NULL,
	`subject_kind` varchar(20) NOT NULL,
	`subject_id` varchar(60) NOT NULL,
	`subject_name` varchar(120) NOT NULL,
	`detail` varchar(500) NOT NULL,
	CONSTRAINT `audit_events_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE INDEX `audit_subject` ON `audit_events` (`subject_kind`,`subject_id`,`id`);