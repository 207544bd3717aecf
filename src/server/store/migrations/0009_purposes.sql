CREATE TABLE `purposes` (
	`id` varchar(80) NOT NULL,
	`name` varchar(80) NOT NULL,
	`wordings` longtext NOT NULL,
	`channels` longtext NOT NULL,
	`created_at` bigint NOT NULL,
	`updated_at` bigint NOT NULL,
	`archived_at` bigint,
	CONSTRAINT `purposes_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `mails` MODIFY COLUMN `confirmation_id` char(36) character set ascii collate ascii_bin;--> statement-breakpoint
ALTER TABLE `confirmations` ADD `purposes` longtext NOT NULL;--> statement-breakpoint
ALTER TABLE `mails` ADD `kind` varchar(10) NOT NULL;--> statement-breakpoint
ALTER TABLE `mails` ADD `submission_id` char(36) character set ascii collate ascii_bin NOT NULL;--> statement-breakpoint
ALTER TABLE `mails` ADD `contact_id` char(36) character set ascii collate ascii_bin NOT NULL;--> statement-breakpoint
ALTER TABLE `mails` ADD `route_id` char(36) character set ascii collate ascii_bin NOT NULL;--> statement-breakpoint
ALTER TABLE `mails` ADD `mail_id` varchar(40) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `mails` ADD `sent_to` longtext NOT NULL;--> statement-breakpoint
ALTER TABLE `mails` ADD `reply_to` varchar(254) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `mails` ADD `subject` varchar(300) NOT NULL;--> statement-breakpoint
ALTER TABLE `mails` ADD `text` longtext NOT NULL;--> statement-breakpoint
CREATE INDEX `mails_submission` ON `mails` (`submission_id`);--> statement-breakpoint
CREATE INDEX `mails_contact` ON `mails` (`contact_id`,`created_at`);--> statement-breakpoint
UPDATE `confirmations` SET `purposes` = JSON_ARRAY(`purpose`);--> statement-breakpoint
UPDATE `mails` `m` JOIN `confirmations` `c` ON `c`.`id` = `m`.`confirmation_id` SET `m`.`kind` = 'ask', `m`.`submission_id` = `c`.`submission_id`, `m`.`contact_id` = `c`.`contact_id`, `m`.`route_id` = `c`.`route_id`, `m`.`sent_to` = JSON_ARRAY(`c`.`sent_to`);--> statement-breakpoint
INSERT IGNORE INTO `purposes` (`id`, `name`, `wordings`, `channels`, `created_at`, `updated_at`) SELECT DISTINCT `purpose`, `purpose`, '[]', '["email"]', UNIX_TIMESTAMP() * 1000, UNIX_TIMESTAMP() * 1000 FROM `consent_events` WHERE `purpose` <> '';
