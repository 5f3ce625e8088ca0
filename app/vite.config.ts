import path from 'node:path';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const LICENCES = '/*! Ordle, MIT licence. What is built in, with its licences: /licences.txt */';
const root = path.resolve(import.meta.dirname);
/** Cross-origin isolation in development as the server has it, so that nothing works only there. */
const headers = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
};

export default defineConfig({
  root,
  plugins: [react(), tailwindcss()],
  resolve: { alias: { '@': root } },
  worker: { format: 'es', rolldownOptions: { output: { postBanner: LICENCES } } },
  server: { host: '127.0.0.1', headers },
  preview: { host: '127.0.0.1', headers },
  build: {
    outDir: path.join(root, 'dist'),
    emptyOutDir: true,
    target: 'es2023',
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      output: {
        // Every script says where the licences of what is built into it are to be read.
        postBanner: LICENCES,
        // One file with what sets Zod up, so that it has run before any other makes a schema.
        codeSplitting: { groups: [{ name: 'zod', test: /node_modules\/zod\/|zodWithoutEval/ }] },
      },
    },
  },
});
