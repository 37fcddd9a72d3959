import '@fontsource-variable/bricolage-grotesque/wght.css'
import '@fontsource-variable/atkinson-hyperlegible-next/wght.css'
import '@fontsource-variable/atkinson-hyperlegible-mono/wght.css'
import 'vuetify/styles/core'
import './kit/tokens.css'
import './kit/paper.css'

import { stationAt } from './stations'

/** Lets the browser draw, or answer a hand, before it goes on. */
const breath = () => new Promise<void>((go) => setTimeout(go))
/** After the first drawing; a page in the background draws nothing, and begins all the same. */
const drawn = () =>
  new Promise<void>((go) => {
    requestAnimationFrame(() => setTimeout(go))
    setTimeout(go, 250)
  })

// What the first page needs is on its way while the application is: its script, and what it reads.
const first = stationAt(location.pathname)
const there = first && (first.id === '' || /^[0-9a-f-]{36}$/.test(first.id)) // not /stems/new
/** Somebody was signed in here: what is asked for before that is known comes back refused, and would be taken for the answer later. */
const known = (() => {
  try {
    return (localStorage.getItem('clearjar.me') ?? 'null') !== 'null'
  } catch {
    return false
  }
})()
for (const path of known ? ['/api/shelf', ...((there && first.station.reads?.(first.id)) || [])] : []) {
  const link = document.createElement('link')
  Object.assign(link, { rel: 'preload', as: 'fetch', crossOrigin: 'anonymous', href: path })
  document.head.append(link)
}
await drawn()
try {
  await import('./warm')
  await breath()
  const page = first?.station.load().catch(() => undefined)
  const { begin } = await import('./begin')
  await page
  await breath()
  await begin(breath)
} catch (why) {
  const says = document.createElement('p')
  says.role = 'alert'
  says.textContent = 'Clear Jar could not be fetched whole. Nothing that was noted is lost; load this page again in a moment.'
  document.querySelector('.shell')?.append(says)
  console.error(why)
}
