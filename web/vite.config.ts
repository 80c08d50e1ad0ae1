import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { compression } from 'vite-plugin-compression2';

/** `npm run dev` says where the page is; the server is one port further on. */
const port = Number(process.env.PORT ?? 4310);

export default defineConfig({
  plugins: [react(), compression({ algorithms: ['gzip', 'brotliCompress'] })],
  root: import.meta.dirname,
  build: { target: 'es2023', assetsInlineLimit: 0, chunkSizeWarningLimit: 1600 },
  worker: { format: 'es' },
  server: {
    port,
    strictPort: true,
    // The server refuses what comes from another origin: it is asked under the page's own name.
    proxy: { '/api': { target: `http://127.0.0.1:${port + 1}`, changeOrigin: false } },
  },
});
