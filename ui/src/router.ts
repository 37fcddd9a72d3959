import { createRouter, createWebHistory } from 'vue-router'

import { stations } from './stations'

export const router = createRouter({
  history: createWebHistory(),
  scrollBehavior: (_to, _from, saved) => saved ?? { top: 0 },
  routes: stations.map(({ path, name, title, load }) => ({ path, name, component: load, meta: { title } })),
})

/** A page from before an upgrade asks for scripts that are gone: the new one is fetched, where the way led; once a minute at most. */
router.onError((why, to) => {
  const key = 'clearjar.fetched-anew'
  const gone = why instanceof Error && /import|module|fetch/i.test(why.message)
  if (!gone || Date.now() - Number(sessionStorage.getItem(key) ?? 0) < 60_000) return
  sessionStorage.setItem(key, String(Date.now()))
  location.assign(to.fullPath)
})

router.afterEach((to) => {
  const title = typeof to.meta['title'] === 'string' ? to.meta['title'] : ''
  document.title = title ? `${title} - Clear Jar` : 'Clear Jar'
})
