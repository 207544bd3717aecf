CREATE TABLE `arrivals` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`received_at` bigint NOT NULL,
	`raw` longtext NOT NULL,
	CONSTRAINT `arrivals_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `uploads` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`submission_id` char(36) character set ascii collate ascii_bin,
	`name` varchar(120) NOT NULL,
	`media_type` varchar(120) NOT NULL,
	`size` bigint NOT NULL,
	`sha256` char(64) character set ascii collate ascii_bin NOT NULL,
	`created_at` bigint NOT NULL,
	CONSTRAINT `uploads_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `submissions` ADD `arrival_id` char(36) character set ascii collate ascii_bin;--> statement-breakpoint
ALTER TABLE `submissions` ADD `page` varchar(300);--> statement-breakpoint
ALTER TABLE `submissions` ADD `referrer` varchar(300);--> statement-breakpoint
ALTER TABLE `submissions` ADD `campaign` varchar(120);--> statement-breakpoint
ALTER TABLE `submissions` ADD `campaign_source` varchar(120);--> statement-breakpoint
ALTER TABLE `submissions` ADD `campaign_medium` varchar(120);--> statement-breakpoint
ALTER TABLE `submissions` ADD `campaign_term` varchar(120);--> statement-breakpoint
ALTER TABLE `submissions` ADD `campaign_content` varchar(120);--> statement-breakpoint
ALTER TABLE `submissions` ADD `device` varchar(120);--> statement-breakpoint
ALTER TABLE `submissions` ADD `placement` varchar(120);--> statement-breakpoint
ALTER TABLE `submissions` ADD `variant` varchar(120);--> statement-breakpoint
CREATE INDEX `uploads_submission` ON `uploads` (`submission_id`);--> statement-breakpoint
CREATE INDEX `uploads_age` ON `uploads` (`created_at`);--> statement-breakpoint
CREATE INDEX `submissions_campaign` ON `submissions` (`campaign`);--> statement-breakpoint
CREATE INDEX `submissions_page` ON `submissions` (`page`);--> statement-breakpoint
UPDATE `submissions` SET `page` = LEFT(SUBSTRING_INDEX(SUBSTRING_INDEX(JSON_VALUE(`raw`, '$.headers.referer'), '#', 1), '?', 1), 300);
