import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const isolation = { 'Cross-Origin-Opener-Policy': 'same-origin', 'Cross-Origin-Embedder-Policy': 'require-corp' };
const server = `http://127.0.0.1:${process.env.YESCA_PORT ?? 4170}`;

export default defineConfig({
  plugins: [react()],
  worker: { format: 'es' },
  build: { outDir: 'dist', chunkSizeWarningLimit: 1500 },
  server: { port: 4171, headers: isolation, proxy: { '/api': server, '/stock': server } },
  preview: { headers: isolation },
});
