import { join } from 'node:path';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';
import { CHUNKS, STANDS_ALONE } from './chunks.config.ts';
import { OFFLINE } from './offline.config.ts';

export default defineConfig({
  plugins: [react(), tailwindcss(), VitePWA(OFFLINE), STANDS_ALONE],
  resolve: { conditions: ['source', 'module', 'browser', 'development|production'] },
  worker: { format: 'es' },
  build: {
    target: 'es2023',
    chunkSizeWarningLimit: 900,
    // A stand is a page of its own, so that a phone loads nothing of the director's.
    rolldownOptions: {
      input: ['index.html', 'stand.html'].map((page) => join(import.meta.dirname, page)),
      output: { codeSplitting: CHUNKS },
    },
  },
  server: { host: '127.0.0.1', proxy: { '/api': { target: 'http://127.0.0.1:4170', ws: true } } },
});
