import { accessible, expect, newId, noSidewaysScroll, test } from './kit'

// A round of 40 vessels with one thumb, on a server that holds nothing else that is due: every growth group, every kind of
// vessel, every medium.

interface Book {
  groups: { key: string; name: string; kinds: string[] }[]
  vessels: { kind: string; label: string; usual: Record<string, unknown> }[]
  media: { medium: string; liquid: boolean }[]
}
interface Round {
  stops: { vessel_id: string; tasks: { act: string }[]; visits: { well: boolean }[] }[]
}
type Page = Parameters<typeof accessible>[0]
const roundOf = async (page: Page) => (await (await page.request.get('/api/round')).json()) as Round

test('forty vessels, one thumb: how many taps, how many seconds', async ({ page }) => {
  test.setTimeout(300_000)
  const book = (await (await page.request.get('/api/handbook')).json()) as Book
  const liquid = new Set(book.media.filter((m) => m.liquid).map((m) => m.medium))
  const before = (await roundOf(page)).stops.length
  const since = new Date(Date.now() - 20 * 864e5).toISOString()
  for (let i = before; i < 40; i++) {
    const group = book.groups[i % book.groups.length]!
    const vessel = book.vessels[i % book.vessels.length]!
    const made = await page.request.post('/api/brought', {
      data: {
        id: newId(),
        name: `${group.name} ${i}`,
        group_key: group.key,
        kind: group.kinds[i % group.kinds.length],
        nodes: 2,
        leaves: 1,
        since,
        known_to: 'day',
        set_nodes: 1,
        vessel: { id: newId(), name: `Vessel ${i + 1}`, place: `Shelf ${1 + Math.floor(i / 14)}`, since, ...vessel.usual },
      },
    })
    expect(made.ok(), `${group.key} in ${vessel.kind}: ${await made.text()}`).toBe(true)
  }
  const due = (await roundOf(page)).stops.filter((s) => s.tasks.length)
  expect(due.length, 'after 20 days without care nearly all want something').toBeGreaterThan(30)

  await page.goto('/round')
  const well = page.locator('.well')
  await expect(well).toBeVisible()
  await noSidewaysScroll(page)
  await accessible(page)
  const where = (await well.boundingBox())!
  expect(where.y + where.height, 'within reach of a thumb').toBeGreaterThan(600)
  expect(where.height).toBeGreaterThanOrEqual(44)
  const start = Date.now()
  let taps = 0
  const end = page.getByRole('heading', { name: 'The round is done' })
  while (!(await end.isVisible())) {
    const card = page.getByRole('article')
    const name = await card.getAttribute('aria-label')
    const box = await well.boundingBox()
    if (box) expect(Math.abs(box.y - where.y), 'it stands in one place').toBeLessThan(90)
    await well.tap()
    taps++
    await expect(async () => {
      const now = (await end.isVisible()) ? undefined : await card.getAttribute('aria-label', { timeout: 500 })
      expect(now).not.toBe(name)
    }).toPass()
    expect(taps).toBeLessThan(80)
  }
  const seconds = (Date.now() - start) / 1000
  console.log(`round of ${due.length} vessels due of 40: ${taps} taps, ${seconds.toFixed(1)} s of the machine`)
  expect(taps).toBe(due.length)
  await expect(async () => {
    const after = await roundOf(page)
    expect(after.stops.filter((s) => s.tasks.length)).toEqual([])
    expect(after.stops.filter((s) => s.visits.length === 1)).toHaveLength(due.length)
  }).toPass()
  await noSidewaysScroll(page)
  await accessible(page)

  // Every vessel has a page of its own, and its drawing.
  expect(liquid.size).toBeGreaterThan(0)
  const drawn = new Set<string>()
  const shelf = (await (await page.request.get('/api/shelf')).json()) as { vessels: { id: string; kind: string; name: string }[] }
  for (const v of shelf.vessels) {
    if (drawn.has(v.kind)) continue
    drawn.add(v.kind)
    await page.goto(`/vessels/${v.id}`)
    await expect(page.getByRole('heading', { level: 1, name: v.name })).toBeVisible()
    await expect(page.getByRole('img', { name: /, to scale/ })).toBeVisible()
    await noSidewaysScroll(page)
    await accessible(page)
  }
  expect(drawn.size).toBe(book.vessels.length)
})
