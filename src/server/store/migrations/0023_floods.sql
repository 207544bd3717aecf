CREATE TABLE `mailbox_days` (
	`mailbox` char(64) character set ascii collate ascii_bin NOT NULL,
	`day` int NOT NULL,
	`mails` int NOT NULL,
	CONSTRAINT `mailbox_days_mailbox_day_pk` PRIMARY KEY(`mailbox`,`day`)
);
--> statement-breakpoint
ALTER TABLE `connections` MODIFY COLUMN `base_url` varchar(900) NOT NULL;