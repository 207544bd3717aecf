ALTER TABLE `sessions` ADD `browser` varchar(120) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `sessions` ADD `began_at` bigint;