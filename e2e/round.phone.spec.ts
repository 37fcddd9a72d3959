import { accessible, expect, newId, noSidewaysScroll, test } from './kit'

// The round on a phone: what goes wrong on the way.

test.use({ tolerate: [/net::ERR_|the server responded with a status of (4(09|22)|50\d)/] })
type Page = Parameters<typeof accessible>[0]
interface Stop {
  vessel_id: string
  tasks: { act: string }[]
  visits: { id: string; acts: string[]; seen: string[]; put_off?: string }[]
}
const stops = async (page: Page) => ((await (await page.request.get('/api/round')).json()) as { stops: Stop[] }).stops
const stop = async (page: Page, id: string) => (await stops(page)).find((s) => s.vessel_id === id)!
const vessels = async (page: Page) =>
  ((await (await page.request.get('/api/shelf')).json()) as { vessels: { id: string; name: string }[] }).vessels

/** A jar of its own with one piece in it, that nobody has looked after for three weeks. */
async function jar(page: Page, name: string): Promise<string> {
  const since = new Date(Date.now() - 21 * 864e5).toISOString()
  const made = await page.request.post('/api/brought', {
    data: {
      id: newId(),
      name: `Hoya of ${name}`,
      group_key: 'wax_vine',
      kind: 'stem',
      nodes: 3,
      leaves: 2,
      since,
      known_to: 'day',
      set_nodes: 1,
      vessel: {
        id: newId(),
        name,
        place: 'Round test',
        since,
        kind: 'jar',
        width_mm: 80,
        depth_mm: 80,
        height_mm: 120,
        wall_mm: 2,
        fill_mm: 70,
        holds: 3,
      },
    },
  })
  expect(made.ok(), await made.text()).toBe(true)
  const all = await vessels(page)
  return all.find((v) => v.name === name)!.id
}
/** Goes on, without noting anything, to the card of a vessel. */
async function to(page: Page, name: string) {
  await page.goto('/round')
  const card = page.getByRole('article')
  await expect(card).toBeVisible()
  for (let i = 0; i < 60 && (await card.getAttribute('aria-label')) !== name; i++) {
    await page
      .locator('h1')
      .press('ArrowRight')
      .catch(() => page.keyboard.press('ArrowRight'))
  }
  await expect(page.getByRole('article', { name })).toBeVisible()
}

test('“all well” while the connection is gone is kept, and sent once', async ({ page }) => {
  const id = await jar(page, 'Cut off jar')
  await to(page, 'Cut off jar')
  let arrived = 0
  await page.route('**/api/facts', async (r) => {
    // The first is written and its answer is lost; then nothing gets through.
    if (arrived++ === 0) await r.fetch()
    await r.abort('connectionreset')
  })
  await page.locator('.well').tap()
  await expect(page.getByRole('article', { name: 'Cut off jar' })).toHaveCount(0)
  await expect(page.getByRole('status').filter({ hasText: 'not sent yet' })).toBeVisible()
  await page.reload()
  await page.unroute('**/api/facts')
  await expect(async () => {
    const s = await stop(page, id)
    expect(s.visits).toHaveLength(1)
    expect(s.tasks).toEqual([])
  }).toPass({ timeout: 60_000 })
})

test('what differs: cloudy and changed; one piece is soft and the others firm; and taken back', async ({ page }) => {
  const id = await jar(page, 'Odd jar of the round')
  await to(page, 'Odd jar of the round')
  const well = page.locator('.well')
  await expect(well).toHaveText('All well, water changed')
  await page
    .getByRole('group', { name: 'What differs' })
    .getByRole('button', { name: /^cloudy/ })
    .tap()
  await expect(well).toHaveText('Cloudy, water changed')
  await page
    .getByRole('group', { name: /^Pieces: tap/ })
    .getByRole('button')
    .first()
    .tap()
  await page
    .getByRole('group', { name: /^What is odd about/ })
    .getByRole('button', { name: 'soft' })
    .tap()
  await expect(well).toHaveText('Cloudy, 1 of 1 not well, water changed')
  await noSidewaysScroll(page)
  await accessible(page)
  await well.tap()
  await expect(async () => {
    const s = await stop(page, id)
    expect(s.visits[0]?.acts).toContain('change_water')
    expect(s.visits[0]?.seen).toEqual(['cloudy'])
    expect(s.tasks, 'changed on the day it was seen: nothing is left to do').toEqual([])
  }).toPass()
  await page
    .getByRole('button', { name: 'undo' })
    .or(page.getByRole('button', { name: 'Undo the last one' }))
    .first()
    .tap()
  await expect(page.getByRole('article', { name: 'Odd jar of the round' })).toBeVisible()
  await expect(async () => {
    const s = await stop(page, id)
    expect(s.visits).toEqual([])
    expect(s.tasks.length).toBeGreaterThan(0)
  }).toPass()
})

test('put off with a reason is asked for again tomorrow, not today', async ({ page }) => {
  const id = await jar(page, 'Put off jar')
  await to(page, 'Put off jar')
  await page.getByRole('button', { name: /^not today/ }).tap()
  await page.getByRole('button', { name: 'no time' }).tap()
  await expect(page.getByRole('article', { name: 'Put off jar' })).toHaveCount(0)
  await expect(async () => {
    const s = await stop(page, id)
    expect(s.visits[0]?.put_off).toBe('no time')
  }).toPass()
})

test('emptied on another phone meanwhile: it is told, and the round goes on', async ({ page }) => {
  const id = await jar(page, 'Emptied jar')
  const other = await jar(page, 'Left jar')
  await to(page, 'Emptied jar')
  const shelf = (await (await page.request.get('/api/shelf')).json()) as { cuttings: { id: string; vessel_id?: string }[] }
  const yesterday = new Date(Date.now() - 864e5).toISOString()
  for (const c of shelf.cuttings.filter((x) => x.vessel_id === id))
    await page.request.post('/api/settings', {
      data: { id: newId(), cutting_id: c.id, vessel_id: other, set_on: yesterday, set_nodes: 1 },
    })
  const ended = await page.request.post('/api/vessel-ends', {
    data: { id: newId(), vessel_id: id, ended_on: yesterday, how: 'broken' },
  })
  expect(ended.ok(), await ended.text()).toBe(true)
  await page.locator('.well').tap()
  await expect(page.getByRole('alert').filter({ hasText: 'Emptied jar' })).toBeVisible()
  await expect(page.getByRole('alert').filter({ hasText: 'Emptied jar' })).toContainText(/emptied|broke|off the shelf|no longer/i)
  await page.getByRole('button', { name: 'I have read it' }).tap()
  await expect(page.getByRole('alert').filter({ hasText: 'Emptied jar' })).toHaveCount(0)
})

test('two phones do the round at once; half of it goes on on the other', async ({ page, browser, baseURL }) => {
  const id = await jar(page, 'Shared jar')
  const second = await jar(page, 'Second jar')
  const context = await browser.newContext({ baseURL: baseURL!, viewport: { width: 390, height: 844 }, hasTouch: true })
  const their = await context.newPage()
  await to(page, 'Shared jar')
  await to(their, 'Shared jar')
  await page.locator('.well').tap()
  await their.locator('.well').tap()
  await expect(async () => expect((await stop(page, id)).visits).toHaveLength(2)).toPass()
  expect((await stop(page, id)).tasks, 'both are kept, nothing is due twice').toEqual([])
  await to(page, 'Second jar')
  await page.locator('.well').tap()
  await expect(async () => expect((await stop(page, second)).visits).toHaveLength(1)).toPass()
  await their.goto('/round')
  await expect(their.getByRole('progressbar')).toBeVisible()
  await expect(their.getByRole('article', { name: 'Second jar' })).toHaveCount(0)
  await context.close()
})
