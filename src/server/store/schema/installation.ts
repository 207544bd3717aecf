import { mysqlTable, varchar } from 'drizzle-orm/mysql-core';

import { time } from './columns.ts';

/** Workers that are alive say so here. */
export const workers = mysqlTable('workers', {
  id: varchar('id', { length: 40 }).primaryKey(),
  seenAt: time('seen_at').notNull(),
});

/** Small facts of the installation, such as when the demo data was made. */
export const facts = mysqlTable('facts', {
  name: varchar('name', { length: 60 }).primaryKey(),
  value: varchar('value', { length: 500 }).notNull(),
});
