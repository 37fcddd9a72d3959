import { VueQueryPlugin } from '@tanstack/vue-query'
import { createApp } from 'vue'

import App from './App.vue'
import { start } from './api/outbox'
import { queryClient } from './api/queries'
import { makeVuetify } from './kit/theme'
import { router } from './router'

/** Makes the application and draws it, with a breath between its steps. */
export async function begin(breath: () => Promise<void>) {
  const vuetify = makeVuetify()
  await breath()
  const app = createApp(App).use(router).use(vuetify).use(VueQueryPlugin, { queryClient })
  await breath()
  app.mount('#app')
  void start()
}
