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

/** Files that wait for each other run in whatever order they come over the line, and break now and then: none may. */
const noCircle = {
  name: 'no-circle',
  generateBundle(
    this: { error: (why: string) => never },
    _: unknown,
    bundle: Record<string, { type: string; imports?: string[] }>,
  ) {
    const done = new Set<string>()
    const walk = (file: string, path: string[]): void => {
      if (path.includes(file)) this.error(`files in a circle: ${[...path.slice(path.indexOf(file)), file].join(' -> ')}`)
      if (done.has(file)) return
      for (const next of bundle[file]?.imports ?? []) walk(next, [...path, file])
      done.add(file)
    }
    for (const file of Object.keys(bundle)) walk(file, [])
  },
}

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true }), ahead, noCircle],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 700,
    // One stylesheet: small, and no page waits for another one.
    cssCodeSplit: false,
    rolldownOptions: {
      output: {
        // Few files: on a slow line each costs a journey of its own. The frame of every page; fields; what opens over a page.
        codeSplitting: {
          includeDependenciesRecursively: false,
          groups: [
            { name: 'calendar', test: /VDatePicker|vuetify\/lib\/composables\/calendar/, priority: 4 },
            { name: 'vue', test: /node_modules\/(@vue|vue)\//, priority: 5 },
            {
              name: 'frame',
              test: /plugin-vue:export-helper|node_modules\/(@vue|vue|vue-router|@tanstack|idb|openapi-fetch|uuid|@vueuse|@vuetify)\/|vuetify\/lib\/([a-z]+\.js|composables|util|locale|iconsets|directives|framework|components\/(transitions|VApp|VBtn|VBtnGroup|VBtnToggle|VProgressCircular|VProgressLinear|VIcon|VDefaultsProvider)\/)|src\/(api|kit\/[a-zA-Z]+\.ts)/,
              priority: 3,
            },
            {
              name: 'fields',
              test: /vuetify\/lib\/components\/(VTextField|VField|VInput|VLabel|VMessages|VCounter|VForm|VTextarea)\//,
              priority: 2,
            },
            { name: 'over', test: /vuetify\/lib\/components\//, priority: 1 },
            {
              name: 'kit',
              test: /src\/(drawing|kit\/(AskState|BasisNote|CautionNotes|FitSign|PaperTag|RefusalNote|VerdictSign|_plugin))/,
              priority: 1,
            },
            { name: 'forms', test: /src\/kit\/(CountField|DateField|LengthField|PrintTags)/, priority: 1 },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
})
