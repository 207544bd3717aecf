CREATE TABLE `notice_addresses` (
	`connection_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`token_hash` char(64) character set ascii collate ascii_bin NOT NULL,
	`remote_id` varchar(120),
	`secret` varchar(500),
	`created_at` bigint NOT NULL,
	`proven_at` bigint,
	CONSTRAINT `notice_addresses_connection_id` PRIMARY KEY(`connection_id`),
	CONSTRAINT `notice_addresses_token_hash_unique` UNIQUE(`token_hash`)
);
--> statement-breakpoint
CREATE TABLE `notices` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`connection_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`remote_id` char(64) character set ascii collate ascii_bin NOT NULL,
	`kind` varchar(60) NOT NULL,
	`meaning` varchar(20),
	`contact_id` char(36) character set ascii collate ascii_bin,
	`at` bigint NOT NULL,
	`received_at` bigint NOT NULL,
	CONSTRAINT `notices_id` PRIMARY KEY(`id`),
	CONSTRAINT `notices_once` UNIQUE(`connection_id`,`remote_id`)
);
--> statement-breakpoint
CREATE INDEX `notices_contact` ON `notices` (`contact_id`);