import path from 'node:path';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';
import { VitePWA, type ManifestOptions } from 'vite-plugin-pwa';
// eslint-disable-next-line boundaries/dependencies -- settings of the build, nothing that ships
import { licenceTexts, shippedPackages } from '../scripts/shippedPackages.mjs';

const LICENCES = '/*! Ordle, MIT licence. What is built in, with its licences: /licences.txt */';
const root = path.resolve(import.meta.dirname);
/** Cross-origin isolation in development as the server has it, so that nothing works only there. */
const headers = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
};

/** The texts of all licences, as a file of the app: it is kept for when there is no server, like the others. */
const licences: Plugin = {
  name: 'licences',
  generateBundle() {
    const source = licenceTexts(shippedPackages(['core', 'sound', 'app']));
    this.emitFile({ type: 'asset', fileName: 'licences.txt', source });
  },
};

/** How Ordle is installed as an app of the system, and which files open with it. */
const webManifest: Partial<ManifestOptions> = {
  id: '/',
  name: 'Ordle',
  short_name: 'Ordle',
  description: 'A repair bench for recorded MIDI.',
  lang: 'en',
  start_url: '/',
  scope: '/',
  display: 'standalone',
  background_color: '#fbf7ee',
  theme_color: '#fbf7ee',
  categories: ['music', 'productivity'],
  icons: [
    { src: '/favicon.svg', sizes: 'any', type: 'image/svg+xml' },
    { src: '/icons/icon-192.png', sizes: '192x192', type: 'image/png' },
    { src: '/icons/icon-512.png', sizes: '512x512', type: 'image/png' },
    { src: '/icons/icon-maskable-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
  ],
  file_handlers: [
    {
      action: '/',
      accept: {
        'audio/midi': ['.mid', '.midi', '.kar', '.smf', '.rmi'],
        'application/vnd.ordle.session+json': ['.ordle'],
        'application/vnd.recordare.musicxml+xml': ['.musicxml'],
        'application/vnd.recordare.musicxml': ['.mxl'],
      },
    },
  ],
  launch_handler: { client_mode: 'focus-existing' },
};

/** The service worker is our own (it keeps the former version for pages that run it); what it keeps is listed here. */
const offline = VitePWA({
  strategies: 'injectManifest',
  srcDir: 'shell/offline',
  filename: 'serviceWorker.ts',
  injectRegister: false,
  manifest: webManifest,
  includeManifestIcons: false,
  injectManifest: {
    globPatterns: ['**/*.{js,css,html,txt,svg,png,sf2,woff2,mid,musicxml,json}'],
    // The largest is the engraver, then the sound bank.
    maximumFileSizeToCacheInBytes: 16_000_000,
    dontCacheBustURLsMatching: /assets\//,
    manifestTransforms: [
      (entries) => ({ manifest: entries.map((entry) => ({ ...entry, url: `/${entry.url}` })) }),
    ],
  },
});

export default defineConfig({
  root,
  plugins: [react(), tailwindcss(), licences, offline],
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
