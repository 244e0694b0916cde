import { defineConfig } from 'vite'

/** The view for notebooks: one script that needs nothing else, beside the page. */
export default defineConfig({
  publicDir: false,
  define: { 'process.env.NODE_ENV': '"production"' },
  build: {
    outDir: 'dist/notebook',
    emptyOutDir: true,
    chunkSizeWarningLimit: 2500,
    lib: { entry: 'src/notebook/index.ts', formats: ['es'], fileName: () => 'view.js' },
    rollupOptions: { output: { inlineDynamicImports: true } },
  },
})
