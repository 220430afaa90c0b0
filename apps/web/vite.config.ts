import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { conditions: ['source', 'module', 'browser', 'development|production'] },
  worker: { format: 'es' },
  build: { target: 'es2023', chunkSizeWarningLimit: 900 },
  server: { host: '127.0.0.1', proxy: { '/api': 'http://127.0.0.1:4170' } },
});
