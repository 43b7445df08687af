import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const isolation = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
};

export default defineConfig({
  plugins: [react()],
  worker: { format: 'es' },
  server: { headers: isolation, port: 5181 },
  build: { target: 'es2022', chunkSizeWarningLimit: 900 },
});
