ALTER TABLE `form_counts`
  ADD COLUMN `hours` smallint NOT NULL DEFAULT 1 FIRST,
  CHANGE COLUMN `hour` `stretch` int NOT NULL,
  DROP PRIMARY KEY,
  ADD PRIMARY KEY (`hours`,`dimension`,`source_id`,`stretch`,`value`,`what`);
--> statement-breakpoint
ALTER TABLE `form_counts` ALTER COLUMN `hours` DROP DEFAULT;
--> statement-breakpoint
INSERT INTO `form_counts` (`hours`, `dimension`, `source_id`, `stretch`, `value`, `what`, `count`)
  SELECT 1, c.`dimension`, '', c.`stretch`, c.`value`, c.`what`, SUM(c.`count`) FROM `form_counts` c
  GROUP BY c.`dimension`, c.`stretch`, c.`value`, c.`what`;
--> statement-breakpoint
INSERT INTO `form_counts` (`hours`, `dimension`, `source_id`, `stretch`, `value`, `what`, `count`)
  SELECT 24, c.`dimension`, c.`source_id`, FLOOR(c.`stretch` / 24), c.`value`, c.`what`, c.`count` FROM `form_counts` c
  WHERE c.`hours` = 1
  ON DUPLICATE KEY UPDATE `count` = `form_counts`.`count` + VALUES(`count`);
--> statement-breakpoint
INSERT INTO `form_counts` (`hours`, `dimension`, `source_id`, `stretch`, `value`, `what`, `count`)
  SELECT 168, c.`dimension`, c.`source_id`, FLOOR(c.`stretch` / 7), c.`value`, c.`what`, SUM(c.`count`) FROM `form_counts` c
  WHERE c.`hours` = 24 GROUP BY c.`dimension`, c.`source_id`, FLOOR(c.`stretch` / 7), c.`value`, c.`what`;
--> statement-breakpoint
INSERT INTO `form_counts` (`hours`, `dimension`, `source_id`, `stretch`, `value`, `what`, `count`)
  SELECT 672, c.`dimension`, c.`source_id`, FLOOR(c.`stretch` / 4), c.`value`, c.`what`, SUM(c.`count`) FROM `form_counts` c
  WHERE c.`hours` = 168 GROUP BY c.`dimension`, c.`source_id`, FLOOR(c.`stretch` / 4), c.`value`, c.`what`;
