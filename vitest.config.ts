import { defineConfig } from 'vitest/config';

/** What only computes runs at a low priority beside the programs, and has to get a turn: no measure, but an end. */
const COMPUTING_MS = 30_000;

export default defineConfig({
  test: {
    projects: [
      {
        extends: true,
        test: { name: 'unit', include: ['src/**/*.test.{ts,tsx}', 'scripts/**/*.test.mjs'], testTimeout: COMPUTING_MS },
      },
      { extends: true, test: { name: 'outside', include: ['test/outside/**/*.test.ts'], testTimeout: COMPUTING_MS } },
      {
        extends: true,
        test: {
          name: 'system',
          include: ['test/system/**/*.test.ts'],
          fileParallelism: false,
          testTimeout: 120_000,
          hookTimeout: 180_000,
        },
      },
      {
        extends: true,
        test: {
          name: 'hostile',
          include: ['test/hostile/**/*.test.ts'],
          testTimeout: 120_000,
          hookTimeout: 180_000,
        },
      },
      {
        extends: true,
        test: {
          name: 'chaos',
          include: ['test/chaos/**/*.test.ts'],
          fileParallelism: false,
          testTimeout: 420_000,
          hookTimeout: 180_000,
        },
      },
      {
        extends: true,
        test: {
          name: 'soak',
          include: ['test/soak/**/*.test.ts'],
          hookTimeout: 180_000,
        },
      },
      {
        extends: true,
        test: {
          name: 'browser',
          include: ['test/browser/**/*.test.ts'],
          setupFiles: ['test/world/whenFailed.ts'],
          fileParallelism: false,
          testTimeout: 120_000,
          hookTimeout: 180_000,
        },
      },
    ],
  },
});
