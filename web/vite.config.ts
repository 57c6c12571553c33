import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { compression } from 'vite-plugin-compression2';

export default defineConfig({
  // Each file lies beside its compressed selves, which the server sends to who can read them.
  plugins: [
    react(),
    tailwind(),
    compression({ algorithms: ['gzip', 'brotliCompress'], include: /\.(js|css|svg|html)$/ }),
  ],
  build: { outDir: 'dist', emptyOutDir: true, manifest: true, target: 'es2022', chunkSizeWarningLimit: 700 },
});
