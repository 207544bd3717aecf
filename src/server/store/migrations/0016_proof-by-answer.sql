ALTER TABLE `connections` ADD `answer_untrue_at` bigint;--> statement-breakpoint
ALTER TABLE `deliveries` ADD `proved_by` varchar(10);