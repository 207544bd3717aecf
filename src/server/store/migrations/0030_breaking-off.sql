ALTER TABLE `conversations` ADD `breaks_off_ms` bigint DEFAULT 3600000 NOT NULL;--> statement-breakpoint
ALTER TABLE `conversations` ADD `breaks_off_at` bigint GENERATED ALWAYS AS (touched_at + breaks_off_ms) VIRTUAL;--> statement-breakpoint
CREATE INDEX `conversations_due` ON `conversations` (`status`,`breaks_off_at`);