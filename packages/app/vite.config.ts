import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { weights } from './build/weights';
import { workersAsEntries } from './build/workersAsEntries';

const isolation = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
};

export default defineConfig({
  plugins: [workersAsEntries(), react(), weights()],
  worker: { format: 'es' },
  server: { headers: isolation, port: 5181 },
  build: {
    target: 'es2022',
    // What scripts may weigh is a matter of build/weights.ts.
    chunkSizeWarningLimit: Infinity,
    modulePreload: {
      // Chunks that workers share must not ask for a document: only the page itself names what it needs ahead.
      resolveDependencies: (_, dependencies, { hostType }) =>
        hostType === 'html' ? dependencies : [],
    },
  },
});
