import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue()],
  build: { chunkSizeWarningLimit: 2500, assetsInlineLimit: 0 },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:8765', changeOrigin: true } } },
  test: { environment: 'node', include: ['src/**/*.test.ts'] },
})
