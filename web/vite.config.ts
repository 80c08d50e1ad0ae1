import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  root: import.meta.dirname,
  build: { target: 'es2023', assetsInlineLimit: 0, chunkSizeWarningLimit: 1600 },
  worker: { format: 'es' },
  server: { proxy: { '/api': 'http://127.0.0.1:4310' } },
});
