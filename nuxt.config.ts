import { fileURLToPath } from 'node:url'
import { VIEWS } from './app/views'

export default defineNuxtConfig({
  compatibilityDate: '2026-01-01',
  ssr: false,
  telemetry: false,
  devtools: { enabled: false },
  modules: ['@pinia/nuxt', '@element-plus/nuxt'],
  elementPlus: { importStyle: 'css', themes: ['dark'] },
  css: [
    '@fontsource/source-sans-3/400.css',
    '@fontsource/source-sans-3/600.css',
    '@fontsource/source-code-pro/400.css',
    '@fontsource/source-code-pro/600.css',
    '~/assets/theme.css',
    '~/assets/frame.css',
  ],
  components: ['parts', 'shell', 'tray', ...VIEWS.map(({ id }) => id)].map(area => ({ path: `~/${area}`, pathPrefix: false })),
  pages: true,
  hooks: {
    'pages:extend': (pages) => {
      pages.push({ path: '/', redirect: `/${VIEWS[0].id}` }, ...VIEWS.map(({ id, name }) => ({ name: id, path: `/${id}`, file: fileURLToPath(new URL(`app/${id}/${name}View.vue`, import.meta.url)) })))
    },
  },
  app: {
    head: {
      title: 'Emporion',
      htmlAttrs: { lang: 'en-GB' },
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/mark.svg' }],
      meta: [{ name: 'viewport', content: 'width=device-width, initial-scale=1' }],
    },
  },
  experimental: { appManifest: false },
  typescript: {
    strict: true,
    tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true, lib: ['ES2023', 'DOM', 'DOM.Iterable', 'WebWorker.ImportScripts'] } },
  },
  vite: {
    worker: { format: 'es' },
    build: { chunkSizeWarningLimit: 1500 },
  },
  nitro: {
    preset: 'node-server',
    imports: false,
    // What the page's shell is rendered with is part of the server's own files: an installed package brings along nothing but what is needed at run time.
    externals: { external: ['pg', 'piscina', 'yauzl', 'yazl'], inline: ['vue', '@vue/', 'unhead', 'vue-bundle-renderer', 'devalue', '@babel/parser', 'entities', 'estree-walker', 'source-map-js'] },
    alias: { '~~': fileURLToPath(new URL('.', import.meta.url)) },
  },
})
