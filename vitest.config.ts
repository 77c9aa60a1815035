import { defineConfig } from 'vitest/config';
import { watPlugin } from './probe/watPlugin.ts';

export default defineConfig({
  plugins: [watPlugin()],
  test: {
    include: ['{core,contract,server,web,probe,demo,test}/**/*.test.ts'],
    typecheck: { enabled: true, include: ['core/**/*.test-d.ts'] },
    testTimeout: 30_000,
    hookTimeout: 60_000,
  },
});
