import { accessible, cuttingByCode, expect, motherByCode, noSidewaysScroll, test } from './kit'

test('at the shelf with one thumb', async ({ page }) => {
  test.setTimeout(120_000)
  await page.goto('/')
  await expect(page.getByRole('complementary', { name: 'Today' })).toContainText('to pot')
  const c = await cuttingByCode(page, 'RHA-A6-7')
  const mother = await motherByCode(page, 'MEL')
  const stem = mother.stems.find((s) => s.letter === 'B')!
  for (const path of [
    '/',
    '/mothers',
    '/potup',
    `/cuttings/${c.id}`,
    `/cuttings/${c.id}/look`,
    `/cut/${stem.id}`,
    `/mothers/${mother.id}/stems/${stem.id}`,
    '/numbers',
  ]) {
    await page.goto(path)
    await expect(page.getByRole('heading', { level: 1 }).first()).toBeAttached()
    await page.waitForLoadState('networkidle')
    await noSidewaysScroll(page)
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
