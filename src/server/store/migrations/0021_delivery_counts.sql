CREATE TABLE `delivery_counts` (
	`day` int NOT NULL,
	`route_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`connection_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`share` tinyint NOT NULL,
	`delivered` int NOT NULL,
	CONSTRAINT `delivery_counts_day_route_id_source_id_connection_id_share_pk` PRIMARY KEY(`day`,`route_id`,`source_id`,`connection_id`,`share`)
);
--> statement-breakpoint
INSERT INTO `delivery_counts`
  SELECT FLOOR(d.`ended_at` / 86400000), d.`route_id`, s.`source_id`, d.`connection_id`, 0, COUNT(*)
  FROM `deliveries` d STRAIGHT_JOIN `submissions` s ON s.`id` = d.`submission_id`
  WHERE d.`state` = 'delivered' AND d.`ended_at` IS NOT NULL
  GROUP BY FLOOR(d.`ended_at` / 86400000), d.`route_id`, s.`source_id`, d.`connection_id`;
