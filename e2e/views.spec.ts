import { accessible, choose, cuttingByCode, expect, motherByCode, noSidewaysScroll, test } from './kit'

const views = async (page: Parameters<typeof cuttingByCode>[0]) => {
  const cutting = await cuttingByCode(page, 'PIN-A6-7')
  const potted = await cuttingByCode(page, 'PIN-A4-5')
  const mother = await motherByCode(page, 'MEL')
  const stem = mother.stems.find((s) => s.letter === 'B')!
  return [
    { path: '/', ready: 'Glass cabinet, lower' },
    { path: '/mothers', ready: 'Philodendron verrucosum' },
    { path: `/mothers/${mother.id}`, ready: 'Stem B' },
    { path: `/mothers/${mother.id}/stems/${stem.id}`, ready: 'Save the map' },
    { path: '/cut', ready: 'Hoya callistophylla' },
    { path: `/cut/${stem.id}`, ready: 'plants expected' },
    { path: `/set?cutting=${(await cuttingByCode(page, 'HOY-A7')).id}`, ready: 'Into which vessel' },
    { path: `/cuttings/${cutting.id}`, ready: 'What happened' },
    { path: `/cuttings/${potted.id}`, ready: 'The weeks after potting' },
    { path: `/cuttings/${cutting.id}/look`, ready: 'By eye and touch' },
    { path: '/potup', ready: 'ml of mix' },
    { path: '/numbers', ready: 'Longest root wanted' },
    { path: '/nothing/here', ready: 'Nothing stands here' },
  ]
}

for (const lamp of ['light', 'dark'] as const) {
  test(`every view is accessible and fits, ${lamp}`, async ({ page }) => {
    test.setTimeout(180_000)
    await page.emulateMedia({ colorScheme: lamp, reducedMotion: 'reduce' })
    await page.goto('/')
    for (const view of await views(page)) {
      await page.goto(view.path)
      await expect(page.getByText(view.ready).first()).toBeVisible()
      await accessible(page)
      await noSidewaysScroll(page)
    }
  })
}

test('the shelf stands to scale, and today is in order of urgency', async ({ page }) => {
  await page.goto('/')
  const jar = page.getByRole('img', { name: /^Wide jar/ })
  const tray = page.getByRole('img', { name: /^Rhizome tray/ })
  await expect(jar).toBeVisible()
  /** Pixels a mm of a drawing: its width on screen over the mm its view box spans. */
  const scale = (el: typeof jar) =>
    el.evaluate((s) => (s as SVGSVGElement).getBoundingClientRect().width / (s as SVGSVGElement).viewBox.baseVal.width)
  expect(await scale(jar)).toBeCloseTo(await scale(tray), 4)

  // A root is drawn as long as it was measured.
  const cutting = await cuttingByCode(page, 'PIN-A6-7')
  const longest = await page.request
    .get(`/api/cuttings/${cutting.id}`)
    .then(async (r) => ((await r.json()) as { cutting: { longest_mm: number } }).cutting.longest_mm)
  const drawn = await jar.locator('.roots path').evaluateAll((paths) => paths.map((p) => (p as SVGPathElement).getTotalLength()))
  expect(Math.min(...drawn.map((mm) => Math.abs(mm - longest)))).toBeLessThan(0.5)

  const verdicts = await page.getByRole('complementary', { name: 'Today' }).locator('ol strong').allInnerTexts()
  const order = ['Rescue', 'Overdue', 'Ready', 'Look', 'Wait', 'Growing on']
  expect([...verdicts].sort((a, b) => order.indexOf(a) - order.indexOf(b))).toEqual(verdicts)
  expect(new Set(verdicts)).toEqual(new Set(order))

  // Focus on a tag shows the numbers beside it.
  await page
    .getByRole('link', { name: /PIN-A6-7/ })
    .first()
    .focus()
  await expect(page.getByRole('tooltip')).toContainText('Longest root')
})

test('an answer in Today settles the question', async ({ page }) => {
  await page.goto('/')
  const today = page.getByRole('complementary', { name: 'Today' })
  const item = today.getByRole('listitem').filter({ hasText: 'RHA-A4-5' })
  await expect(item).toContainText('Is the first new leaf open?')
  await item.getByRole('button', { name: 'leaf open' }).click()
  await expect(item.locator('strong')).toHaveText(/Ready|Overdue/)
})

test('keys: help, stations, find, lamp', async ({ page }) => {
  await page.goto('/')
  await expect(page.getByText('Glass cabinet, lower')).toBeVisible()
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog')).toContainText('find a cutting by code or name')
  await page.getByRole('button', { name: 'Close' }).click()
  await page.keyboard.press('1')
  await expect(page).toHaveURL(/mothers/)
  await page.getByRole('button', { name: /Lamp off/ }).click()
  await expect(page.locator('.v-theme--dark').first()).toBeVisible()
  await page.getByRole('button', { name: /Lamp on/ }).click()
  await page.keyboard.press('/')
  await page.getByLabel('Code, name or vessel').fill('perlite hoy')
  await expect(page.getByRole('dialog').getByRole('button')).toHaveCount(2)
})

test('moving a cutting shows the caution of its medium', async ({ page }) => {
  const c = await cuttingByCode(page, 'HOY-A7')
  await page.goto(`/set?cutting=${c.id}`)
  await choose(page, 'Into which vessel', /Perlite cup/)
  await expect(page.getByText(/Perlite dust: wet it/)).toBeVisible()
  await expect(page.getByText('make the hole first')).toBeVisible()
})
