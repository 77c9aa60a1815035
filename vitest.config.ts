import { defineConfig } from 'vitest/config';
import { watPlugin } from './probe/watPlugin.ts';

export default defineConfig({
  plugins: [watPlugin()],
  test: {
    include: ['{core,contract,server,web,probe,demo,test}/**/*.test.{ts,tsx}'],
    // Only the room with types to test; the whole house is checked by the step before.
    typecheck: {
      enabled: true,
      include: ['core/units/*.test-d.ts'],
      tsconfig: 'core/units/tsconfig.types.json',
    },
    // Two cores can be slow for minutes; what hangs is still found.
    testTimeout: 150_000,
    hookTimeout: 150_000,
  },
});
