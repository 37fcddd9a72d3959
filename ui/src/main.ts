import '@fontsource-variable/bricolage-grotesque/wght.css'
import '@fontsource-variable/atkinson-hyperlegible-next/wght.css'
import '@fontsource-variable/atkinson-hyperlegible-mono/wght.css'
import 'vuetify/styles'
import './kit/paper.css'

import { VueQueryPlugin } from '@tanstack/vue-query'
import { createApp } from 'vue'

import App from './App.vue'
import { start } from './api/outbox'
import { queryClient } from './api/queries'
import { vuetify } from './kit/theme'
import { router } from './router'

createApp(App).use(router).use(vuetify).use(VueQueryPlugin, { queryClient }).mount('#app')
void start()
