import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import laravel from 'laravel-vite-plugin';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: process.env['VITEST']
    ? [react()]
    : [laravel({ input: ['resources/ts/main.tsx', 'resources/ts/door.css'] }), react(), tailwindcss()],
  build: { chunkSizeWarningLimit: 2000 },
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
