import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import laravel from 'laravel-vite-plugin';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [laravel({ input: ['resources/ts/main.tsx', 'resources/ts/door.css'] }), react(), tailwindcss()],
  build: { chunkSizeWarningLimit: 2000 },
});
