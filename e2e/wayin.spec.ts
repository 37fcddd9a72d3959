import { execFileSync } from 'node:child_process'
import { mkdtempSync, mkdirSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

import { type Browser, chromium, expect, type Page, test } from '@playwright/test'

import { accessible } from './kit'

const passphrase = 'lantern gravel otter seventeen'
const port = Number(process.env['CLEARJAR_E2E_WAY'])
const secure = `https://clearjar.local:${port}`
const plain = `http://clearjar.local:${port + 1}`

/** A phone of its own: what it trusts is in its own home, and it finds the server by name as it would in a home network. */
async function phone(home: string, args: string[]): Promise<{ browser: Browser; page: Page }> {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [...args, '--host-resolver-rules=MAP clearjar.local 127.0.0.1'],
    env: { ...process.env, HOME: home },
  })
  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    isMobile: true,
    permissions: ['camera'],
  })
  return { browser, page: await context.newPage() }
}

test('a phone trusts the server, scans, and stands at the shelf with its camera', async ({ browser: own, launchOptions }) => {
  const home = mkdtempSync(join(tmpdir(), 'clearjar-phone-'))
  const args = launchOptions.args ?? []
  const began = Date.now()
  // The desktop is the machine itself.
  const desktop = await (await own.newContext({ ignoreHTTPSErrors: true, viewport: { width: 1280, height: 800 } })).newPage()
  await desktop.goto(`https://localhost:${port}/household`)
  await desktop.getByLabel('Your name to sign in').fill('ada')
  await desktop.getByLabel('Your passphrase').fill(passphrase)
  await desktop.getByRole('button', { name: 'Sign in', exact: true }).click()
  await desktop.getByRole('button', { name: 'Show a code' }).click()
  const open = desktop.getByRole('region', { name: 'Add a phone' })
  await expect(open.getByRole('img', { name: 'Address of the page that leads through trusting' })).toBeVisible()
  await expect(open.getByText(plain)).toBeVisible()
  await accessible(desktop)
  const fingerprint = (await open.getByLabel('Fingerprint').innerText()).replace(/\s+/g, ':')
  const code = await open.locator('code.code').innerText()

  const first = await phone(home, args)
  const untrusting = await first.page.context().newPage()
  const refused = await untrusting.goto(secure).catch((e: unknown) => String(e))
  expect(refused).toContain('ERR_CERT_AUTHORITY_INVALID')
  await first.page.goto(plain)
  await expect(first.page.getByRole('heading', { level: 1 })).toHaveText('Trust Clear Jar on this phone, once')
  expect(await first.page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  await accessible(first.page)
  await expect(first.page.locator('#fingerprint')).toHaveText(fingerprint)
  const cert = await first.page.request.get(`http://127.0.0.1:${port + 1}/clear-jar-at-home.crt`)
  expect(cert.headers()['content-type']).toBe('application/x-x509-ca-cert')
  const authority = await cert.body()
  await first.browser.close()
  // What a person does in the phone's settings.
  const store = join(home, '.pki/nssdb')
  mkdirSync(store, { recursive: true })
  writeFileSync(join(home, 'authority.crt'), authority)
  execFileSync('certutil', ['-N', '-d', `sql:${store}`, '--empty-password'])
  execFileSync('certutil', [
    '-A',
    '-d',
    `sql:${store}`,
    '-t',
    'C,,',
    '-n',
    'Clear Jar at home',
    '-i',
    join(home, 'authority.crt'),
  ])

  const { browser, page } = await phone(home, args)
  const answer = await page.goto(`${secure}/join#${code}`)
  expect(answer?.headers()['strict-transport-security']).toContain('max-age=31536000')
  await expect(page.getByRole('link', { name: 'Shelf', exact: true })).toBeVisible()
  const seconds = (Date.now() - began) / 1000
  console.log(`from the desktop, by trusting, to the shelf on the phone: ${seconds.toFixed(1)} s`)
  expect(seconds).toBeLessThan(60)
  await expect(page).toHaveURL(`${secure}/`)
  // A safe page gets the camera, and its cookie goes nowhere else.
  expect(await page.evaluate(() => isSecureContext)).toBe(true)
  expect(
    await page.evaluate(async () => (await navigator.mediaDevices.getUserMedia({ video: true })).getVideoTracks().length),
  ).toBe(1)
  const [cookie] = await page.context().cookies()
  expect(cookie).toMatchObject({ name: '__Host-clearjar', secure: true, httpOnly: true, sameSite: 'Strict', path: '/' })
  expect(
    await page.evaluate(() => (performance.getEntriesByType('navigation')[0] as PerformanceNavigationTiming).nextHopProtocol),
  ).toBe('h2')
  await accessible(page)
  // By a name it does not know it does not answer.
  const other = await page.request.get(`https://127.0.0.1:${port}/`, {
    headers: { Host: 'garden.example' },
    ignoreHTTPSErrors: true,
  })
  expect(other.status()).toBe(421)
  await browser.close()
})
