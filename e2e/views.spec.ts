import { accessible, clickPhoto, cuttingByCode, expect, into, motherByCode, noSidewaysScroll, readable, test } from './kit'

const views = async (page: Parameters<typeof cuttingByCode>[0]) => {
  const cutting = await cuttingByCode(page, 'PIN-A6-7')
  const potted = await cuttingByCode(page, 'PIN-A4-5')
  const mother = await motherByCode(page, 'MEL')
  const stem = mother.stems.find((s) => s.letter === 'B')!
  const [plan] = ((await (await page.request.get('/api/plans')).json()) as { plans: [{ id: string }] }).plans
  const shelf = (await (await page.request.get('/api/shelf')).json()) as {
    vessels: { id: string; name: string }[]
    places: { id: string }[]
  }
  const tray = shelf.vessels.find((v) => v.name === 'Rhizome tray')!
  return [
    { path: '/round', ready: 'not today' },
    { path: `/vessels/${tray.id}`, ready: 'What was done' },
    { path: `/places/${shelf.places[1]?.id}`, ready: 'The last 24 hours' },
    { path: `/together?vessel=${tray.id}`, ready: 'What is left empty is not noted' },
    { path: '/', ready: 'Glass cabinet, lower' },
    { path: '/offer', ready: 'What would raise it' },
    { path: '/mix', ready: 'Fill in what is asked for' },
    { path: '/files', ready: 'Stem maps' },
    { path: `/prepare/${plan.id}`, ready: 'Cuts, from the tip down' },
    { path: '/mothers', ready: 'Philodendron verrucosum' },
    { path: `/mothers/${mother.id}`, ready: 'Stem B' },
    { path: `/mothers/${mother.id}/stems/${stem.id}`, ready: 'Save the map' },
    { path: '/cut', ready: 'Hoya callistophylla' },
    { path: `/cut/${stem.id}`, ready: 'plants expected' },
    { path: `/set?cutting=${(await cuttingByCode(page, 'HOY-A7')).id}`, ready: 'Into which vessel' },
    { path: `/cuttings/${cutting.id}`, ready: 'What happened' },
    { path: `/cuttings/${potted.id}`, ready: 'The weeks after potting' },
    { path: `/cuttings/${cutting.id}/look`, ready: 'By eye and touch' },
    { path: '/potup', ready: 'The weeks after' },
    { path: '/potup?move=1', ready: 'In pots' },
    { path: '/numbers', ready: 'Ends dry or rot back' },
    { path: '/ahead', ready: 'Days to pot' },
    { path: '/expecting', ready: 'A tug holds from roots of' },
    { path: '/groups/soft_climber', ready: 'against what came' },
    { path: '/about', ready: 'What it is built from' },
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
      await readable(page)
    }
  })
}

test('the shelf stands to scale, and today goes by what a day of waiting costs', async ({ page }) => {
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

  const listed = page.getByRole('complementary', { name: 'Today' }).locator('ol strong')
  const order = ['Rescue', 'Overdue', 'Ready', 'Look', 'Wait', 'Growing on']
  // The long list is drawn some at a time: in the end each of them is there, in order.
  await expect.poll(async () => new Set(await listed.allInnerTexts())).toEqual(new Set(order))
  // What loses most by waiting a day comes first; what loses nothing comes last.
  const { cuttings } = (await (await page.request.get('/api/shelf')).json()) as {
    cuttings: { code: string; where: string; judgement: { day_loss: number; asks: boolean; verdict: string } }[]
  }
  // They are ordered as the database keeps them: to seven figures.
  const losses = cuttings.map((c) => Math.fround(c.judgement.day_loss))
  expect([...losses].sort((a, b) => b - a)).toEqual(losses)
  expect(cuttings[0]?.judgement.verdict).toBe('rescue')
  const codes = await page.getByRole('complementary', { name: 'Today' }).locator('ol a .code').allInnerTexts()
  const asks = cuttings.filter((c) => c.judgement.asks && c.where !== 'unset').map((c) => c.code)
  expect(codes.slice(0, asks.length)).toEqual(asks)

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
  await into(page, /Perlite cup/)
  await expect(page.getByText(/Perlite dust: wet it/)).toBeVisible()
  await expect(page.getByText('make the hole first')).toBeVisible()
})

test('a rescue says which node is sound and how to go on', async ({ page }) => {
  const c = await cuttingByCode(page, 'VER-A4-5')
  await page.goto(`/cuttings/${c.id}`)
  await expect(page.getByText(/Cut above it: node 2 of the piece is sound/)).toBeVisible()
  await expect(page.getByRole('list', { name: 'What to do' })).toContainText('70 % alcohol')
  await page.getByRole('link', { name: 'Look: photo or by hand' }).click()
  await page.getByRole('group', { name: 'Stem' }).getByRole('button', { name: 'firm' }).click()
  await page.getByRole('group', { name: 'Roots squeezed' }).getByRole('button', { name: 'firm' }).click()
  await page.getByRole('checkbox', { name: 'I looked: no roots yet' }).check()
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(page.getByRole('region', { name: 'Verdict' }).getByRole('heading', { name: /Wait|Look/ })).toBeVisible()
})

test('a traced root is taken back, deleted, and given to another node', async ({ page }) => {
  const c = await cuttingByCode(page, 'PIN-A8-9')
  await page.goto(`/cuttings/${c.id}/look`)
  await page.getByTestId('photo-file').setInputFiles(new URL('../demo/photos/demo_aroid_day15.jpg', import.meta.url).pathname)
  await expect(page.getByTestId('board')).toBeVisible()
  await page.getByRole('button', { name: 'Measure by two points instead' }).click()
  await page.getByRole('button', { name: 'Trace on the photo' }).click()
  await clickPhoto(page, [380, 900])
  await clickPhoto(page, [420, 960])
  await page.getByRole('button', { name: 'Finish this root' }).click()
  await expect(page.getByText('1 traced root has no length yet')).toBeVisible()
  await clickPhoto(page, [380, 1000])
  await clickPhoto(page, [420, 1060])
  await page.getByRole('button', { name: 'Take back' }).click()
  await page.getByRole('button', { name: 'Take back' }).click()
  await expect(page.getByRole('button', { name: /Delete root/ })).toHaveCount(1)
  const node = page.getByRole('listitem').getByRole('combobox', { name: 'node' })
  await node.selectOption('2')
  await page.getByRole('button', { name: 'Larger' }).click()
  // The whole draft survives a reload.
  await page.reload()
  await expect(node).toHaveValue('2')
  await page.getByRole('button', { name: 'Delete root 1' }).click()
  await expect(page.getByText('None noted.')).toBeVisible()
  await page.getByRole('button', { name: 'Start anew' }).click()
  await expect(page.getByText('Photograph the roots with a ruler')).toBeVisible()
})

test('where every number comes from', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('link', { name: 'Where every number comes from' }).click()
  const groups = page.getByRole('region', { name: 'Growth groups' })
  await expect(groups.getByRole('row')).toHaveCount(20)
  await expect(groups.getByRole('row', { name: /Pitcher vines/ })).toContainText('black')
  await page.getByLabel('Which').selectOption({ label: 'potting up' })
  await expect(page.getByRole('row', { name: /Widest first pot/ })).toContainText('common practice')

  // Any number is the grower's to change, and everything is judged by it at once.
  const ready = page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Pot up/ })
  await expect(ready).toContainText(/\d/)
  const before = await ready.textContent()
  await page.getByLabel('Which').selectOption({ label: 'verdicts' })
  const longest = page.getByRole('spinbutton', { name: 'Full roots: longest root wanted' })
  await longest.fill('190')
  await longest.blur()
  await expect(ready).not.toHaveText(before ?? '')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(ready).toHaveText(before ?? '')
  await longest.fill('900')
  await longest.blur()
  await expect(page.getByRole('alert')).toContainText('lies between 0 and 200')
})
