import react from '@vitejs/plugin-react';
import { defaultClientConditions, defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

export default defineConfig({
  plugins: [
    react(),
    // The pages open without a server: everything built is kept by the browser. Over plain HTTP browsers allow no service worker.
    VitePWA({
      registerType: 'autoUpdate',
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api\//],
        maximumFileSizeToCacheInBytes: 5_000_000,
      },
      manifest: {
        name: 'Ample Crane',
        short_name: 'Ample Crane',
        display: 'standalone',
        background_color: '#f4ede0',
        theme_color: '#2b2521',
        icons: [{ src: '/mark.svg', sizes: 'any', type: 'image/svg+xml' }],
      },
    }),
  ],
  resolve: { conditions: ['@ample-crane/source', ...defaultClientConditions] },
  worker: { format: 'es' },
  server: { proxy: { '/api': 'http://127.0.0.1:8630' } },
  build: { target: 'es2023', assetsInlineLimit: 0 },
});
