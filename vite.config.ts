import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

/** Needed for shared memory and threads; the server sends the same. */
const isolation = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
  'Cross-Origin-Resource-Policy': 'same-origin',
};

export default defineConfig({
  plugins: [react()],
  publicDir: 'demo/public',
  worker: { format: 'es' },
  // The content security policy allows no data: fonts.
  build: { target: 'es2022', assetsInlineLimit: 0, chunkSizeWarningLimit: 1500 },
  server: { headers: isolation },
});
