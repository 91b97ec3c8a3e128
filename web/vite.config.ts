import react from '@vitejs/plugin-react';
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

// What was read is kept by browsers in the form that these types describe, and in no other.
const types = createHash('sha256').update(readFileSync('src/lib/types.gen.ts')).digest('hex').slice(0, 16);

// The pages themselves are kept by the browser too, so that they open with no signal. Of the fonts, only what is drawn with.
const kept = VitePWA({
  registerType: 'autoUpdate',
  injectRegister: 'script-defer',
  includeAssets: [],
  manifest: {
    name: 'Old Burrow',
    short_name: 'Old Burrow',
    display: 'standalone',
    background_color: '#E7EAE0',
    theme_color: '#E7EAE0',
    icons: [{ src: '/burrow.svg', sizes: 'any', type: 'image/svg+xml' }],
  },
  workbox: {
    clientsClaim: true,
    skipWaiting: true,
    globPatterns: ['**/*.{html,js,css,svg}', 'assets/aleo-latin-{4,7}00-normal-*.woff2', 'assets/source-sans-3-latin-wght-normal-*.woff2'],
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [/^\/api\//],
  },
});

export default defineConfig({
  plugins: [react(), kept],
  define: { __TYPES__: JSON.stringify(types) },
  build: { outDir: 'dist', emptyOutDir: true, assetsInlineLimit: 0 },
  css: { preprocessorOptions: { scss: { quietDeps: true, silenceDeprecations: ['import', 'color-functions', 'global-builtin', 'if-function'] } } },
  server: { proxy: { '/api': 'http://127.0.0.1:8416' } },
});
