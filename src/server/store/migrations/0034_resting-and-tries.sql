ALTER TABLE `conversations` ADD `rest_until` bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `imports` ADD `tries` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `mails` ADD `about_kind` varchar(12) DEFAULT 'submission' NOT NULL;--> statement-breakpoint
UPDATE mails m JOIN conversations c ON c.id = m.submission_id SET m.about_kind = 'conversation' WHERE m.kind = 'notify';
