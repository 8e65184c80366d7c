import { join } from 'node:path';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { compression } from 'vite-plugin-compression2';
import { VitePWA, type VitePWAOptions } from 'vite-plugin-pwa';
import { withoutSchemas } from './withoutSchemas.ts';

const icon = (name: string, size: number, purpose: 'any' | 'maskable') => ({
  src: `/assets/icons/${name}.png`,
  sizes: `${size}x${size}`,
  type: 'image/png',
  purpose,
});

/** The application as it is installed on a phone, and what is held there of it so that it opens without a connection: all but the reader of spreadsheets. */
const installed: Partial<VitePWAOptions> = {
  injectRegister: false,
  includeAssets: [],
  manifest: {
    name: 'Tidy Larder',
    short_name: 'Larder',
    description: 'What is on the shelves, what comes in and what goes out.',
    lang: 'en-GB',
    start_url: '/',
    display: 'standalone',
    background_color: '#f7f3ea',
    theme_color: '#5a2a55',
    icons: [icon('icon-192', 192, 'any'), icon('icon-512', 512, 'any'), icon('whole-512', 512, 'maskable')],
  },
  workbox: {
    globPatterns: ['index.html', 'assets/**/*.{js,css,woff2,wasm}'],
    globIgnores: ['**/readFile.worker-*.js'],
    maximumFileSizeToCacheInBytes: 3_000_000,
    inlineWorkboxRuntime: true,
    skipWaiting: true,
    clientsClaim: true,
    navigateFallback: null,
    // Whoever has a connection gets the page as it is now.
    runtimeCaching: [
      {
        urlPattern: ({ request }) => request.mode === 'navigate',
        handler: 'NetworkOnly',
        options: { precacheFallback: { fallbackURL: 'index.html' } },
      },
    ],
  },
};

export default defineConfig({
  root: import.meta.dirname,
  // What is sent is compressed as it is built: the server only passes it on.
  plugins: [withoutSchemas(), react(), VitePWA(installed), compression({ algorithms: ['brotliCompress'], include: /\.(js|css|svg|html)$/, threshold: 1024 })],
  build: { outDir: join(import.meta.dirname, 'dist'), emptyOutDir: true, chunkSizeWarningLimit: 900, rolldownOptions: { checks: { bundlerTimings: false } } },
  server: { proxy: { '/api': 'http://127.0.0.1:4310' } },
});
