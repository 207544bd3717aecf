import 'reflect-metadata';
import { readTrail } from '../http/api/trail.ts';
import { inSnapshot, openStore } from '../store/database.ts';
import { printTrail } from './print.ts';

/** Prints the whole story of one submission. */
async function main(databaseUrl: string, id: string): Promise<number> {
  const store = openStore(databaseUrl, 1);
  try {
    const trail = await inSnapshot(store, (db) => readTrail(db, id));
    if (!trail) {
      console.error(`iwashi explain: there is no submission ${id}. Its id stands in the address of its trail.`);
      return 1;
    }
    console.log(printTrail(trail));
    return 0;
  } finally {
    await store.close();
  }
}

main(process.env.DATABASE_URL ?? '', process.argv[2] ?? '').then(
  (code) => process.exit(code),
  (error: unknown) => {
    console.error(`iwashi explain: ${error instanceof Error ? error.message : String(error)}`);
    process.exit(1);
  },
);
