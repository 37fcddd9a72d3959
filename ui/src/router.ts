import { createRouter, createWebHistory } from 'vue-router'

import { stations } from './stations'

export const router = createRouter({
  history: createWebHistory(),
  scrollBehavior: (_to, _from, saved) => saved ?? { top: 0 },
  routes: stations.map(({ path, name, title, load }) => ({ path, name, component: load, meta: { title } })),
})

router.afterEach((to) => {
  const title = typeof to.meta['title'] === 'string' ? to.meta['title'] : ''
  document.title = title ? `${title} - Clear Jar` : 'Clear Jar'
})
