import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';
import { serveProject } from './serve-project.ts';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** FENLOK_PROJECT: what is rehearsed, as JSON. FENLOK_TOKEN: what the page must show to get it. */
export default defineConfig({
  root: here('.'),
  resolve: {
    alias: [
      { find: 'fenlok/standins/models', replacement: here('../../src/standins/models.ts') },
      { find: /^fenlok$/, replacement: here('../../src/core/index.ts') },
    ],
  },
  build: { outDir: here('../../dist/examples/rehearsal'), emptyOutDir: true, chunkSizeWarningLimit: 1600 },
  server: { host: '127.0.0.1' },
  preview: { host: '127.0.0.1' },
  plugins: [serveProject({ project: process.env.FENLOK_PROJECT ?? '{}', token: process.env.FENLOK_TOKEN })],
});
