import { execFileSync } from 'node:child_process'
import { fileURLToPath } from 'node:url'

import { type Browser, expect, type Page, test, type TestInfo } from '@playwright/test'

import { accessible, choose } from './kit'

/** A passphrase that nobody guesses; made up for the tests. */
const passphrase = 'lantern gravel otter seventeen'

function clearjar(args: string[], input = ''): string {
  const script = fileURLToPath(new URL('../scripts/e2e-clearjar.sh', import.meta.url))
  return execFileSync('bash', [script, 'e2e_door', ...args], { encoding: 'utf8', input })
}
const code = (said: string) => /[0-9A-Z]{4}(?:-[0-9A-Z]{4}){3}/.exec(said)![0]

/** Another browser, of another person or on another device. */
async function another(browser: Browser, phone = false): Promise<Page> {
  const context = await browser.newContext(
    phone
      ? { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true }
      : { viewport: { width: 1280, height: 800 } },
  )
  return context.newPage()
}

async function signIn(page: Page, name: string) {
  await page.goto('/')
  await page.getByLabel('Your name to sign in').fill(name)
  await page.getByLabel('Your passphrase').fill(passphrase)
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(page.getByRole('navigation', { name: 'Stations' })).toBeVisible()
}

/** A form that was filled in and not sent yet. */
async function mother(page: Page, name: string) {
  await page.getByRole('button', { name: 'Add a mother' }).click()
  await page.getByLabel('Full name').fill(name)
  await choose(page, 'Growth group: plants that root alike', /wax vine/i)
}

/** A keeper of this test's own, so that none rests on another, nor on an earlier try of itself. */
function keeper({ title, retry }: TestInfo): string {
  const name = `ada${[...title].reduce((n, c) => (n * 31 + c.charCodeAt(0)) % 1_000_003, 7)}.${retry}`
  clearjar(['household', 'member', name, '--name', 'Ada'], `${passphrase}\n`)
  return name
}

test('the first code makes the keeper, who signs out and in again', async ({ page }, { retry }) => {
  // Nobody is a member yet; once more, they come in with a code like anybody.
  await page.goto(retry ? '/join' : '/mothers')
  await expect(page.getByRole('heading', { name: retry ? 'Come in with a code' : 'Make this household yours' })).toBeVisible()
  await expect(page.getByRole('navigation')).toHaveCount(0)
  await accessible(page)
  await page.getByLabel('The code, sixteen letters and digits').fill('0000 0000 0000 0000')
  await page.getByRole('button', { name: 'Go on' }).click()
  await expect(page.getByText('This code is not known here.')).toBeVisible()
  await page.getByLabel('The code, sixteen letters and digits').fill(code(clearjar(['household', 'code'])).toLowerCase())
  await page.getByRole('button', { name: 'Go on' }).click()
  const house = page.getByLabel('What the household is called')
  await expect(page.getByLabel('A short name to sign in')).toBeVisible()
  if (await house.isVisible()) await house.fill('Attic at number nine')
  await page.getByLabel('Your name, as the others see it').fill('Ada')
  await page.getByLabel('A short name to sign in').fill(`ada${retry}`)
  await page.getByLabel('A new passphrase').fill('ada ada ada ada')
  await page.getByRole('button', { name: 'Come in' }).click()
  await expect(page.getByText(/easily guessed/)).toBeVisible()
  await accessible(page)
  await page.getByLabel('A new passphrase').fill(passphrase)
  await page.getByRole('button', { name: 'Come in' }).click()
  // The page that was asked for at first.
  if (!retry) await expect(page.getByRole('heading', { level: 1, name: 'Mothers' })).toBeVisible()
  await page.getByRole('link', { name: 'Household' }).click()
  await expect(page.getByRole('heading', { level: 1, name: /^Attic at number (nine|ten)$/ })).toBeVisible()
  await expect(page.getByText('You are Ada, a keeper.')).toBeVisible()
  await page.getByRole('button', { name: 'Change what the household is called' }).click()
  await page.getByLabel('What the household is called', { exact: true }).fill('Attic at number ten')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Attic at number ten' })).toBeVisible()
  await accessible(page)

  await page.getByRole('button', { name: 'Sign out here' }).click()
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  await page.getByLabel('Your name to sign in').fill(`Ada${retry}`)
  await page.getByLabel('Your passphrase').fill('not the passphrase')
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(page.getByText(/do not belong together/)).toBeVisible()
  await accessible(page)
  await signIn(page, `ada${retry}`)
})

test('the page that was asked for stands whole after signing in', async ({ page }, info) => {
  const ada = keeper(info)
  for (const path of ['/household', '/', '/mothers', '/round']) {
    await page.context().clearCookies()
    await page.goto(path)
    await page.getByLabel('Your name to sign in').fill(ada)
    await page.getByLabel('Your passphrase').fill(passphrase)
    await page.getByRole('button', { name: 'Sign in', exact: true }).click()
    await expect(page.getByRole('navigation', { name: 'Stations' })).toBeVisible()
    await page.waitForLoadState('networkidle')
    await expect(page.getByText('Nobody is signed in')).toHaveCount(0)
    await expect(page.getByRole('alert')).toHaveCount(0)
  }
})

test('a passkey in place of the passphrase', async ({ page }, info) => {
  const ada = keeper(info)
  const cdp = await page.context().newCDPSession(page)
  await cdp.send('WebAuthn.enable')
  await cdp.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  })
  await signIn(page, ada)
  await page.goto('/household')
  await page.getByRole('button', { name: 'Add a passkey' }).click()
  await expect(page.getByRole('button', { name: /^Remove Desktop/ })).toBeVisible()
  await page.getByRole('button', { name: 'Add a passkey' }).click()
  await expect(page.getByText('This device holds a passkey for you already.')).toBeVisible()
  await page.getByRole('button', { name: 'Sign out here' }).click()
  await page.getByRole('button', { name: 'With a passkey' }).click()
  await expect(page.getByRole('navigation', { name: 'Stations' })).toBeVisible()
  await page.goto('/household')
  await expect(page.getByText('this one, by passkey')).toBeVisible()
  await page.getByRole('button', { name: /^Remove Desktop/ }).click()
  await expect(page.getByRole('button', { name: /^Remove Desktop/ })).toHaveCount(0)
  await page.getByRole('button', { name: 'Sign out here' }).click()
  await page.getByRole('button', { name: 'With a passkey' }).click()
  await expect(page.getByText('This passkey did not open.')).toBeVisible()
})

test('a helper is invited, records, and may not invite; shut out, nothing opens any more', async ({ page, browser }, info) => {
  const ada = keeper(info)
  await signIn(page, ada)
  await page.goto('/household')
  await page.getByLabel('Their name').fill('Hal')
  await page.getByRole('button', { name: 'Make an invitation' }).click()
  const said = page.getByRole('status').filter({ hasText: 'An invitation for Hal' })
  await expect(said.getByRole('img', { name: 'Code for Hal' })).toBeVisible()
  await accessible(page)
  const address = await said.locator('code').innerText()
  const hal = await another(browser)
  await hal.goto(address)
  await expect(hal.getByText(/You are asked into Attic at number (nine|ten), as a helper/)).toBeVisible()
  expect(hal.url()).not.toContain('#')
  await hal.getByLabel('A short name to sign in').fill(`hal.${ada}`)
  await hal.getByLabel('A new passphrase').fill(passphrase)
  await hal.getByRole('button', { name: 'Come in' }).click()
  await expect(
    hal
      .getByRole('heading', { level: 1, name: 'Shelf' })
      .or(hal.getByRole('navigation', { name: 'Stations' }))
      .first(),
  ).toBeVisible()
  await hal.goto('/household')
  await expect(hal.getByText('A keeper invites people and says what each may do.')).toBeVisible()
  await expect(hal.getByLabel('Their name')).toHaveCount(0)
  const third = await another(browser)
  await third.goto(address)
  await expect(third.getByText('This invitation was used already')).toBeVisible()

  // He writes; then he is shut out while he types.
  await hal.goto('/mothers')
  await mother(hal, 'Hoya of Hal')
  await page.reload()
  await page.getByRole('button', { name: 'Change Hal' }).click()
  await page.getByRole('button', { name: 'Shut out' }).click()
  await page.getByRole('button', { name: 'Shut Hal out' }).click()
  await expect(page.getByText('Who was here before: 1')).toBeVisible()
  await hal.reload()
  await expect(hal.getByRole('heading', { name: 'Sign in' })).toBeVisible()
})

test('signed out elsewhere, what was typed stays, and goes on after signing in', async ({ page, browser }, info) => {
  const ada = keeper(info)
  await signIn(page, ada)
  await page.goto('/mothers')
  await mother(page, 'Hoya of Ada')
  const other = await another(browser)
  await signIn(other, ada)
  await other.goto('/household')
  await other.getByRole('button', { name: 'Sign out everywhere else' }).click()
  await expect(other.getByRole('button', { name: 'Sign out everywhere else' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Add it' }).click()
  await expect(page.getByRole('heading', { name: 'You were signed out' })).toBeVisible()
  await accessible(page)
  const dialog = page.getByRole('dialog').filter({ hasText: 'You were signed out' })
  await expect(dialog.getByLabel('Your name to sign in')).toHaveValue(ada)
  await dialog.getByLabel('Your passphrase').fill(passphrase)
  await dialog.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(dialog).toHaveCount(0)
  // It was kept in the browser, and went out by itself.
  await expect
    .poll(async () => ((await (await page.request.get('/api/mothers')).json()) as { name: string }[]).map((m) => m.name))
    .toContain('Hoya of Ada')
})

test('from the desktop to the shelf on the phone in under a minute', async ({ page, browser }, info) => {
  const ada = keeper(info)
  await signIn(page, ada)
  const began = Date.now()
  await page.goto('/household')
  await page.getByRole('button', { name: 'Show a code' }).click()
  await expect(page.getByRole('img', { name: 'Code for the phone' })).toBeVisible()
  await accessible(page)
  const open = page.getByRole('region', { name: 'Add a phone' })
  const at = await open.locator('code').first().innerText()
  const phone = await another(browser, true)
  await phone.goto(`${at}#${await open.locator('code.code').innerText()}`)
  await expect(phone.getByRole('link', { name: 'Shelf', exact: true })).toBeVisible()
  await expect(phone).toHaveURL(/:\d+\/$/)
  const seconds = (Date.now() - began) / 1000
  console.log(`from the desktop to the shelf on the phone: ${seconds.toFixed(1)} s`)
  expect(seconds).toBeLessThan(60)
  await phone.goto('/household')
  await expect(phone.getByText(/You are Ada/)).toBeVisible()
  await accessible(phone)
})

test('two people in two tabs of one browser: nothing goes out under another name', async ({ page }, info) => {
  const ada = keeper(info)
  await signIn(page, ada)
  await page.goto('/household')
  await page.getByLabel('Their name').fill('Bo')
  await page.getByRole('button', { name: 'Make an invitation' }).click()
  const address = await page.getByRole('status').filter({ hasText: 'An invitation for Bo' }).locator('code').innerText()
  await page.goto('/mothers')
  await mother(page, 'Hoya of two tabs')
  const tab = await page.context().newPage()
  await tab.goto(address)
  await expect(tab.getByText('You are signed in as Ada.')).toBeVisible()
  await tab.getByLabel('A short name to sign in').fill(`bo.${ada}`)
  await tab.getByLabel('A new passphrase').fill(passphrase)
  await tab.getByRole('button', { name: 'Come in' }).click()
  await expect(tab.getByRole('link', { name: 'Household' })).toBeVisible()
  await page.bringToFront()
  await page.getByRole('button', { name: 'Add it' }).click()
  await expect(page.getByRole('heading', { name: 'Bo has signed in in this browser' })).toBeVisible()
  const names = async () => ((await (await page.request.get('/api/mothers')).json()) as { name: string }[]).map((m) => m.name)
  expect(await names()).not.toContain('Hoya of two tabs')
  const dialog = page.getByRole('dialog').filter({ hasText: 'Bo has signed in' })
  await dialog.getByLabel('Your passphrase').fill(passphrase)
  await dialog.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect.poll(names).toContain('Hoya of two tabs')
})

test('a page from before an upgrade fetches the new one where the way leads', async ({ page }, info) => {
  const ada = keeper(info)
  await signIn(page, ada)
  await expect(page.getByRole('link', { name: 'Round', exact: true })).toBeVisible()
  // What an upgrade does to a page that stands open: its scripts are gone from the server.
  const asked: number[] = []
  await page.route('**/assets/RoundStation-*.js', async (route) => {
    if (asked.length) return route.continue()
    const gone = await route.fetch({ url: new URL('/assets/RoundStation-from-before.js', page.url()).href })
    asked.push(gone.status())
    return route.fulfill({ response: gone })
  })
  await page.getByRole('link', { name: 'Round', exact: true }).click()
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await expect(page).toHaveURL(/round$/)
  expect(asked).toEqual([404])
})
