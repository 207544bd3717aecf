// Fills the database that is running with invented people, by multiplying those that are there.
import path from 'node:path';
import { parseArgs } from 'node:util';
import { runningDatabase } from './database.mjs';
import { dataDir, dist, ExpectedError } from './paths.mjs';
import { runToEnd } from './processes.mjs';

export async function run(args) {
  const { values } = parseArgs({ args, options: { people: { type: 'string' } } });
  const people = Number(values.people);
  if (!Number.isSafeInteger(people) || people < 1)
    throw new ExpectedError('how many people?\nUsage: ./iwashi seed --people 100000');
  const url = process.env.DATABASE_URL ?? runningDatabase(path.join(dataDir, 'demo')) ?? runningDatabase(dataDir);
  if (!url) throw new ExpectedError('no database is running here. Start ./iwashi demo, or set DATABASE_URL.');
  await runToEnd(process.execPath, [path.join(dist, 'server/seed.js'), String(people)], {
    env: { ...process.env, DATABASE_URL: url },
  }).catch(() => process.exit(1));
}
