// Prints the whole story of one submission, out of the database that is running.
import path from 'node:path';
import { runningDatabase } from './database.mjs';
import { dataDir, dist, ExpectedError } from './paths.mjs';
import { runToEnd } from './processes.mjs';

export async function run([id]) {
  if (!id)
    throw new ExpectedError(
      'which submission? Its id stands in the address of its trail.\nUsage: ./iwashi explain SUBMISSION',
    );
  const url = process.env.DATABASE_URL ?? runningDatabase(dataDir) ?? runningDatabase(path.join(dataDir, 'demo'));
  if (!url)
    throw new ExpectedError('no database is running here. Start ./iwashi demo or ./iwashi start, or set DATABASE_URL.');
  await runToEnd(process.execPath, ['--enable-source-maps', path.join(dist, 'server/explain.js'), id], {
    env: { ...process.env, DATABASE_URL: url },
  }).catch(() => process.exit(1));
}
