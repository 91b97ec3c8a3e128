import react from '@vitejs/plugin-react';
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { defineConfig, type Plugin } from 'vite';
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
    // An installed page opens where the hand is wanted.
    id: '/',
    start_url: '/?round',
    scope: '/',
    icons: [
      { src: '/burrow.svg', sizes: 'any', type: 'image/svg+xml' },
      { src: '/icons/burrow-192.png', sizes: '192x192', type: 'image/png' },
      { src: '/icons/burrow-512.png', sizes: '512x512', type: 'image/png' },
      { src: '/icons/burrow-mask-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
    ],
  },
  workbox: {
    clientsClaim: true,
    skipWaiting: true,
    globPatterns: ['**/*.{html,js,css,svg}', 'assets/aleo-latin-{4,7}00-normal-*.woff2', 'assets/source-sans-3-latin-wght-normal-*.woff2'],
    // The core is fetched when a page rests; the one from before goes when the new one is there.
    runtimeCaching: [
      {
        urlPattern: ({ url }) => url.pathname.endsWith('.wasm'),
        handler: 'CacheFirst',
        options: { cacheName: 'core', expiration: { maxEntries: 1 } },
      },
    ],
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [/^\/api\//, /^\/certificate/],
  },
});

// The fonts come with the page, so that no text grows or shrinks under the reader.
const fontsFirst: Plugin = {
  name: 'fonts-first',
  transformIndexHtml: {
    order: 'post',
    handler: (_, { bundle }) =>
      Object.keys(bundle ?? {})
        .filter((file) => /(aleo-latin-[47]00-normal|source-sans-3-latin-wght-normal)-[^.]+\.woff2$/.test(file))
        .map((file) => ({
          tag: 'link',
          attrs: { rel: 'preload', as: 'font', type: 'font/woff2', href: `/${file}`, crossorigin: '' },
          injectTo: 'head-prepend' as const,
        })),
  },
};

export default defineConfig({
  plugins: [react(), fontsFirst, kept],
  define: { __TYPES__: JSON.stringify(types) },
  worker: { format: 'es' },
  build: { outDir: 'dist', emptyOutDir: true, assetsInlineLimit: 0 },
  css: {
    preprocessorOptions: { scss: { quietDeps: true, silenceDeprecations: ['import', 'color-functions', 'global-builtin', 'if-function'] } },
  },
  // The name that the browser asked for is passed on: the program refuses what another site asks.
  server: { proxy: { '/api': { target: 'http://127.0.0.1:8416', changeOrigin: false } } },
});
