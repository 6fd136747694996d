import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  root: import.meta.dirname,
  plugins: [react(), tailwind()],
  build: { outDir: 'dist', emptyOutDir: true, chunkSizeWarningLimit: 2500 },
  // Modules, so that what the workers share is one file.
  worker: { format: 'es' },
  server: { host: '127.0.0.1', port: 4610, proxy: { '/api': 'http://127.0.0.1:4600' } },
});
