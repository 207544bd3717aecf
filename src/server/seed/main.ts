import 'reflect-metadata';
import { openStore } from '../store/database.ts';
import { seedPeople } from './seed.ts';

/** Fills the database that runs with people, so that one sees it at size. */
async function main(databaseUrl: string, count: number): Promise<void> {
  const store = openStore(databaseUrl, 2);
  const began = Date.now();
  await seedPeople(store, count, (made) => {
    process.stdout.write(`\r${made} of ${count} people, ${Math.round((Date.now() - began) / 1000)} s`);
  });
  process.stdout.write('\n');
  await store.close();
}

main(process.env.DATABASE_URL ?? '', Number(process.argv[2])).then(
  () => process.exit(0),
  (error: unknown) => {
    console.error(`iwashi seed: ${error instanceof Error ? error.message : String(error)}`);
    process.exit(1);
  },
);
