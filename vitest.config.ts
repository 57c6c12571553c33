import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'core',
          include: ['core/**/*.test.ts', 'web/src/**/*.test.ts', 'demo/**/*.test.ts'],
          testTimeout: 20_000,
        },
      },
      {
        test: {
          name: 'server',
          include: ['server/**/*.test.ts', 'standins/**/*.test.ts', 'scripts/**/*.test.ts'],
          globalSetup: ['scripts/tests/database.setup.ts'],
          testTimeout: 180_000,
          hookTimeout: 180_000,
          pool: 'forks',
          maxWorkers: 2,
          sequence: { groupOrder: 1 },
        },
      },
      {
        test: {
          name: 'browser',
          include: ['web/e2e/**/*.e2e.ts'],
          testTimeout: 240_000,
          hookTimeout: 240_000,
          pool: 'forks',
          maxWorkers: 1,
          fileParallelism: false,
          sequence: { groupOrder: 2 },
        },
      },
    ],
  },
});
