CREATE TABLE `form_sums` (
	`hours` smallint NOT NULL,
	`dimension` varchar(10) NOT NULL,
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`stretch` int NOT NULL,
	`value` varchar(300) character set utf8mb4 collate utf8mb4_bin NOT NULL,
	`what` varchar(10) NOT NULL,
	`count` int NOT NULL,
	CONSTRAINT `form_sums_hours_dimension_source_id_stretch_value_what_pk` PRIMARY KEY(`hours`,`dimension`,`source_id`,`stretch`,`value`,`what`)
);
--> statement-breakpoint
INSERT INTO `form_counts` (`dimension`, `source_id`, `hour`, `value`, `what`, `count`)
  SELECT `dimension`, '', `hour`, `value`, `what`, SUM(`count`) FROM `form_counts` GROUP BY `dimension`, `hour`, `value`, `what`;
--> statement-breakpoint
INSERT INTO `form_sums` (`hours`, `dimension`, `source_id`, `stretch`, `value`, `what`, `count`)
  SELECT 24, `dimension`, `source_id`, FLOOR(`hour` / 24), `value`, `what`, `count` FROM `form_counts`
  ON DUPLICATE KEY UPDATE `count` = `form_sums`.`count` + VALUES(`count`);
--> statement-breakpoint
INSERT INTO `form_sums` (`hours`, `dimension`, `source_id`, `stretch`, `value`, `what`, `count`)
  SELECT 168, `dimension`, `source_id`, FLOOR(`stretch` / 7), `value`, `what`, SUM(`count`) FROM `form_sums` WHERE `hours` = 24
  GROUP BY `dimension`, `source_id`, FLOOR(`stretch` / 7), `value`, `what`;
--> statement-breakpoint
INSERT INTO `form_sums` (`hours`, `dimension`, `source_id`, `stretch`, `value`, `what`, `count`)
  SELECT 672, `dimension`, `source_id`, FLOOR(`stretch` / 4), `value`, `what`, SUM(`count`) FROM `form_sums` WHERE `hours` = 168
  GROUP BY `dimension`, `source_id`, FLOOR(`stretch` / 4), `value`, `what`;
