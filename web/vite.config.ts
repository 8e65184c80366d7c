import { join } from 'node:path';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { compression } from 'vite-plugin-compression2';
import { withoutSchemas } from './withoutSchemas.ts';

export default defineConfig({
  root: import.meta.dirname,
  // What is sent is compressed as it is built: the server only passes it on.
  plugins: [withoutSchemas(), react(), compression({ algorithms: ['brotliCompress'], include: /\.(js|css|svg|html)$/, threshold: 1024 })],
  build: { outDir: join(import.meta.dirname, 'dist'), emptyOutDir: true, chunkSizeWarningLimit: 900, rolldownOptions: { checks: { bundlerTimings: false } } },
  server: { proxy: { '/api': 'http://127.0.0.1:4310' } },
});
