CREATE TABLE `accounts` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`email` varchar(254) NOT NULL,
	`name` varchar(120) NOT NULL,
	`password_hash` varchar(255) NOT NULL,
	`created_at` bigint NOT NULL,
	CONSTRAINT `accounts_id` PRIMARY KEY(`id`),
	CONSTRAINT `accounts_email_unique` UNIQUE(`email`)
);
--> statement-breakpoint
CREATE TABLE `api_tokens` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`account_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`name` varchar(80) NOT NULL,
	`scopes` longtext NOT NULL,
	`token_hash` char(64) character set ascii collate ascii_bin NOT NULL,
	`hint` varchar(20) NOT NULL,
	`created_at` bigint NOT NULL,
	`last_used_at` bigint,
	`expires_at` bigint,
	CONSTRAINT `api_tokens_id` PRIMARY KEY(`id`),
	CONSTRAINT `api_tokens_token_hash_unique` UNIQUE(`token_hash`)
);
--> statement-breakpoint
CREATE TABLE `attempts` (
	`delivery_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`number` int NOT NULL,
	`started_at` bigint NOT NULL,
	`outcome` varchar(60) NOT NULL,
	`cause` varchar(30),
	`said` varchar(600) NOT NULL,
	`exchanges` longtext NOT NULL,
	CONSTRAINT `attempts_delivery_id_number_pk` PRIMARY KEY(`delivery_id`,`number`)
);
--> statement-breakpoint
CREATE TABLE `confirmation_tokens` (
	`token_hash` char(64) character set ascii collate ascii_bin NOT NULL,
	`confirmation_id` char(36) character set ascii collate ascii_bin NOT NULL,
	CONSTRAINT `confirmation_tokens_token_hash` PRIMARY KEY(`token_hash`)
);
--> statement-breakpoint
CREATE TABLE `confirmations` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`contact_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`submission_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`route_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`purpose` varchar(80) NOT NULL,
	`sent_to` varchar(254) NOT NULL,
	`mail` longtext NOT NULL,
	`state` varchar(10) NOT NULL,
	`created_at` bigint NOT NULL,
	`expires_at` bigint NOT NULL,
	`last_sent_at` bigint NOT NULL,
	`sends` int NOT NULL DEFAULT 1,
	`confirmed_at` bigint,
	CONSTRAINT `confirmations_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `connection_health` (
	`connection_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`failures` int NOT NULL DEFAULT 0,
	`rest_until` bigint NOT NULL DEFAULT 0,
	`budget_full_at` bigint NOT NULL DEFAULT 0,
	`last_failure_at` bigint,
	`last_cause` varchar(30),
	`last_said` varchar(600),
	CONSTRAINT `connection_health_connection_id` PRIMARY KEY(`connection_id`)
);
--> statement-breakpoint
CREATE TABLE `connections` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`profile` varchar(60) NOT NULL,
	`name` varchar(80) NOT NULL,
	`base_url` varchar(300) NOT NULL,
	`secret` longtext NOT NULL,
	`hints` longtext NOT NULL,
	`tokens` longtext,
	`state` varchar(10) NOT NULL DEFAULT 'active',
	`verify` longtext,
	`catalogue` longtext,
	`catalogue_at` bigint,
	`changes` longtext,
	`changes_at` bigint,
	`check_at` bigint NOT NULL DEFAULT 0,
	`created_at` bigint NOT NULL,
	CONSTRAINT `connections_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `consent_events` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`contact_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`submission_id` char(36) character set ascii collate ascii_bin,
	`channel` varchar(10) NOT NULL,
	`purpose` varchar(80) NOT NULL,
	`kind` varchar(10) NOT NULL,
	`at` bigint NOT NULL,
	`wording` longtext NOT NULL,
	`evidence` longtext NOT NULL,
	CONSTRAINT `consent_events_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `contact_keys` (
	`kind` varchar(10) NOT NULL,
	`value` varchar(254) NOT NULL,
	`contact_id` char(36) character set ascii collate ascii_bin NOT NULL,
	CONSTRAINT `contact_keys_kind_value_pk` PRIMARY KEY(`kind`,`value`)
);
--> statement-breakpoint
CREATE TABLE `contact_values` (
	`contact_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`name` varchar(60) NOT NULL,
	`value` longtext NOT NULL,
	`submission_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`set_at` bigint NOT NULL,
	CONSTRAINT `contact_values_contact_id_name_pk` PRIMARY KEY(`contact_id`,`name`)
);
--> statement-breakpoint
CREATE TABLE `contacts` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`created_at` bigint NOT NULL,
	`updated_at` bigint NOT NULL,
	`email` varchar(254) NOT NULL,
	`name` varchar(250) NOT NULL,
	CONSTRAINT `contacts_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `deliveries` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`sequence` bigint AUTO_INCREMENT NOT NULL,
	`submission_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`contact_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`connection_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`route_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`route_version` int NOT NULL,
	`target_index` int NOT NULL,
	`confirmation_id` char(36) character set ascii collate ascii_bin,
	`intent` longtext NOT NULL,
	`left_out` longtext NOT NULL,
	`state` varchar(10) NOT NULL,
	`cause` varchar(30),
	`cause_detail` varchar(600),
	`read_back` longtext,
	`begun_at` bigint,
	`created_at` bigint NOT NULL,
	`ended_at` bigint,
	`due_at` bigint NOT NULL,
	`lease_until` bigint NOT NULL DEFAULT 0,
	`lease_owner` varchar(40),
	`tries` int NOT NULL DEFAULT 0,
	CONSTRAINT `deliveries_id` PRIMARY KEY(`id`),
	CONSTRAINT `deliveries_sequence_unique` UNIQUE(`sequence`)
);
--> statement-breakpoint
CREATE TABLE `facts` (
	`name` varchar(60) NOT NULL,
	`value` varchar(500) NOT NULL,
	CONSTRAINT `facts_name` PRIMARY KEY(`name`)
);
--> statement-breakpoint
CREATE TABLE `grant_requests` (
	`state_hash` char(64) character set ascii collate ascii_bin NOT NULL,
	`connection_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`account_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`verifier` varchar(500) NOT NULL,
	`expires_at` bigint NOT NULL,
	CONSTRAINT `grant_requests_state_hash` PRIMARY KEY(`state_hash`)
);
--> statement-breakpoint
CREATE TABLE `mails` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`confirmation_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`state` varchar(10) NOT NULL,
	`created_at` bigint NOT NULL,
	`sent_at` bigint,
	`error` varchar(500),
	`due_at` bigint NOT NULL,
	`lease_until` bigint NOT NULL DEFAULT 0,
	`lease_owner` varchar(40),
	`tries` int NOT NULL DEFAULT 0,
	CONSTRAINT `mails_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `profiles` (
	`id` varchar(60) NOT NULL,
	`document` longtext NOT NULL,
	`created_at` bigint NOT NULL,
	`updated_at` bigint NOT NULL,
	CONSTRAINT `profiles_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `route_versions` (
	`route_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`version` int NOT NULL,
	`document` longtext NOT NULL,
	`published_at` bigint NOT NULL,
	CONSTRAINT `route_versions_route_id_version_pk` PRIMARY KEY(`route_id`,`version`)
);
--> statement-breakpoint
CREATE TABLE `routes` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`name` varchar(80) NOT NULL,
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`state` varchar(10) NOT NULL,
	`draft` longtext NOT NULL,
	`draft_at` bigint NOT NULL,
	`live_version` int,
	`created_at` bigint NOT NULL,
	CONSTRAINT `routes_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `sessions` (
	`token_hash` char(64) character set ascii collate ascii_bin NOT NULL,
	`account_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`csrf` varchar(64) NOT NULL,
	`expires_at` bigint NOT NULL,
	CONSTRAINT `sessions_token_hash` PRIMARY KEY(`token_hash`)
);
--> statement-breakpoint
CREATE TABLE `setup_links` (
	`token_hash` char(64) character set ascii collate ascii_bin NOT NULL,
	`expires_at` bigint NOT NULL,
	CONSTRAINT `setup_links_token_hash` PRIMARY KEY(`token_hash`)
);
--> statement-breakpoint
CREATE TABLE `source_versions` (
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`version` int NOT NULL,
	`document` longtext NOT NULL,
	`published_at` bigint NOT NULL,
	CONSTRAINT `source_versions_source_id_version_pk` PRIMARY KEY(`source_id`,`version`)
);
--> statement-breakpoint
CREATE TABLE `sources` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`public_id` varchar(40) NOT NULL,
	`name` varchar(80) NOT NULL,
	`state` varchar(10) NOT NULL,
	`draft` longtext NOT NULL,
	`draft_at` bigint NOT NULL,
	`live_version` int,
	`created_at` bigint NOT NULL,
	CONSTRAINT `sources_id` PRIMARY KEY(`id`),
	CONSTRAINT `sources_public_id_unique` UNIQUE(`public_id`)
);
--> statement-breakpoint
CREATE TABLE `submissions` (
	`id` char(36) character set ascii collate ascii_bin NOT NULL,
	`source_id` char(36) character set ascii collate ascii_bin NOT NULL,
	`source_version` int NOT NULL,
	`received_at` bigint NOT NULL,
	`state` varchar(10) NOT NULL,
	`raw` longtext NOT NULL,
	`field_values` longtext NOT NULL,
	`repeat_key` varchar(80) character set ascii collate ascii_bin NOT NULL,
	`person_key` char(32) character set ascii collate ascii_bin NOT NULL,
	`repeats` int NOT NULL DEFAULT 0,
	`last_repeat_at` bigint,
	`suspicion` varchar(20),
	`contact_id` char(36) character set ascii collate ascii_bin,
	`plan` longtext,
	`failure` varchar(500),
	`due_at` bigint NOT NULL,
	`lease_until` bigint NOT NULL DEFAULT 0,
	`lease_owner` varchar(40),
	`tries` int NOT NULL DEFAULT 0,
	CONSTRAINT `submissions_id` PRIMARY KEY(`id`),
	CONSTRAINT `submissions_repeat` UNIQUE(`source_id`,`repeat_key`)
);
--> statement-breakpoint
CREATE TABLE `throttles` (
	`key` varchar(255) NOT NULL,
	`points` int NOT NULL DEFAULT 0,
	`expire` bigint unsigned,
	CONSTRAINT `throttles_key` PRIMARY KEY(`key`)
);
--> statement-breakpoint
CREATE TABLE `workers` (
	`id` varchar(40) NOT NULL,
	`seen_at` bigint NOT NULL,
	CONSTRAINT `workers_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE INDEX `attempts_age` ON `attempts` (`started_at`);--> statement-breakpoint
CREATE INDEX `confirmation_tokens_confirmation` ON `confirmation_tokens` (`confirmation_id`);--> statement-breakpoint
CREATE INDEX `confirmations_contact` ON `confirmations` (`contact_id`,`state`);--> statement-breakpoint
CREATE INDEX `confirmations_submission` ON `confirmations` (`submission_id`);--> statement-breakpoint
CREATE INDEX `confirmations_open` ON `confirmations` (`state`,`expires_at`);--> statement-breakpoint
CREATE INDEX `consent_contact` ON `consent_events` (`contact_id`,`purpose`);--> statement-breakpoint
CREATE INDEX `consent_submission` ON `consent_events` (`submission_id`);--> statement-breakpoint
CREATE INDEX `consent_kind` ON `consent_events` (`kind`,`at`);--> statement-breakpoint
CREATE INDEX `contact_keys_contact` ON `contact_keys` (`contact_id`);--> statement-breakpoint
CREATE INDEX `contacts_email` ON `contacts` (`email`);--> statement-breakpoint
CREATE INDEX `contacts_updated` ON `contacts` (`updated_at`,`id`);--> statement-breakpoint
CREATE INDEX `deliveries_work` ON `deliveries` (`connection_id`,`state`,`due_at`);--> statement-breakpoint
CREATE INDEX `deliveries_order` ON `deliveries` (`contact_id`,`connection_id`,`sequence`);--> statement-breakpoint
CREATE INDEX `deliveries_submission` ON `deliveries` (`submission_id`);--> statement-breakpoint
CREATE INDEX `deliveries_confirmation` ON `deliveries` (`confirmation_id`);--> statement-breakpoint
CREATE INDEX `deliveries_connection` ON `deliveries` (`connection_id`,`state`,`ended_at`);--> statement-breakpoint
CREATE INDEX `deliveries_route` ON `deliveries` (`route_id`,`state`,`ended_at`);--> statement-breakpoint
CREATE INDEX `deliveries_ended` ON `deliveries` (`state`,`ended_at`);--> statement-breakpoint
CREATE INDEX `mails_work` ON `mails` (`state`,`due_at`);--> statement-breakpoint
CREATE INDEX `mails_confirmation` ON `mails` (`confirmation_id`);--> statement-breakpoint
CREATE INDEX `submissions_work` ON `submissions` (`state`,`due_at`);--> statement-breakpoint
CREATE INDEX `submissions_person` ON `submissions` (`person_key`,`state`);--> statement-breakpoint
CREATE INDEX `submissions_source` ON `submissions` (`source_id`);