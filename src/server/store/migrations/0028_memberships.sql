CREATE TABLE `memberships` (
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`contact_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`submission_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`lapses_at` bigint NOT NULL,
	CONSTRAINT `memberships_source_id_contact_id_pk` PRIMARY KEY(`source_id`,`contact_id`)
);
--> statement-breakpoint
CREATE INDEX `memberships_lapse` ON `memberships` (`lapses_at`);