import { accessible, choose, cuttingByCode, expect, into, newId, noSidewaysScroll, test } from './kit'

// Rounds by keyboard, acting from the shelf, a vessel's page, the air of a shelf, the calendar, many at once.

type Page = Parameters<typeof accessible>[0]
interface Stop {
  vessel_id: string
  cover: string
  tasks: { act: string }[]
  visits: { acts: string[]; seen: string[] }[]
  seen: string[]
}
const stops = async (page: Page) => ((await (await page.request.get('/api/round')).json()) as { stops: Stop[] }).stops
interface Shelf {
  vessels: { id: string; name: string; place_id: string }[]
  places: { id: string; name: string }[]
  cuttings: { id: string; code: string; where: string; vessel_id?: string; cut_id: string }[]
}
const shelfOf = async (page: Page) => (await (await page.request.get('/api/shelf')).json()) as Shelf
const vesselNamed = async (page: Page, name: string) => (await shelfOf(page)).vessels.find((v) => v.name === name)!

test('the round by keyboard: every act has a key', async ({ page }) => {
  await page.goto('/')
  await expect(page.getByText('Glass cabinet, lower')).toBeVisible()
  await page.keyboard.press('5')
  await expect(page).toHaveURL(/round/)
  const card = page.getByRole('article')
  await expect(card).toBeVisible()
  const first = (await card.getAttribute('aria-label'))!
  await page.keyboard.press('ArrowRight')
  await expect(card).not.toHaveAttribute('aria-label', first)
  await page.keyboard.press('ArrowLeft')
  await expect(card).toHaveAttribute('aria-label', first)
  await expect(page.locator('.well')).toHaveText(/^All well/)
  await page.keyboard.press('c')
  await expect(page.locator('.well')).toHaveText(/^Cloudy/)
  await page.keyboard.press('c')
  await expect(page.locator('.well')).toHaveText(/^All well/)
  await page.keyboard.press('i')
  await expect(page.getByRole('button', { name: 'all firm' })).toHaveAttribute('aria-pressed', 'true')
  await page.keyboard.press('i')
  await page.keyboard.press('n')
  await expect(page.getByRole('group', { name: 'Why not today' })).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(card).not.toHaveAttribute('aria-label', first)
  const id = (await vesselNamed(page, first)).id
  await expect(async () => expect((await stops(page)).find((s) => s.vessel_id === id)?.visits).toHaveLength(1)).toPass()
  await page.keyboard.press('u')
  await expect(card).toHaveAttribute('aria-label', first)
  await expect(async () => expect((await stops(page)).find((s) => s.vessel_id === id)?.visits).toHaveLength(0)).toPass()
  await accessible(page)
})

test('the shelf shows what is due, draws what was seen, and lets one act there', async ({ page }) => {
  await page.goto('/')
  const mark = page.getByRole('button', { name: /^Due at Tumbler: change the water/ })
  await expect(mark).toBeVisible()
  await mark.click()
  const what = page.getByRole('dialog', { name: 'Due at Tumbler' })
  await expect(what).toContainText('Cloudy water is changed at once.')
  await accessible(page)
  await what.getByRole('button', { name: /^Done: water changed/ }).click()
  await expect(mark).toHaveCount(0)
  const id = (await vesselNamed(page, 'Tumbler')).id
  await expect(async () => {
    const s = (await stops(page)).find((x) => x.vessel_id === id)
    expect(s?.tasks).toEqual([])
    expect(s?.seen).toEqual([])
  }).toPass()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(mark).toBeVisible()
})

test('a vessel’s page: cover, school, carried elsewhere, taken back', async ({ page }) => {
  const v = await vesselNamed(page, 'Comparison, moss')
  await page.goto(`/vessels/${v.id}`)
  await expect(page.getByRole('heading', { level: 1, name: v.name })).toBeVisible()
  const cover = page.getByRole('group', { name: 'How the cover stands' })
  await cover.getByRole('button', { name: 'lid ajar' }).click()
  await expect(cover.getByRole('button', { name: 'lid ajar' })).toHaveAttribute('aria-pressed', 'true')
  await expect(page.getByText('lid ajar.').first()).toBeVisible()
  await choose(page, /shut lid is lifted/, /leave shut/)
  await expect(async () => {
    const s = (await (await page.request.get(`/api/vessels/${v.id}`)).json()) as { stop: { own: { air?: string } } }
    expect(s.stop.own.air).toBe('shut')
  }).toPass()
  await page.getByRole('button', { name: 'Carry to another shelf' }).click()
  await page.getByLabel('To which shelf').fill('Bathroom sill')
  await page.getByRole('button', { name: 'It stands there' }).click()
  await expect(page.getByText(/Bathroom sill\./).first()).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText(/Glass cabinet, lower/).first()).toBeVisible()
  await page.getByRole('button', { name: 'Emptied' }).click()
  await expect(page.getByText(/stand in it\. Move, pot or close them first/)).toBeVisible()
  await noSidewaysScroll(page)
  await accessible(page)
})

test('a sensor is given a key, is heard, and is shut out again; a file of readings is read', async ({ page }) => {
  const place = (await shelfOf(page)).places.find((p) => p.name === 'Glass cabinet, lower')!
  await page.goto('/')
  await page.getByRole('link', { name: `its air, of ${place.name}` }).click()
  await expect(page.getByText('Nothing was read here yet.')).toBeVisible()
  await accessible(page)
  await page.getByLabel('Name of the sensor').fill('Small hygrometer')
  await page.getByRole('button', { name: 'Make a key for a sensor' }).click()
  const said = page.getByRole('status').filter({ hasText: 'This is said once' })
  const secret = (await said.locator('code').first().innerText()).trim()
  const post = (readings: object[]) =>
    page.request.post('/api/readings', { headers: { Authorization: `Bearer ${secret}` }, data: { readings } })
  const ago = (minutes: number) => new Date(Date.now() - minutes * 60_000).toISOString()
  const taken = await post(Array.from({ length: 60 }, (_, i) => ({ at: ago(5 * i + 1), temp_c: 31, humidity_pct: 40 })))
  expect(await taken.json()).toMatchObject({ kept: 60, refused_count: 0 })
  await page.reload()
  await expect(page.getByText('31.0 °C, 40 %')).toBeVisible()
  await expect(page.getByText(/too dry for \d hours/)).toBeVisible()
  await expect(page.getByRole('img', { name: /The last 24 hours: 31 to 31 °C/ })).toBeVisible()
  await page.getByRole('group', { name: 'Held against' }).getByRole('button', { name: 'hardening off' }).click()
  await expect(page.getByText(/hardening off want/)).toBeVisible()

  await page.getByLabel('A file, .csv').setInputFiles({
    name: 'old.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`at,temp_c,humidity_pct\n${ago(60 * 50)},22,80\nnever,22,80\n`),
  })
  await page.getByRole('button', { name: 'Read it' }).click()
  await expect(page.getByText(/Nothing was kept: 1 row is bad/)).toBeVisible()
  await page.getByRole('button', { name: 'Keep the good ones' }).click()
  await expect(page.getByText(/1 readings kept, 0 of a minute/)).toBeVisible()
  await accessible(page)

  await page.getByRole('button', { name: 'Revoke Small hygrometer' }).click()
  await page.getByRole('button', { name: 'Revoke it' }).click()
  await expect(page.getByText(/revoked .*today/)).toBeVisible()
  expect((await post([{ at: ago(0), temp_c: 20, humidity_pct: 50 }])).status()).toBe(401)
})

test('rounds in a calendar, at an address that can be revoked', async ({ page }) => {
  await page.goto('/files')
  await page.getByLabel(/What it is for/).fill('Kitchen tablet')
  await page.getByRole('button', { name: 'Make an address' }).click()
  const address = (await page.getByRole('status').filter({ hasText: 'said once' }).locator('code').innerText()).trim()
  const read = await page.request.get(address)
  expect(read.headers()['content-type']).toContain('text/calendar')
  expect(await read.text()).toMatch(/BEGIN:VEVENT\r\n[\s\S]*SUMMARY:Round: \d+ vessels?\r\n/)
  await page.getByRole('button', { name: 'Revoke Kitchen tablet' }).click()
  await page.getByRole('button', { name: 'Revoke it' }).click()
  await expect(page.getByText(/revoked .*today/)).toBeVisible()
  expect((await page.request.get(address)).status()).toBe(401)
})

test('four sisters over two vessels in turn, then looked at, and moved, at once', async ({ page }) => {
  const made: string[] = []
  for (let i = 0; i < 4; i++) {
    const b = await page.request.post('/api/brought', {
      data: {
        id: newId(),
        name: 'Scindapsus of four',
        group_key: 'thick_climber',
        kind: 'stem',
        nodes: 2,
        leaves: 1,
        since: new Date(Date.now() - 12 * 864e5).toISOString(),
        known_to: 'day',
      },
    })
    expect(b.ok(), await b.text()).toBe(true)
    made.push(((await b.json()) as { cutting: { code: string } }).cutting.code)
  }
  for (const name of ['Turn one', 'Turn two']) {
    const v = await page.request.post('/api/vessels', {
      data: {
        id: newId(),
        name,
        place: 'Test sill',
        kind: 'jar',
        width_mm: 120,
        depth_mm: 120,
        height_mm: 140,
        wall_mm: 2,
        fill_mm: 30,
        holds: 6,
      },
    })
    expect(v.ok(), await v.text()).toBe(true)
  }
  await page.goto('/set')
  for (const code of made) await page.getByRole('button', { name: code, exact: true }).click()
  await into(page, /Turn one/)
  await into(page, /Turn two/)
  const one = page.getByRole('region', { name: 'Turn one' })
  await expect(one.getByText(/Pour \d+ ml: with the stems in it the water stands \d+ mm high/)).toBeVisible()
  await expect(one.getByRole('img')).toHaveAttribute('aria-label', `Turn one, to scale: ${made[0]}, ${made[2]}`)
  await one.getByRole('button', { name: /^It stands \d+ mm high now/ }).click()
  await expect(one.getByText(/It is noted as standing/)).toHaveCount(0)
  await accessible(page)
  await page.getByRole('button', { name: 'All 4 are set' }).click()
  await expect(
    page
      .getByRole('status')
      .filter({ hasText: `${made[0]}, ${made[2]} stand in Turn one.` })
      .first(),
  ).toBeVisible()
  const where = async () => {
    const s = await shelfOf(page)
    return made.map((code) => s.vessels.find((v) => v.id === s.cuttings.find((c) => c.code === code)?.vessel_id)?.name)
  }
  expect(await where()).toEqual(['Turn one', 'Turn two', 'Turn one', 'Turn two'])

  const v = await vesselNamed(page, 'Turn one')
  await page.goto(`/vessels/${v.id}`)
  await page.getByRole('link', { name: 'All 2 at once' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'All in Turn one' })).toBeVisible()
  await page.getByRole('group', { name: 'Body of all' }).getByRole('button', { name: 'firm' }).click()
  await page.getByRole('listitem', { name: made[0]! }).getByLabel('Roots').fill('12 9 / x')
  await expect(page.getByText('“x” is not a length.')).toBeVisible()
  await expect(page.getByRole('button', { name: /^Note/ })).toBeDisabled()
  await page.getByRole('listitem', { name: made[0]! }).getByLabel('Roots').fill('12 9 / 4')
  await accessible(page)
  await page.getByRole('button', { name: 'Note 2 looks' }).click()
  await expect(page.getByText(`Noted: ${made[0]}, ${made[2]}.`)).toBeVisible()
  const looked = await cuttingByCode(page, made[0]!)
  const seen = (await (await page.request.get(`/api/cuttings/${looked.id}`)).json()) as {
    looks: { seen: { stem?: string; roots: { node: number; length_mm: number }[] } }[]
  }
  expect(seen.looks[0]?.seen.stem).toBe('firm')
  expect(seen.looks[0]?.seen.roots.map((r) => [r.node, r.length_mm])).toEqual([
    [1, 12],
    [1, 9],
    [2, 4],
  ])
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(async () => {
    const again = (await (await page.request.get(`/api/cuttings/${looked.id}`)).json()) as { looks: unknown[] }
    expect(again.looks).toEqual([])
  }).toPass()

  await page.getByRole('button', { name: 'Set elsewhere' }).click()
  await into(page, /Turn two/)
  await page.getByRole('button', { name: 'All 2 are set' }).click()
  await expect(async () => expect(await where()).toEqual(['Turn two', 'Turn two', 'Turn two', 'Turn two'])).toPass()

  const two = await vesselNamed(page, 'Turn two')
  await page.goto(`/together?vessel=${two.id}`)
  await page.getByRole('button', { name: `this one: ${made[2] ?? ''}` }).click()
  await page.getByRole('button', { name: `this one: ${made[3] ?? ''}` }).click()
  await page.getByRole('button', { name: 'Pot them' }).click()
  await expect(page.getByRole('status').filter({ hasText: '2 plants' })).toBeVisible()
  await page.getByRole('button', { name: 'They are potted' }).click()
  await expect(page.getByText(/^Potted: /)).toBeVisible()
  await page.goto(`/together?vessel=${two.id}`)
  await page.getByRole('button', { name: 'Lost', exact: true }).click()
  await page.getByRole('group', { name: 'Lost ones' }).getByRole('button').first().click()
  await page.getByRole('button', { name: 'it dried up' }).click()
  await accessible(page)
  await page.getByRole('button', { name: 'Close the one record' }).click()
  await expect(page.getByText(/^Closed: /)).toBeVisible()
})
