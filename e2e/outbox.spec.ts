import { cuttingByCode, expect, motherByCode, test, typeDay } from './kit'

// A connection that breaks at the worst moment: after the server has written, before it has answered. Then, and
// when nobody answers at all, nothing is lost, nothing is noted twice, and no false conflict is shown.

test.use({ tolerate: [/net::ERR_|the server responded with a status of (4(09|22)|50\d)/] })
type Page = Parameters<typeof cuttingByCode>[0]

/** Lets facts reach the server and cuts the answer off; after the first, nothing gets through at all. */
async function cutOff(page: Page, reaching = 1) {
  let left = reaching
  await page.route('**/api/facts', async (r) => {
    if (left-- > 0) await r.fetch()
    await r.abort('connectionreset')
  })
  return { mend: () => page.unroute('**/api/facts') }
}
const notSent = (page: Page, n: number) => page.getByRole('status').filter({ hasText: `${n} not sent yet` })
/** A stem with so many nodes left to cut. */
async function standing(page: Page, nodes: number): Promise<{ id: string; stem: string }> {
  const mothers = (await (await page.request.get('/api/mothers')).json()) as {
    id: string
    stems: { id: string; standing: number; organ: string }[]
  }[]
  for (const m of mothers) {
    const stem = m.stems.find((s) => s.organ === 'stem' && s.standing >= nodes)
    if (stem) return { id: m.id, stem: stem.id }
  }
  throw new Error(`no stem with ${nodes} nodes left`)
}
interface PageOf {
  looks: { seen: { note?: string }; photo?: { id: string } }[]
  cutting: { given_on?: string }
}
const pageOf = async (page: Page, id: string) => (await (await page.request.get(`/api/cuttings/${id}`)).json()) as PageOf

test('a look whose answer was lost, then edited: the edit corrects it, and both are there', async ({ page }) => {
  const c = await cuttingByCode(page, 'CIS-A7-8')
  const had = (await pageOf(page, c.id)).looks.length
  await page.goto(`/cuttings/${c.id}/look`)
  const { mend } = await cutOff(page)
  await page.getByLabel('Note', { exact: true }).fill('as first seen')
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(page.getByRole('alert')).toContainText('Not sent yet')
  await expect(notSent(page, 1)).toBeVisible()

  await page.getByLabel('Note', { exact: true }).fill('as seen on second thoughts')
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(notSent(page, 2)).toBeVisible()
  await notSent(page, 2).click()
  const now = page.getByRole('button', { name: 'Try now' })
  await expect(now).toBeVisible()
  await mend()
  // By then it may have gone out by itself, and the list of what waits is gone with it.
  await now.click({ timeout: 3000 }).catch(() => undefined)
  const happened = page.getByRole('list', { name: 'What happened' })
  await expect(happened.getByRole('listitem').filter({ hasText: 'as seen on second thoughts' })).toContainText('as first seen')
  await expect(notSent(page, 2)).toHaveCount(0)
  expect((await pageOf(page, c.id)).looks).toHaveLength(had + 1)
})

test('a cut whose answer was lost is cut once, and pressing again is no conflict', async ({ page }) => {
  const mother = await standing(page, 3)
  await page.goto(`/cut/${mother.stem}`)
  await expect(page.getByRole('region', { name: 'The plan' }).getByRole('heading', { level: 2 })).toContainText('expected')
  const { mend } = await cutOff(page)
  const cut = page.getByRole('button', { name: 'I have cut it so' })
  await cut.click()
  await expect(page.getByRole('alert')).toContainText('Not sent yet')
  await mend()
  await cut.click()
  await expect(page).toHaveURL(/\/set/, { timeout: 20_000 })
  const { cuttings } = (await (await page.request.get(`/api/mothers/${mother.id}`)).json()) as { cuttings: { code: string }[] }
  expect(new Set(cuttings.map((c) => c.code)).size).toBe(cuttings.length)
  expect(cuttings.length).toBeGreaterThan(0)
})

test('a piece given away whose answer was lost was given away once', async ({ page }) => {
  const c = await cuttingByCode(page, 'CIS-A5-6')
  await page.goto(`/cuttings/${c.id}`)
  await page.getByRole('button', { name: 'Given away' }).click()
  const dialog = page.getByRole('dialog')
  const { mend } = await cutOff(page)
  await dialog.getByRole('button', { name: 'Note it' }).click()
  await expect(dialog.getByRole('alert')).toContainText('Not sent yet')
  await mend()
  await dialog.getByRole('button', { name: 'Note it' }).click()
  await expect(dialog).toBeHidden({ timeout: 20_000 })
  await expect(page.getByRole('alert')).toHaveCount(0)
  expect((await pageOf(page, c.id)).cutting.given_on).toBeTruthy()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText('Taken back.')).toBeVisible()
})

test('a stem whose answer was lost, then edited, is the next version', async ({ page }) => {
  const mother = await motherByCode(page, 'MEL')
  const stem = async () =>
    (await (await page.request.get(`/api/stems/${mother.stems[0]!.id}`)).json()) as {
      version: number
      map: { beyond_mm: number }
    }
  const was = await stem()
  await page.goto(`/mothers/${mother.id}/stems/${mother.stems[0]!.id}`)
  const last = page.getByRole('slider').last()
  await last.focus()
  const { mend } = await cutOff(page)
  await page.keyboard.press('Shift+ArrowLeft')
  await page.getByRole('button', { name: 'Save the map' }).click()
  await expect(page.getByRole('alert')).toContainText('Not sent yet')
  await last.focus()
  await page.keyboard.press('Shift+ArrowLeft')
  await page.getByRole('button', { name: 'Save the map' }).click()
  await expect(notSent(page, 2)).toBeVisible()
  await mend()
  await expect(page).toHaveURL(new RegExp(`/mothers/${mother.id}$`), { timeout: 20_000 })
  expect((await stem()).version).toBe(was.version + 2)
})

test('a plan carried out on the bench whose answer was lost is carried out once', async ({ page }) => {
  const { stem } = await standing(page, 3)
  await page.goto(`/cut/${stem}`)
  const first = await cutOff(page)
  await page
    .getByRole('button', { name: /Prepare/ })
    .first()
    .click()
  await expect(page.getByRole('alert')).toContainText('Not sent yet')
  await first.mend()
  await page
    .getByRole('button', { name: /Prepare/ })
    .first()
    .click()
  await expect(page.getByRole('heading', { name: /^Bench for/ })).toBeVisible({ timeout: 20_000 })
  const { mend } = await cutOff(page)
  const cut = page.getByRole('button', { name: 'I have cut it so' })
  await cut.click()
  await expect(page.getByRole('alert')).toContainText('Not sent yet')
  await mend()
  await cut.click()
  await expect(page.getByRole('button', { name: 'Undo' })).toBeVisible({ timeout: 20_000 })
  await expect(page.getByRole('alert')).toHaveCount(0)
})

test('what waits survives a reload and a closed tab, and goes out by itself', async ({ page, context }) => {
  await cutOff(page, 0)
  await page.goto('/bring-in')
  await page.getByLabel('Full name of the plant').fill('Hoya from the train')
  await page.locator('.v-select').filter({ hasText: 'Growth group' }).click()
  await page
    .getByRole('option', { name: /Begonia/i })
    .first()
    .click()
  await page.getByRole('button', { name: /^leaf/ }).first().click()
  await page.getByRole('button', { name: /Bring it in/ }).click()
  await expect(notSent(page, 1)).toBeVisible()
  await page.reload()
  await expect(notSent(page, 1)).toBeVisible()
  await notSent(page, 1).click()
  await page.getByText('What it says').click()
  await expect(page.getByRole('dialog')).toContainText('Hoya from the train')
  await page.close()

  const later = await context.newPage()
  await later.goto('/')
  await expect
    .poll(async () => JSON.stringify(await (await later.request.get('/api/shelf')).json()), { timeout: 20_000 })
    .toContain('Hoya from the train')
  await expect(notSent(later, 1)).toHaveCount(0)
  await later.close()
})

test('what was refused after the tab was left is shown with why, and opened again', async ({ page }) => {
  const c = await cuttingByCode(page, 'AMY-A7')
  const { mend } = await cutOff(page, 0)
  await page.goto(`/cuttings/${c.id}/look`)
  await typeDay(page, 'Looked on', '2001-02-03')
  await page.getByLabel('Note', { exact: true }).fill('long before it was cut')
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(notSent(page, 1)).toBeVisible()
  await page.goto('/')
  await expect(notSent(page, 1)).toBeVisible()
  await mend()
  await page.evaluate(() => window.dispatchEvent(new Event('online')))
  const bar = page.getByRole('status').filter({ hasText: '1 note was refused' })
  await bar.click({ timeout: 20_000 })
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('before the cut')
  await page.getByRole('button', { name: 'Open it again' }).click()
  await expect(page.getByLabel('Note', { exact: true })).toHaveValue('long before it was cut')
  await expect(bar).toHaveCount(0)
})

test('a photo waits too, and goes before the look that names it', async ({ page }) => {
  const c = await cuttingByCode(page, 'AMY-A7')
  await page.route('**/api/photos?*', (r) => r.abort('connectionreset'))
  await cutOff(page, 0)
  await page.goto(`/cuttings/${c.id}/look`)
  await page.getByTestId('photo-file').setInputFiles('demo/photos/demo_aroid_day08.jpg')
  await expect(page.getByText('The photo is not sent yet')).toBeVisible()
  await expect(page.getByTestId('board')).toBeVisible()
  await page.getByLabel('Note', { exact: true }).fill('photographed in the cellar')
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(notSent(page, 2)).toBeVisible()
  await page.unrouteAll()
  await expect(page.getByRole('list', { name: 'What happened' })).toContainText('photographed in the cellar', { timeout: 20_000 })
  const look = (await pageOf(page, c.id)).looks.find((l) => l.seen.note === 'photographed in the cellar')
  expect(look?.photo?.id).toBeTruthy()
})

test('what one tab could not send another sends, and the first goes on', async ({ page, context }) => {
  const c = await cuttingByCode(page, 'CIS-A7-8')
  await page.goto(`/cuttings/${c.id}/look`)
  await cutOff(page, 0)
  await page.getByLabel('Note', { exact: true }).fill('sent by the neighbour')
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(page.getByRole('alert')).toContainText('Not sent yet')
  const other = await context.newPage()
  await other.goto('/')
  await expect(page.getByRole('list', { name: 'What happened' })).toContainText('sent by the neighbour', { timeout: 20_000 })
  await expect(notSent(page, 1)).toHaveCount(0)

  // Refused there, it is told where its form is, and nowhere else.
  await page.goto(`/cuttings/${c.id}/look`)
  await typeDay(page, 'Looked on', '2001-02-03')
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(page.getByRole('alert')).toContainText('Not sent yet')
  await other.evaluate(() => window.dispatchEvent(new Event('online')))
  await expect(page.getByText(/before the cut/).first()).toBeVisible({ timeout: 20_000 })
  await expect(page.getByRole('status').filter({ hasText: 'refused' })).toHaveCount(0)
  await other.close()
})
