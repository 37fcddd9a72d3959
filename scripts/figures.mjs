// Figures of a running server: response times at 50 requests a second, the time the shelf takes to draw, and
// the time from a key on a knife to the new chance on the screen.
import { chromium } from '@playwright/test'

import { signIn } from './demo-in.mjs'

const base = process.env.CLEARJAR ?? 'http://127.0.0.1:8420'
const { headers, cookies } = await signIn(base)
const shelf = await (await fetch(`${base}/api/shelf`, { headers })).json()
const mothers = await (await fetch(`${base}/api/mothers`, { headers })).json()
const paths = [
  '/api/shelf',
  '/api/mothers',
  '/api/handbook',
  '/api/round',
  `/api/cuttings/${shelf.cuttings[0].id}`,
  `/api/mothers/${mothers[0].id}`,
]
const times = Object.fromEntries(paths.map((p) => [p, []]))
const started = performance.now()
const asked = []
for (let i = 0; i < 500; i++) {
  const due = started + i * 20
  const wait = due - performance.now()
  if (wait > 0) await new Promise((r) => setTimeout(r, wait))
  const path = paths[i % paths.length]
  const t = performance.now()
  asked.push(
    fetch(base + path, { headers }).then(async (r) => {
      await r.arrayBuffer()
      times[path].push(performance.now() - t)
    }),
  )
}
await Promise.all(asked)
const at = (list, q) => list.sort((a, b) => a - b)[Math.floor(q * (list.length - 1))].toFixed(1)
console.log(`${shelf.cuttings.length} cuttings; 500 requests at 50 a second, ms`)
for (const p of paths)
  console.log(`${p.replace(/[0-9a-f-]{36}/, '{id}').padEnd(24)} median ${at(times[p], 0.5)}  95th ${at(times[p], 0.95)}`)

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-dev-shm-usage', '--disable-quic', '--no-first-run', '--disable-background-networking'],
})
const drawn = []
for (let i = 0; i < 5; i++) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.context().addCookies(cookies)
  await page.goto(`${base}/numbers`, { waitUntil: 'networkidle' })
  const t = await page.evaluate(async () => {
    const start = performance.now()
    document.querySelector('nav a.home').click()
    while (!document.querySelector('.plank figure svg .piece')) await new Promise((r) => requestAnimationFrame(r))
    await new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)))
    return performance.now() - start
  })
  drawn.push(t)
  await page.close()
}
console.log(`shelf drawn after a click, data at hand: median ${at(drawn, 0.5)} ms`)

const stem = mothers
  .flatMap((m) => m.stems)
  .sort((a, b) => b.map.nodes.length - b.taken.length - (a.map.nodes.length - a.taken.length))[0]
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.context().addCookies(cookies)
await page.goto(`${base}/cut/${stem.id}`, { waitUntil: 'networkidle' })
const moved = await page.evaluate(async () => {
  const seen = () =>
    document.querySelector('[aria-label="The plan"]').textContent +
    document.querySelector('.chance').textContent +
    [...document.querySelectorAll('.over')].map((e) => e.getAttribute('aria-label')).join() +
    document.querySelector('[aria-label="Why this chance"]').textContent
  const knife = document.querySelector('[data-knife="0"]')
  knife.focus()
  const out = []
  for (let i = 0; i < 30; i++) {
    const before = seen()
    const start = performance.now()
    knife.dispatchEvent(new KeyboardEvent('keydown', { key: i % 2 ? 'ArrowLeft' : 'ArrowRight', bubbles: true }))
    while (seen() === before && performance.now() - start < 1000) await new Promise((r) => setTimeout(r, 1))
    out.push(performance.now() - start)
    await new Promise((r) => setTimeout(r, 400))
  }
  return out
})
console.log(
  `knife moved on ${stem.map.nodes.length} nodes to new numbers on the screen: median ${at(moved, 0.5)} ms, 95th ${at(moved, 0.95)} ms`,
)
await browser.close()
