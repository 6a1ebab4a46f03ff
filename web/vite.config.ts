import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  server: {
    proxy: {
      '/api': { target: 'http://127.0.0.1:4460', changeOrigin: true, headers: { origin: 'http://127.0.0.1:4460' } },
    },
  },
  build: { target: 'es2023', chunkSizeWarningLimit: 900 },
});
