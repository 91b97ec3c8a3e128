import { defineConfig } from 'vite';

// What the interface works out without drawing anything, built by itself so that the tests can call it. It is not shipped.
export default defineConfig({
  define: { __TYPES__: JSON.stringify('tests'), 'process.env.NODE_ENV': JSON.stringify('production') },
  publicDir: false,
  build: {
    outDir: 'logic',
    emptyOutDir: true,
    minify: false,
    lib: { entry: 'src/tested.ts', formats: ['es'], fileName: 'logic' },
  },
});
