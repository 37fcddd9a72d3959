import { VueQueryPlugin } from '@tanstack/vue-query'
import { createApp } from 'vue'

import App from './App.vue'
import { start } from './api/outbox'
import { queryClient } from './api/queries'
import { vuetify } from './kit/theme'
import { router } from './router'

/** The application, before it is drawn. */
export const app = createApp(App).use(router).use(vuetify).use(VueQueryPlugin, { queryClient })

/** What goes on behind the pages. */
export function begin() {
  void start()
}
