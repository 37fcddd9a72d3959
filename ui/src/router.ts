import { createRouter, createWebHistory } from 'vue-router'

import ShelfStation from './stations/shelf/ShelfStation.vue'

export const router = createRouter({
  history: createWebHistory(),
  scrollBehavior: (_to, _from, saved) => saved ?? { top: 0 },
  routes: [
    { path: '/', name: 'shelf', component: ShelfStation, meta: { title: 'Shelf' } },
    {
      path: '/mothers',
      name: 'mothers',
      component: () => import('./stations/mothers/MothersStation.vue'),
      meta: { title: 'Mothers' },
    },
    {
      path: '/mothers/:id',
      name: 'mother',
      component: () => import('./stations/mothers/MotherStation.vue'),
      meta: { title: 'Mother' },
    },
    {
      path: '/mothers/:motherId/stems/:id',
      name: 'stem',
      component: () => import('./stations/mothers/StemStation.vue'),
      meta: { title: 'Map a stem' },
    },
    { path: '/cut', name: 'cut', component: () => import('./stations/cut/CutChoice.vue'), meta: { title: 'Cut' } },
    { path: '/cut/:id', name: 'cut-stem', component: () => import('./stations/cut/CutStation.vue'), meta: { title: 'Cut' } },
    {
      path: '/prepare/:id',
      name: 'prepare',
      component: () => import('./stations/prepare/PrepareStation.vue'),
      meta: { title: 'Prepare' },
    },
    { path: '/offer', name: 'offer', component: () => import('./stations/offer/OfferStation.vue'), meta: { title: 'Worth it?' } },
    {
      path: '/files',
      name: 'files',
      component: () => import('./stations/files/FilesStation.vue'),
      meta: { title: 'In and out' },
    },
    {
      path: '/bring-in',
      name: 'bring-in',
      component: () => import('./stations/bring/BringInStation.vue'),
      meta: { title: 'Bring in a piece' },
    },
    { path: '/set', name: 'set', component: () => import('./stations/set/SetStation.vue'), meta: { title: 'Set' } },
    {
      path: '/cuttings/:id',
      name: 'cutting',
      component: () => import('./stations/cutting/CuttingStation.vue'),
      meta: { title: 'Cutting' },
    },
    {
      path: '/cuttings/:id/look',
      name: 'look',
      component: () => import('./stations/photo/LookStation.vue'),
      meta: { title: 'Look' },
    },
    { path: '/potup', name: 'potup', component: () => import('./stations/potup/PotUpStation.vue'), meta: { title: 'Pot up' } },
    {
      path: '/numbers',
      name: 'numbers',
      component: () => import('./stations/numbers/NumbersStation.vue'),
      meta: { title: 'Numbers' },
    },
    { path: '/about', name: 'about', component: () => import('./stations/about/AboutStation.vue'), meta: { title: 'About' } },
    { path: '/:anything(.*)*', name: 'nowhere', component: () => import('./kit/NotHere.vue'), meta: { title: 'Not here' } },
  ],
})

router.afterEach((to) => {
  const title = typeof to.meta['title'] === 'string' ? to.meta['title'] : ''
  document.title = title ? `${title} - Clear Jar` : 'Clear Jar'
})
