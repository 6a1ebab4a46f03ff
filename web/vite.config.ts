import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

/** Tells one build from another: a page and a frame of two builds do not talk to each other. */
const BUILD = Date.now().toString(36);

/** Says in each document of which build it is. */
const sayBuild: Plugin = {
  name: 'rackle-build',
  transformIndexHtml: () => [{ tag: 'meta', attrs: { name: 'rackle-build', content: BUILD }, injectTo: 'head' }],
};

/** A service worker of our own, which is told what it has to keep. */
const serviceWorker = (filename: string, globPatterns: string[]) =>
  VitePWA({
    strategies: 'injectManifest',
    srcDir: 'src/installed',
    filename,
    injectRegister: false,
    manifest: false,
    injectManifest: { globPatterns, maximumFileSizeToCacheInBytes: 32 * 1024 * 1024, rollupFormat: 'iife' },
  });

export default defineConfig({
  define: { __RACKLE_BUILD__: JSON.stringify(BUILD) },
  plugins: [
    react(),
    tailwindcss(),
    sayBuild,
    serviceWorker('page.sw.ts', ['assets/**/*.{js,css,woff2,wasm}', 'mark*', 'manifest.webmanifest']),
    serviceWorker('host.sw.ts', ['assets/**/*.{js,wasm}']),
  ],
  server: {
    proxy: {
      '/api': { target: 'http://127.0.0.1:4460', changeOrigin: true, headers: { origin: 'http://127.0.0.1:4460' } },
    },
  },
  build: {
    target: 'es2023',
    chunkSizeWarningLimit: 900,
    rolldownOptions: { input: ['index.html', 'host.html'] },
  },
});
