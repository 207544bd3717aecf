import type { DocumentIssue } from '../../../core/documents/index.ts';
import { readRaw, type RawSubmission } from '../../../core/intake/index.ts';
import { good, type Result } from '../../../core/result.ts';
import { bigint, customType, int, varchar } from 'drizzle-orm/mysql-core';

/**
 * A column of JSON. MariaDB keeps it as text; mysql2 hands it back as text or parsed, so both are read here.
 * @param read brings a document of any format that was ever written up to the present one; without it, it is as it was stored
 */
export const json = <Data>(name: string, read?: (json: unknown) => Result<Data, DocumentIssue>) =>
  customType<{ data: Data; driverData: string }>({
    dataType: () => 'longtext',
    toDriver: (value) => JSON.stringify(value),
    fromDriver: (value) => {
      const parsed: unknown = typeof value === 'string' ? JSON.parse(value) : value;
      if (!read) return parsed as Data;
      const document = read(parsed);
      if (!document.ok) throw new Error(`${name}: ${document.issue.detail}`);
      return document.value;
    },
  })(name);

/** An arrival as it was kept, in whatever way. */
export const rawJson = (name: string) => json<RawSubmission>(name, (stored) => good(readRaw(stored)));

export const longText = (name: string) => customType<{ data: string }>({ dataType: () => 'longtext' })(name);
/** Milliseconds since 1970. Time enters from the server's clock, never from the database's. */
export const time = (name: string) => bigint(name, { mode: 'number' });
/** UUID version 7: made by us, in order of time. */
export const id = (name: string) =>
  customType<{ data: string }>({ dataType: () => 'char(36) character set ascii collate ascii_bin' })(name);
/** SHA-256 in hexadecimal. */
export const hash = (name: string) =>
  customType<{ data: string }>({ dataType: () => 'char(64) character set ascii collate ascii_bin' })(name);

/** What every row that workers take turns on carries. */
export const work = {
  dueAt: time('due_at').notNull(),
  leaseUntil: time('lease_until').notNull().default(0),
  leaseOwner: varchar('lease_owner', { length: 40 }),
  tries: int('tries').notNull().default(0),
};
