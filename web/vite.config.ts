import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue()],
  build: { chunkSizeWarningLimit: 2500, assetsInlineLimit: 0 },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:8765', changeOrigin: true } } },
  // Loading what a store needs may take seconds where much else is done at once: that is no failure.
  test: { environment: 'node', include: ['src/**/*.test.ts'], testTimeout: 30_000 },
})
