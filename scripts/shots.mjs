// docs/screenshots from the running demo: one current picture of each main view.
import { copyFileSync, mkdirSync } from 'node:fs'
import { resolve } from 'node:path'

import { chromium } from '@playwright/test'

import { signIn } from './demo-in.mjs'

const film = resolve('var/camera.mjpeg')
mkdirSync('var', { recursive: true })
copyFileSync('demo/photos/demo_aroid_day38.jpg', film)
const base = process.env.CLEARJAR ?? 'http://127.0.0.1:8420'
const { headers, cookies } = await signIn(base)
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-dev-shm-usage',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--font-render-hinting=none',
    // What the camera sees: a film of one picture.
    '--use-fake-ui-for-media-stream',
    '--use-fake-device-for-media-stream',
    `--use-file-for-fake-video-capture=${film}`,
  ],
})
const json = async (path) => (await fetch(base + path, { headers })).json()
const shelf = await json('/api/shelf')
const mothers = await json('/api/mothers')
const { plans } = await json('/api/plans')
const cutting = (code) => shelf.cuttings.find((c) => c.code === code).id
const mel = mothers.find((m) => m.code === 'MEL')
const stem = mel.stems.find((s) => s.letter === 'B').id
const page1 = await json(`/api/cuttings/${cutting('PIN-A6-7')}`)
const lastLook = page1.looks.filter((l) => l.photo).at(-1).id

const shots = [
  ['shelf', '/'],
  ['shelf-phone', '/', { phone: true }],
  ['mothers', '/mothers'],
  ['ahead', '/ahead'],
  ['stem', `/mothers/${mel.id}/stems/${stem}`, { then: (p) => p.getByRole('slider', { name: 'Node 5' }).focus() }],
  ['cut', `/cut/${stem}`],
  [
    'bench',
    `/prepare/${plans[0].id}`,
    {
      then: async (p) => {
        for (const box of await p.getByRole('checkbox').all()) if (!(await box.isChecked())) await box.check()
        await p.getByText('to go').first().scrollIntoViewIfNeeded()
      },
    },
  ],
  [
    'household',
    '/household',
    {
      then: async (p) => {
        await p.getByRole('button', { name: 'Show a code' }).click()
        await p.getByRole('img', { name: 'Code for the phone' }).waitFor()
      },
    },
  ],
  [
    'set',
    `/set?cutting=${['CIS-A5-6', 'CIS-A7-8'].map(cutting).join(',')}`,
    {
      then: async (p) => {
        await p.getByRole('button', { name: /Wide jar/ }).click()
        await p.getByRole('heading', { name: /How to set it/ }).waitFor()
        await p.getByRole('region', { name: 'Wide jar' }).evaluate((e) => e.scrollIntoView({ block: 'end' }))
        await p.mouse.wheel(0, 60)
      },
    },
  ],
  ['round', '/round', { phone: true, then: (p) => p.getByRole('button', { name: /^cloudy/ }).click() }],
  ['vessel', `/vessels/${shelf.vessels.find((v) => v.name === 'Rhizome tray').id}`],
  ['air', `/places/${shelf.places.find((p) => p.name.includes('upper')).id}`],
  ['mix', '/mix'],
  ['cutting', `/cuttings/${cutting('PIN-A8-9')}`],
  ['look', `/cuttings/${cutting('PIN-A6-7')}/look?look=${lastLook}`],
  [
    'photo-phone',
    '/photo',
    {
      phone: true,
      then: async (p) => {
        await p.getByRole('button', { name: 'Open the camera' }).click()
        await p.getByText('Good. Hold still.').waitFor()
        await p.getByText('Wide jar').waitFor()
      },
    },
  ],
  ['potup', '/potup'],
  [
    'bring-in',
    '/bring-in',
    {
      then: async (p) => {
        await p.getByLabel('Full name of the plant').fill('Begonia, from a swap')
        await p.locator('.v-select').filter({ hasText: 'Growth group' }).click()
        await p
          .getByRole('option', { name: /egonia/ })
          .first()
          .click()
        await p.getByRole('button', { name: /^leaf/ }).first().click()
        await p.getByRole('button', { name: 'new lidded box with moss' }).click()
        await p.evaluate(() => scrollTo(0, 0))
      },
    },
  ],
  ['leaf', `/cuttings/${cutting('VIO-L1')}`],
]
for (const [name, path, o = {}] of shots.filter(([n]) => process.argv.length < 3 || process.argv.includes(n))) {
  const page = await browser.newPage({
    viewport: o.phone ? { width: 390, height: 844 } : { width: 1280, height: 800 },
    colorScheme: o.dark ? 'dark' : 'light',
    reducedMotion: 'reduce',
    locale: 'en-GB',
  })
  await page.context().addCookies(cookies)
  await page.goto(base + path, { waitUntil: 'networkidle' })
  if (o.then) await o.then(page)
  await page.waitForTimeout(400)
  await page.screenshot({ path: `docs/screenshots/${name}.png` })
  await page.close()
}
await browser.close()
