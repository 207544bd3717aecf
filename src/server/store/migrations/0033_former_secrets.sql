ALTER TABLE `source_secrets` ADD `former` longtext;--> statement-breakpoint
ALTER TABLE `source_secrets` ADD `former_until` bigint DEFAULT 0 NOT NULL;