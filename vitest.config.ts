import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,contract,server,web,demo,test}/**/*.test.ts'],
    typecheck: { enabled: true, include: ['core/**/*.test-d.ts'] },
    testTimeout: 30_000,
    hookTimeout: 60_000,
  },
});
