import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [react()],
  test: {
    environment: 'happy-dom',
    include: ['tests/Components/*.test.tsx'],
    setupFiles: ['tests/Components/setup.ts'],
    isolate: false,
    testTimeout: 60_000,
    pool: 'threads',
    restoreMocks: true,
    unstubGlobals: true,
  },
});
