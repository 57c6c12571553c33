import { configDefaults, defineConfig } from 'vitest/config';

/** What is tested against a real database, or by starting programs. All other tests need nothing but themselves. */
const WITH_DATABASE = ['server/**/*.test.ts', 'standins/**/*.test.ts', 'scripts/**/*.test.ts'];

/** What files of tests import is read once for each worker: no test changes a module. */
const isolate = false;

/** Properties are tried with the same values each time: nothing fails by chance. */
const setupFiles = ['scripts/tests/seed.setup.ts'];

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          isolate,
          setupFiles,
          include: ['**/*.test.{ts,tsx}'],
          exclude: [...configDefaults.exclude, ...WITH_DATABASE],
          // Long enough for a machine that does much else; what hangs is still found.
          testTimeout: 120_000,
        },
      },
      {
        test: {
          name: 'server',
          isolate,
          setupFiles,
          include: WITH_DATABASE,
          globalSetup: ['scripts/tests/database.setup.ts'],
          testTimeout: 180_000,
          hookTimeout: 180_000,
          pool: 'forks',
          // Much of their time is waiting for the database and for programs of their own.
          maxWorkers: 3,
          sequence: { groupOrder: 1 },
        },
      },
      {
        test: {
          name: 'browser',
          isolate,
          include: ['**/*.e2e.ts'],
          globalSetup: ['scripts/tests/demo.setup.ts'],
          testTimeout: 240_000,
          hookTimeout: 240_000,
          pool: 'forks',
          maxWorkers: 2,
          sequence: { groupOrder: 2 },
        },
      },
    ],
  },
});
