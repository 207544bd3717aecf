ALTER TABLE `consent_events` ADD `undone_at` bigint;--> statement-breakpoint
ALTER TABLE `claims` ADD `undone_at` bigint;--> statement-breakpoint
ALTER TABLE `submissions` ADD `undone_at` bigint;