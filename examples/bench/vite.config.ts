import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';
import { serveCaptures } from './serve-captures.ts';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** FENLOK_DOSSIERS: folders whose captures the page offers, one a line. FENLOK_TOKEN: what it must show to get them. */
export default defineConfig({
  root: here('.'),
  resolve: { alias: { fenlok: here('../../src/core/index.ts') } },
  worker: { format: 'es' },
  build: { outDir: here('../../dist/examples/bench'), emptyOutDir: true, chunkSizeWarningLimit: 1200 },
  server: { host: '127.0.0.1' },
  preview: { host: '127.0.0.1' },
  plugins: [
    serveCaptures({
      dossiers: (process.env.FENLOK_DOSSIERS ?? '').split('\n').filter(Boolean),
      token: process.env.FENLOK_TOKEN,
    }),
  ],
});
