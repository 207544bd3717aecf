CREATE TABLE `search_words` (
	`contact_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`word` varchar(60) character set utf8mb4 collate utf8mb4_bin NOT NULL,
	CONSTRAINT `search_words_contact_id_word_pk` PRIMARY KEY(`contact_id`,`word`)
);
--> statement-breakpoint
ALTER TABLE `submissions` ADD `sends_nothing` int;--> statement-breakpoint
CREATE INDEX `search_words_word` ON `search_words` (`word`);--> statement-breakpoint
CREATE INDEX `deliveries_cause` ON `deliveries` (`cause`);--> statement-breakpoint
CREATE INDEX `submissions_contact` ON `submissions` (`contact_id`);--> statement-breakpoint
CREATE INDEX `submissions_sends_nothing` ON `submissions` (`sends_nothing`);--> statement-breakpoint
CREATE INDEX `submissions_device` ON `submissions` (`device`);--> statement-breakpoint
CREATE INDEX `submissions_placement` ON `submissions` (`placement`);--> statement-breakpoint
UPDATE submissions s SET s.sends_nothing = 1 WHERE s.state = 'planned'
  AND NOT EXISTS (SELECT 1 FROM deliveries d WHERE d.submission_id = s.id)
  AND NOT EXISTS (SELECT 1 FROM mails m WHERE m.submission_id = s.id AND m.kind <> 'ask');
