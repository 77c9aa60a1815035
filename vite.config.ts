import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { earlyFonts } from './scripts/earlyFonts.ts';
import { photoReading } from './scripts/photoReading.ts';
import { PARTS } from './server/parts.ts';

const apiPort = Number(process.env.TEMBRIX_PORT ?? 4870);

export default defineConfig(({ isSsrBuild }) => ({
  root: isSsrBuild ? '.' : 'web',
  plugins: isSsrBuild ? [] : [react(), tailwindcss(), earlyFonts(), photoReading()],
  // The server swaps this word for a fresh nonce in every page it sends.
  html: { cspNonce: 'TEMBRIX_CSP_NONCE' },
  build: isSsrBuild
    ? {
        ...{ target: 'node20', emptyOutDir: true, sourcemap: true, outDir: 'dist/server' },
        rollupOptions: {
          input: { ...PARTS },
        },
      }
    : { outDir: '../dist/web', emptyOutDir: true, target: 'es2022', sourcemap: false },
  server: {
    host: '127.0.0.1',
    port: apiPort + 1,
    strictPort: true,
    proxy: {
      '/api': `http://127.0.0.1:${apiPort}`,
      '/measure': `http://127.0.0.1:${apiPort}`,
    },
  },
}));
