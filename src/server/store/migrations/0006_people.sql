CREATE TABLE `claims` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`contact_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`name` varchar(60) NOT NULL,
	`value` longtext NOT NULL,
	`rule` varchar(10) NOT NULL,
	`submission_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`at` bigint NOT NULL,
	CONSTRAINT `claims_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `merges` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`kind` varchar(10) NOT NULL,
	`contact_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`into_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`at` bigint NOT NULL,
	`decided_by` varchar(120) NOT NULL,
	`reason` varchar(300) NOT NULL,
	CONSTRAINT `merges_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `contact_keys` ADD `scope` varchar(36) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `contact_keys` DROP PRIMARY KEY;--> statement-breakpoint
ALTER TABLE `contact_keys` ADD PRIMARY KEY(`kind`,`scope`,`value`,`contact_id`);--> statement-breakpoint
ALTER TABLE `contact_keys` ADD `is_owner` int;--> statement-breakpoint
ALTER TABLE `contact_keys` ADD `submission_id` char(36) character set ascii collate ascii_bin;--> statement-breakpoint
ALTER TABLE `contact_keys` ADD `said_at` bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `contact_keys` ADD `verified_at` bigint;--> statement-breakpoint
ALTER TABLE `contact_values` ADD `rule` varchar(10) DEFAULT 'latest' NOT NULL;--> statement-breakpoint
ALTER TABLE `contacts` ADD `phone` varchar(20) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `contacts` ADD `merged_into` char(36) character set ascii collate ascii_bin;--> statement-breakpoint
ALTER TABLE `contacts` ADD `person_id` char(36) character set ascii collate ascii_bin NOT NULL;--> statement-breakpoint
ALTER TABLE `contact_keys` ADD CONSTRAINT `contact_keys_owner` UNIQUE(`kind`,`scope`,`value`,`is_owner`);--> statement-breakpoint
CREATE INDEX `claims_contact` ON `claims` (`contact_id`,`at`);--> statement-breakpoint
CREATE INDEX `merges_contact` ON `merges` (`contact_id`);--> statement-breakpoint
CREATE INDEX `merges_into` ON `merges` (`into_id`);--> statement-breakpoint
CREATE INDEX `contacts_person` ON `contacts` (`person_id`);
--> statement-breakpoint
UPDATE `contacts` SET `person_id` = `id`;--> statement-breakpoint
UPDATE `contact_keys` SET `is_owner` = 1;--> statement-breakpoint
UPDATE `contact_keys` `k` JOIN `contacts` `c` ON `c`.`id` = `k`.`contact_id` SET `k`.`said_at` = `c`.`created_at`;--> statement-breakpoint
UPDATE `contact_keys` `k` JOIN (SELECT `contact_id`, MIN(`at`) AS `at` FROM `consent_events` WHERE `kind` = 'confirmed' GROUP BY `contact_id`) `e` ON `e`.`contact_id` = `k`.`contact_id` SET `k`.`verified_at` = `e`.`at` WHERE `k`.`kind` = 'email';--> statement-breakpoint
INSERT INTO `claims` (`id`, `contact_id`, `name`, `value`, `rule`, `submission_id`, `at`) SELECT UUID(), `contact_id`, `name`, `value`, 'latest', `submission_id`, `set_at` FROM `contact_values`;--> statement-breakpoint
UPDATE `contacts` `c` JOIN `contact_values` `v` ON `v`.`contact_id` = `c`.`id` AND `v`.`name` = 'phone' SET `c`.`phone` = LEFT(JSON_UNQUOTE(`v`.`value`), 20);
