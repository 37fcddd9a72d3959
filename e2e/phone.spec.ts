import { accessible, cuttingByCode, expect, motherByCode, noSidewaysScroll, readable, test } from './kit'

test('at the shelf with one thumb', async ({ page }) => {
  test.setTimeout(180_000)
  await page.goto('/')
  await expect(page.getByRole('complementary', { name: 'Today' })).toContainText('to pot')
  const c = await cuttingByCode(page, 'RHA-A6-7')
  const mother = await motherByCode(page, 'MEL')
  const stem = mother.stems.find((s) => s.letter === 'B')!
  const [plan] = ((await (await page.request.get('/api/plans')).json()) as { plans: [{ id: string }] }).plans
  const [place] = ((await (await page.request.get('/api/shelf')).json()) as { places: [{ id: string }] }).places
  for (const path of [
    '/',
    '/mothers',
    '/about',
    '/potup',
    `/cuttings/${c.id}`,
    `/cuttings/${c.id}/look`,
    `/cut/${stem.id}`,
    `/mothers/${mother.id}/stems/${stem.id}`,
    '/numbers',
    `/mothers/${mother.id}`,
    '/offer',
    '/files',
    '/round',
    `/vessels/${c.vessel_id ?? ''}`,
    `/together?vessel=${c.vessel_id ?? ''}`,
    `/places/${place.id}`,
    '/mix',
    '/bring-in',
    '/ahead',
    '/expecting',
    '/groups/velvet_climber',
    `/set?cutting=${c.id}`,
    `/prepare/${plan.id}`,
  ]) {
    await page.goto(path)
    await expect(page.getByRole('heading', { level: 1 }).first()).toBeAttached()
    await page.waitForLoadState('networkidle')
    await noSidewaysScroll(page)
    await readable(page)
    await accessible(page)
    const small = await page
      .locator('main .v-btn:visible, main button:visible, header a:visible, header button:visible')
      .evaluateAll((els) =>
        els
          .map((e) => ({ text: e.textContent?.trim() ?? '', h: e.getBoundingClientRect().height }))
          .filter((e) => e.h > 0 && e.h < 43.5),
      )
    expect(small, `targets under 44 px on ${path}`).toEqual([])
  }
})

test('today is one line each, at least eight without scrolling, opened on tap', async ({ page }) => {
  await page.goto('/')
  const today = page.getByRole('complementary', { name: 'Today' })
  const lines = today.locator('ol li.line')
  await expect(lines.nth(8)).toBeVisible()
  const bar = (await page.getByRole('navigation', { name: 'Stations' }).boundingBox())!.y
  const ends = await lines.evaluateAll((all) => all.map((l) => l.getBoundingClientRect().bottom))
  expect(ends.filter((y) => y <= bar).length).toBeGreaterThanOrEqual(8)
  const first = lines.first()
  await expect(first.locator('.whole')).toHaveCount(0)
  await first.getByRole('button').first().tap()
  await expect(first.locator('.whole')).toBeVisible()
  await expect(today.getByText(/leave it closed until/).first()).toBeAttached()
})

test('a stem is mapped by tapping, and the camera is offered', async ({ page }) => {
  const mother = await motherByCode(page, 'VER')
  await page.goto(`/mothers/${mother.id}/stems/new`)
  const stem = page.getByRole('group', { name: /Stem, base left/ })
  const box = (await stem.boundingBox())!
  await page.touchscreen.tap(box.x + 100, box.y + 120)
  await page.touchscreen.tap(box.x + 200, box.y + 120)
  await expect(stem.getByRole('slider')).toHaveCount(2)
  const c = await cuttingByCode(page, 'MEL-A5-6')
  await page.goto(`/cuttings/${c.id}/look`)
  await expect(page.getByTestId('photo-camera')).toHaveAttribute('capture', 'environment')
})

test('nodes are placed on a photo of the stem, and set right with one thumb', async ({ page }) => {
  const mother = await motherByCode(page, 'RHA')
  await page.goto(`/mothers/${mother.id}/stems/new`)
  const input = page.getByTestId('backdrop-file')
  await expect(input).toHaveAttribute('capture', 'environment')
  await input.setInputFiles(new URL('../demo/photos/demo_aroid_day15.jpg', import.meta.url).pathname)
  const board = page.getByTestId('backdrop')
  await expect(board).toBeVisible()
  const box = (await board.boundingBox())!
  const tap = (x: number, y: number) => board.click({ position: { x: box.width * x, y: box.height * y } })
  await expect(page.getByText('Tap the base of the stem')).toBeVisible()
  await tap(0.1, 0.9)
  await tap(0.1, 0.1)
  await page.getByLabel('Base to tip, mm').fill('400')
  await page.getByLabel('Base to tip, mm').press('Enter')
  // A quarter, half and three quarters of the way from base to tip: 100, 200 and 300 mm.
  await tap(0.15, 0.7)
  await tap(0.05, 0.5)
  await tap(0.12, 0.3)
  const strip = page.getByRole('group', { name: /Stem, base left/ })
  for (const [i, mm] of [100, 200, 300].entries()) {
    const at = Number(await strip.getByRole('slider', { name: `Node ${i + 1}` }).getAttribute('aria-valuenow'))
    expect(Math.abs(at - mm)).toBeLessThan(4)
  }
  // The thumb's own buttons.
  const before = Number(await strip.getByRole('slider', { name: 'Node 3' }).getAttribute('aria-valuenow'))
  await page.getByRole('button', { name: '5 mm more below it' }).click()
  expect(Number(await strip.getByRole('slider', { name: 'Node 3' }).getAttribute('aria-valuenow'))).toBeCloseTo(before + 5, 1)
  const panel = (await page.getByRole('region', { name: 'Node 3' }).boundingBox())!
  expect(panel.y).toBeGreaterThan(844 * 0.4)
  // What was placed survives a reload; the photo stays with the camera.
  await page.reload()
  await expect(strip.getByRole('slider')).toHaveCount(3)
})

test('the stations without a place on the bar are one tap away', async ({ page }) => {
  await page.goto('/')
  const bar = page.getByRole('navigation', { name: 'Stations' })
  await expect(bar.getByRole('link', { name: /^Round/ })).toBeVisible()
  await expect(bar.getByRole('link', { name: 'Mothers' })).toBeHidden()
  for (const [name, path] of [
    ['Mothers', /mothers/],
    ['Mixing corner', /mix/],
  ] as const) {
    await bar.getByRole('button', { name: 'More' }).tap()
    await page.getByRole('list', { name: 'More stations' }).or(page.getByLabel('More stations')).getByText(name).first().tap()
    await expect(page).toHaveURL(path)
  }
})

test.describe('a shot without a network', () => {
  test.use({ tolerate: [/ERR_INTERNET_DISCONNECTED/] })
  test('the camera tells the tag and what to change before the shot', async ({ page }) => {
    await page.goto('/photo')
    await page.getByRole('button', { name: 'Open the camera' }).tap()
    // The browser's camera is a photo of the demo.
    await expect(page.getByTestId('live-tags')).toContainText('7Q4K')
    await expect(page.getByTestId('live-tags')).toContainText('Wide jar')
    await expect(page.getByTestId('advice')).toHaveText('Good. Hold still.')
    await noSidewaysScroll(page)
    for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Take the photo' }).tap()
    await page.getByRole('button', { name: 'Done' }).tap()
    const shots = page.getByTestId('shot')
    // The film has one picture: the same photo twice is one.
    await expect(shots).toHaveCount(1)
    await expect(shots.first().getByRole('link', { name: 'PIN-A6-7' })).toBeVisible({ timeout: 60_000 })
    await noSidewaysScroll(page)
    await accessible(page)
    // Without a network they wait, and go out by themselves.
    await page.context().setOffline(true)
    await page.getByTestId('photo-file').setInputFiles('demo/photos/demo_orange_day33.jpg')
    await expect(shots.first()).toContainText('Not sent yet')
    await page.context().setOffline(false)
    await expect(shots.first().getByRole('link', { name: 'AMY-A5-6' })).toBeVisible({ timeout: 90_000 })
    await shots.first().getByRole('button', { name: 'Off this list' }).tap()
    await expect(shots).toHaveCount(1)
  })
})
