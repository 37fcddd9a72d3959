// Lighthouse over every station of the running demo, as a phone: performance, largest paint, blocking, layout shift,
// accessibility, best practices. usage: node scripts/lighthouse.mjs [path ...]
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

import { signIn } from './demo-in.mjs'

const base = process.env.CLEARJAR ?? 'http://127.0.0.1:8420'
const { headers } = await signIn(base)
const read = async (path) => (await fetch(base + path, { headers })).json()
const cutting = (await read('/api/shelf')).cuttings[0].id
const mother = (await read('/api/mothers')).find((m) => m.stems.length)
const stations = [
  '/',
  '/mothers',
  `/mothers/${mother.id}`,
  `/cut/${mother.stems[0].id}`,
  '/set',
  `/cuttings/${cutting}`,
  `/cuttings/${cutting}/look`,
  '/potup',
  '/numbers',
  '/bring-in',
]
const asked = process.argv.slice(2)
const out = join(mkdtempSync(join(tmpdir(), 'clearjar-')), 'report.json')
console.log('station                        perf  largest  blocking  shift   a11y  practices')
for (const path of asked.length ? asked : stations) {
  execFileSync(
    'npx',
    [
      '--yes',
      'lighthouse@12',
      base + path,
      '--quiet',
      `--extra-headers=${JSON.stringify(headers)}`,
      '--output=json',
      `--output-path=${out}`,
      '--only-categories=performance,accessibility,best-practices',
      '--chrome-flags=--headless=new --no-sandbox --disable-dev-shm-usage',
    ],
    { env: { ...process.env, CHROME_PATH: '/usr/bin/chromium' }, stdio: ['ignore', 'ignore', 'inherit'] },
  )
  const { categories, audits } = JSON.parse(readFileSync(out, 'utf8'))
  const of = (key) => audits[key].numericValue ?? 0
  const line = [
    path.replace(/[0-9a-f-]{36}/, '{id}').padEnd(30),
    String(Math.round(categories.performance.score * 100)).padStart(4),
    `${(of('largest-contentful-paint') / 1000).toFixed(1)} s`.padStart(8),
    `${of('total-blocking-time').toFixed(0)} ms`.padStart(9),
    of('cumulative-layout-shift').toFixed(3).padStart(6),
    String(Math.round(categories.accessibility.score * 100)).padStart(6),
    String(Math.round(categories['best-practices'].score * 100)).padStart(10),
  ]
  console.log(line.join(' '))
}
