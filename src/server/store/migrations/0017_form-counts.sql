CREATE TABLE `form_counts` (
	`dimension` varchar(10) NOT NULL,
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`hour` int NOT NULL,
	`value` varchar(300) character set utf8mb4 collate utf8mb4_bin NOT NULL,
	`what` varchar(10) NOT NULL,
	`count` int NOT NULL,
	CONSTRAINT `form_counts_dimension_source_id_hour_value_what_pk` PRIMARY KEY(`dimension`,`source_id`,`hour`,`value`,`what`)
);
--> statement-breakpoint
CREATE TABLE `form_events` (
	`subject` char(36) character set ascii collate ascii_bin NOT NULL,
	`what` varchar(10) NOT NULL,
	`question` varchar(64) NOT NULL DEFAULT '',
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`at` bigint NOT NULL,
	`page` varchar(300) character set utf8mb4 collate utf8mb4_bin NOT NULL DEFAULT '',
	`device` varchar(120) NOT NULL DEFAULT '',
	`campaign` varchar(120) character set utf8mb4 collate utf8mb4_bin NOT NULL DEFAULT '',
	`campaign_source` varchar(120) character set utf8mb4 collate utf8mb4_bin NOT NULL DEFAULT '',
	`campaign_medium` varchar(120) character set utf8mb4 collate utf8mb4_bin NOT NULL DEFAULT '',
	`campaign_term` varchar(120) character set utf8mb4 collate utf8mb4_bin NOT NULL DEFAULT '',
	`campaign_content` varchar(120) character set utf8mb4 collate utf8mb4_bin NOT NULL DEFAULT '',
	`referrer` varchar(120) character set utf8mb4 collate utf8mb4_bin NOT NULL DEFAULT '',
	`came_by` varchar(10) NOT NULL DEFAULT '',
	`variant` varchar(120) character set utf8mb4 collate utf8mb4_bin NOT NULL DEFAULT '',
	`counted_by` char(36) character set ascii collate ascii_bin,
	CONSTRAINT `form_events_subject_what_question_pk` PRIMARY KEY(`subject`,`what`,`question`)
);
--> statement-breakpoint
CREATE INDEX `form_events_uncounted` ON `form_events` (`counted_by`);--> statement-breakpoint
CREATE INDEX `form_events_source` ON `form_events` (`source_id`,`at`);--> statement-breakpoint
CREATE INDEX `form_events_age` ON `form_events` (`at`);