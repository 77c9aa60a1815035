import { defineConfig } from 'vite';
import { viteSingleFile } from 'vite-plugin-singlefile';
import { watPlugin } from './watPlugin.ts';

/** The measuring page as one HTML file that works from a USB stick. */
export default defineConfig({
  root: import.meta.dirname,
  plugins: [watPlugin(), viteSingleFile()],
  worker: { format: 'iife', plugins: () => [watPlugin()] },
  build: { outDir: '../dist/probe', emptyOutDir: true, target: 'es2022', sourcemap: false },
});
