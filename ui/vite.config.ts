import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'
import { defineConfig, type Plugin } from 'vite'

/** The page names the application's scripts, so that they are on their way while the first drawing is made. */
const ahead: Plugin = {
  name: 'ahead',
  transformIndexHtml: {
    order: 'post',
    handler(_html, { bundle }) {
      const chunks = Object.values(bundle ?? {}).filter((c) => c.type === 'chunk')
      const begin = chunks.find((c) => c.facadeModuleId?.endsWith('/src/begin.ts'))
      const entry = chunks.find((c) => c.isEntry)
      const known = new Set([entry?.fileName, ...(entry?.imports ?? [])])
      const files = new Set<string>()
      const add = (name: string | undefined) => {
        if (!name || known.has(name) || files.has(name)) return
        files.add(name)
        chunks.find((c) => c.fileName === name)?.imports.forEach(add)
      }
      add(begin?.fileName)
      return [...files].map((f) => ({
        tag: 'link',
        attrs: { rel: 'modulepreload', crossorigin: true, fetchpriority: 'low', href: `/${f}` },
        injectTo: 'head' as const,
      }))
    },
  },
}

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true }), ahead],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  // One stylesheet: small, and no page waits for another one.
  build: { target: 'es2022', chunkSizeWarningLimit: 700, cssCodeSplit: false },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
})
