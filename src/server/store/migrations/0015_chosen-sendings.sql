ALTER TABLE `sendings` ADD `pile` varchar(10) DEFAULT 'all' NOT NULL;--> statement-breakpoint
ALTER TABLE `sendings` ADD `chosen` longtext;--> statement-breakpoint
ALTER TABLE `sendings` ADD `waiting` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `sendings` ADD `not_chosen` int DEFAULT 0 NOT NULL;