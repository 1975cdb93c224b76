import react from '@vitejs/plugin-react';
import { defaultClientConditions, defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  resolve: { conditions: ['@ample-crane/source', ...defaultClientConditions] },
  worker: { format: 'es' },
  server: { proxy: { '/api': 'http://127.0.0.1:8630' } },
  build: { target: 'es2023', assetsInlineLimit: 0 },
});
