import { accessible, choose, cuttingByCode, expect, motherByCode, test, typeDay } from './kit'

// Everything can be put right, with what it said before to be seen, and the last act can be undone.

test.use({ tolerate: [/the server responded with a status of 4(09|22)/] })
type Page = Parameters<typeof cuttingByCode>[0]
const happened = (page: Page) => page.getByRole('list', { name: 'What happened' })

test('a length nobody typed is not recorded, and the look says which is missing', async ({ page }) => {
  const c = await cuttingByCode(page, 'CIS-A7-8')
  await page.goto(`/cuttings/${c.id}/look`)
  await page.getByRole('button', { name: 'Type a length' }).click()
  await expect(page.getByLabel('length in mm')).toHaveValue('')
  await expect(page.getByText('One row has no length typed: it is not recorded.')).toBeVisible()
  await page.getByRole('group', { name: 'Leaf' }).getByRole('button', { name: 'fresh' }).click()
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(happened(page)).toBeVisible()
  const looks = (await (await page.request.get(`/api/cuttings/${c.id}`)).json()) as {
    looks: { seen: { roots: unknown[]; roots_counted: boolean } }[]
  }
  const last = looks.looks.at(-1)!.seen
  expect(last.roots).toEqual([])
  expect(last.roots_counted).toBe(false)
})

test('a look without a photo is corrected, and the last act undone', async ({ page }) => {
  const c = await cuttingByCode(page, 'AMY-A7')
  await page.goto(`/cuttings/${c.id}/look`)
  await page.getByRole('button', { name: 'Type a length' }).click()
  await page.getByLabel('length in mm').fill('31')
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(happened(page)).toContainText('longest 31 mm')
  await happened(page)
    .getByRole('button', { name: /^Change: Look: .*31 mm/ })
    .click()
  await expect(page.getByRole('heading', { name: /Correct a look/ })).toBeVisible()
  await page.getByLabel('length in mm').fill('13')
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(happened(page)).toContainText('longest 13 mm')
  await expect(happened(page).getByRole('listitem').filter({ hasText: 'longest 13 mm' })).toContainText('31 mm')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText('Taken back.')).toBeVisible()
  await expect(happened(page)).not.toContainText('longest 13 mm')
})

test('a day is put right in words, and what it said stays to be seen', async ({ page }) => {
  const c = await cuttingByCode(page, 'CIS-A5-6')
  await page.goto(`/cuttings/${c.id}`)
  await happened(page)
    .getByRole('button', { name: /^Change: Set in/ })
    .click()
  const dialog = page.getByRole('dialog')
  await typeDay(page, 'It was on', 'the day before the flood')
  await expect(dialog.getByText(/Not a day: write it like/)).toBeVisible()
  await dialog.getByRole('button', { name: '3 days ago' }).click()
  await dialog.getByRole('button', { name: 'Save the day' }).click()
  await expect(happened(page).getByRole('listitem').filter({ hasText: 'Set in' })).toContainText(/Before:|was|said/i)
  // A day before the cut is refused in words.
  await happened(page)
    .getByRole('button', { name: /^Change: Set in/ })
    .click()
  await typeDay(page, 'It was on', '1 Feb 2019')
  await dialog.getByRole('button', { name: 'Save the day' }).click()
  await expect(dialog.getByText(/is before the cut/).first()).toBeVisible()
  await dialog.getByRole('button', { name: 'Leave it' }).click()
})

test('rescue: it was cut back, and is judged and drawn from what is left', async ({ page }) => {
  const c = await cuttingByCode(page, 'VER-A4-5')
  await page.goto(`/cuttings/${c.id}`)
  await page.getByRole('button', { name: 'It was cut back' }).first().click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByText(/alcohol/i).first()).toBeVisible()
  await dialog.getByLabel(/How much came off its base/).fill('30')
  await expect(dialog.getByRole('button', { name: 'node 1', exact: true })).toHaveAttribute('aria-pressed', 'true')
  await dialog.getByRole('button', { name: 'Note it' }).click()
  await expect(happened(page)).toContainText(/Cut back/i)
  const verdict = page.getByRole('region', { name: 'Verdict' })
  await expect(verdict.getByRole('heading', { name: 'Rescue' })).toHaveCount(0)
  const after = (await (await page.request.get(`/api/cuttings/${c.id}`)).json()) as {
    cutting: { gone_nodes: number; seen: { rot_mm?: number } }
  }
  expect(after.cutting.gone_nodes).toBe(1)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(verdict.getByRole('heading', { name: 'Rescue' })).toBeVisible()
})

test('a mother, a vessel and a shelf get other names', async ({ page }) => {
  const m = await motherByCode(page, 'GLO')
  await page.goto(`/mothers/${m.id}`)
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  await page.getByLabel('Full name').fill('Philodendron gloriosum of the tray')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('of the tray')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('heading', { level: 1 })).not.toContainText('of the tray')

  await page.goto('/')
  await page.getByRole('link', { name: 'Tumbler: its page' }).click()
  await page.getByRole('button', { name: 'Change name or sizes' }).click()
  await page.getByLabel('Name of the vessel').fill('Tall tumbler')
  await page.getByLabel('Inner diameter, mm').fill('84')
  await page.getByRole('dialog').getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Tall tumbler' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Tumbler', exact: true })).toBeVisible()
})

test('the grower’s own units, everywhere, and mm again', async ({ page }) => {
  const c = await cuttingByCode(page, 'PIN-A8-9')
  await page.goto(`/cuttings/${c.id}`)
  await expect(page.getByText('27 mm').first()).toBeVisible()
  await page.getByRole('button', { name: /^Units/ }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'cm', exact: true }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click()
  await expect(page.getByText('2.7 cm').first()).toBeVisible()
  for (const path of [`/cuttings/${c.id}`, '/', '/mothers', '/potup']) {
    await page.goto(path)
    await expect(page.getByRole('heading').first()).toBeVisible()
    await page.waitForLoadState('networkidle')
    expect(await page.locator('main').innerText(), path).not.toMatch(/\d mm\b/)
  }
  await page.goto(`/cuttings/${c.id}/look`)
  await page.getByRole('button', { name: 'Type a length' }).click()
  await page.getByLabel('length in cm').fill('3,1')
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(happened(page)).toContainText('longest 3.1 cm')
  const page1 = (await (await page.request.get(`/api/cuttings/${c.id}`)).json()) as { cutting: { longest_mm: number } }
  expect(page1.cutting.longest_mm).toBeCloseTo(31, 3)
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('button', { name: /^Units/ }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'inch' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click()
  // published: an inch is 25.4 mm; 27 mm are 1.06 inch.
  await expect(page.getByText(/1\.06 in/).first()).toBeVisible()
})

test('south of the equator the seasons turn, and it can be undone', async ({ page }) => {
  await page.goto('/')
  const household = async () =>
    (await (await page.request.get('/api/household')).json()) as { dark: boolean; southern: boolean; time_zone: string }
  const was = await household()
  await page.getByRole('button', { name: /^Units/ }).click()
  const dialog = page.getByRole('dialog')
  const season = (dark: boolean) => dialog.getByText(`in the ${dark ? 'dark' : 'bright'} half of the year`)
  await expect(season(was.dark)).toBeVisible()
  await dialog.getByRole('button', { name: 'south of it' }).click()
  await expect(season(!was.dark)).toBeVisible()
  await dialog.getByRole('combobox', { name: /^Time zone/ }).click()
  await dialog.getByRole('combobox', { name: /^Time zone/ }).fill('Hobart')
  await page.getByRole('option', { name: 'Australia/Hobart' }).click()
  await expect.poll(async () => (await household()).time_zone).toBe('Australia/Hobart')
  await accessible(page)
  await dialog.getByRole('button', { name: 'Close' }).click()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(async () => (await household()).time_zone).toBe(was.time_zone)
  await page.getByRole('button', { name: /^Units/ }).click()
  await dialog.getByRole('button', { name: 'north of the equator' }).click()
  await expect.poll(async () => (await household()).southern).toBe(was.southern)
})

test('after a look the next sister is offered, and empty vessels are found by search', async ({ page }) => {
  const c = await cuttingByCode(page, 'RHA-A8-9')
  await page.goto(`/cuttings/${c.id}/look`)
  await page.getByRole('group', { name: 'Leaf' }).getByRole('button', { name: 'fresh' }).click()
  await page.getByRole('button', { name: 'Save the look' }).click()
  await page.getByRole('link', { name: /^Look at RHA-/ }).click()
  await expect(page.getByRole('heading', { name: /^Look at RHA-/ })).toBeVisible()

  const hoy = await cuttingByCode(page, 'HOY-A7')
  await page.goto(`/set?cutting=${hoy.id}`)
  await page.getByRole('button', { name: 'A new vessel' }).click()
  await page.getByLabel('Name of the vessel').fill('Jar of an hour')
  await choose(page, 'Kind', 'jar')
  await page.getByRole('button', { name: 'It is set' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'stands in Jar of an hour' }).first()).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.goto('/')
  await expect(page.getByText('Glass cabinet, lower')).toBeVisible()
  await expect(page.getByText('Jar of an hour')).toHaveCount(0)
  await page.keyboard.press('/')
  await page.getByLabel('Code, name or vessel').fill('jar of an')
  await expect(page.getByRole('dialog').getByRole('button', { name: /Jar of an hour/ })).toBeVisible()
})
