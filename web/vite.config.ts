import vue from '@vitejs/plugin-vue'
import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { brotliCompressSync, constants } from 'node:zlib'
import type { Plugin } from 'vite'
import { defineConfig } from 'vitest/config'

/** Nearly as small as can be, in a tenth of the time. */
const quick = { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } }

/** Beside each script and style a compressed copy, which the service hands out to browsers that can read it. */
const compressed = (): Plugin => ({
  name: 'compressed',
  apply: 'build',
  writeBundle({ dir }) {
    const folder = join(dir!, 'assets')
    for (const name of readdirSync(folder)) {
      const path = join(folder, name)
      if (/\.(js|css)$/.test(name)) writeFileSync(`${path}.br`, brotliCompressSync(readFileSync(path), quick))
    }
  },
})

/** What the page shows at once is fetched beside the script that asks for it, not after that has run. */
const fetchedEarly = (...parts: string[]): Plugin => ({
  name: 'fetched-early',
  apply: 'build',
  transformIndexHtml: {
    order: 'post',
    handler(_html, { bundle = {} }) {
      const chunks = Object.values(bundle).filter((one) => one.type === 'chunk')
      const first = parts.flatMap((part) => chunks.filter((one) => one.moduleIds.some((id) => id.endsWith(part))))
      const needed = first.flatMap((one) => [one.fileName, ...one.imports.filter((name) => !bundle[name]?.isEntry)])
      return [...new Set(needed)].map((name) => ({
        tag: 'link',
        attrs: { rel: 'modulepreload', crossorigin: true, href: `/${name}` },
        injectTo: 'head' as const,
      }))
    },
  },
})

export default defineConfig({
  plugins: [vue(), compressed(), fetchedEarly('/bench/Bench.vue', '/cards/Cards.vue', '/lanes/Lanes.vue')],
  build: { chunkSizeWarningLimit: 2500, assetsInlineLimit: 0 },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:8765', changeOrigin: true } } },
  // Loading what a store needs may take seconds where much else is done at once: that is no failure.
  test: { environment: 'node', include: ['src/**/*.test.ts'], testTimeout: 30_000 },
})
