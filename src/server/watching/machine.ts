import type { StatsFs } from 'node:fs';
import { statfs } from 'node:fs/promises';
import path from 'node:path';
import type { Config } from '../config.ts';
import type { Context } from '../context.ts';
import { writeFact } from '../store/accounts.ts';

/** A disk with less room than this is said to be nearly full, in bytes: some hours of everything that comes in. */
const NEARLY_FULL_BYTES = 1024 ** 3;

/** For so long an answer about the database holds, so that nobody can have it written to as often as they ask. */
const READY_MS = 1_000;

/** A disk that we write to. */
export interface Disk {
  /** What is kept on it, in words. */
  holds: string;
  freeBytes: number;
  nearlyFull: boolean;
}

/** The disks that we write to and can see: of a database elsewhere, nobody here knows. One disk is told once. */
export async function readDisks(config: Pick<Config, 'databaseFolder' | 'uploadFolder'>): Promise<Disk[]> {
  const folders = [
    { holds: 'the database', folder: config.databaseFolder },
    { holds: 'files that visitors handed over', folder: config.uploadFolder },
  ];
  const disks = new Map<string, Disk>();
  for (const { holds, folder } of folders) {
    const space = folder === null ? null : await spaceOf(folder);
    if (!space) continue;
    const freeBytes = space.bavail * space.bsize;
    const one = `${space.type} ${space.blocks} ${space.files}`;
    if (!disks.has(one)) disks.set(one, { holds, freeBytes, nearlyFull: freeBytes < NEARLY_FULL_BYTES });
  }
  return [...disks.values()];
}

/** The room on the disk of a folder, which need not be there yet; null where nobody can say. */
async function spaceOf(folder: string): Promise<StatsFs | null> {
  try {
    return await statfs(folder);
  } catch {
    const above = path.dirname(path.resolve(folder));
    return above === folder ? null : spaceOf(above);
  }
}

/** Tells whether what comes in can be kept: the database answers, and takes what is written. */
export function readiness({ store, now }: Context): () => Promise<boolean> {
  let known: { at: number; answer: Promise<boolean> } | null = null;
  return () => {
    if (known === null || known.at <= now() - READY_MS || known.at > now())
      known = {
        at: now(),
        answer: writeFact(store.db, 'took a write at', String(now())).then(
          () => true,
          () => false,
        ),
      };
    return known.answer;
  };
}
