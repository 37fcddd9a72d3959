import { accessible, expect, noSidewaysScroll, test, typeDay } from './kit'

// An empty collection, on a phone: the server of this project starts with nothing in it.

test('every station says what to do when there is nothing yet', async ({ page }) => {
  await page.goto('/')
  await expect(page.getByRole('link', { name: /Bring in/ }).first()).toBeVisible()
  for (const [path, says] of [
    ['/mothers', /Add a mother/],
    ['/cut', /Map a stem|no stem|mother/i],
    ['/set', /Nothing is cut and waiting/],
    ['/potup', /None is ready today/],
    ['/offer', /What is known|Worth it/],
    ['/files', /Stem maps/],
    ['/numbers', /Where every number comes from/],
    ['/bring-in', /Bring in a piece/],
    ['/round', /No vessel stands on a shelf/],
    ['/together', /None of these stands any more/],
    ['/mix', /Mixing corner/],
    ['/ahead', /Nothing stands that roots/],
    ['/expecting', /127 simulated cuttings/],
    ['/groups/ivy', /None has come yet/],
  ] as const) {
    await page.goto(path)
    await expect(page.locator('main').getByText(says).first()).toBeVisible()
    await noSidewaysScroll(page)
    await accessible(page)
  }
  await page.goto('/')
  await page.getByRole('link', { name: 'Add a mother' }).first().click()
  await expect(page.getByLabel('Full name')).toBeVisible()
})

test('from nothing to the first cutting on the shelf: under ten taps, one typed field', async ({ page }) => {
  await page.goto('/')
  let taps = 0
  let typed = 0
  const tap = async (what: ReturnType<typeof page.getByRole>) => {
    taps++
    await what.click()
  }
  await tap(page.getByRole('link', { name: /Bring in/ }).first())
  await tap(page.getByLabel('Full name of the plant'))
  await page.keyboard.type('Hoya linearis')
  typed++
  await tap(page.locator('.v-select').filter({ hasText: 'Growth group' }))
  await tap(page.getByRole('option', { name: /Wax vines/ }))
  await tap(page.getByRole('button', { name: 'stem cutting', exact: true }))
  await tap(page.getByRole('group', { name: 'Nodes' }).getByRole('button', { name: '2', exact: true }))
  await tap(page.getByRole('group', { name: 'Leaves on it' }).getByRole('button', { name: '1', exact: true }))
  await tap(page.getByRole('button', { name: 'new jar with water' }))
  await tap(page.getByRole('button', { name: 'Bring it in' }))
  await expect(page.getByRole('region', { name: 'Verdict' })).toBeVisible()
  expect(taps).toBeLessThan(10)
  expect(typed).toBeLessThanOrEqual(3)
  await page.goto('/')
  await expect(page.getByRole('img', { name: /^Jar 1: LIN/ })).toBeVisible()
  // Her mother was made with it, and can be filled in later.
  await page.goto('/mothers')
  await expect(page.getByText('Hoya linearis').first()).toBeVisible()
})

test('known to the month, with its longest root, into a vessel that is here; and undone', async ({ page }) => {
  await page.goto('/bring-in')
  await page.getByLabel('Full name of the plant').fill('Begonia of a swap')
  await page.locator('.v-select').filter({ hasText: 'Growth group' }).click()
  await page
    .getByRole('option', { name: /begonia/i })
    .first()
    .click()
  await page.getByRole('button', { name: /^leaf/ }).first().click()
  await typeDay(page, 'Cut, or come, on', '6 weeks ago')
  await page.getByRole('button', { name: 'month', exact: true }).click()
  await page.getByRole('button', { name: 'new lidded box with moss' }).click()
  await page.getByLabel(/Longest root seen/).fill('12')
  await page.getByRole('button', { name: 'Bring it in' }).click()
  await expect(page.getByRole('region', { name: 'Verdict' })).toBeVisible()
  await expect(page.getByRole('list', { name: 'What happened' })).toContainText(/known to the month|about/i)
  await expect(page.getByRole('list', { name: 'What happened' })).toContainText('longest 12 mm')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText('Taken back.')).toBeVisible()
  await page.goto('/')
  await expect(page.getByText(/BEG/)).toHaveCount(0)
})

test('a photo whose tag names nothing here is kept, and it is said', async ({ page }) => {
  await page.goto('/photo')
  await expect(page.getByText('Nothing yet.')).toBeVisible()
  await page.getByTestId('photo-file').setInputFiles('demo/photos/demo_moss_day31.jpg')
  await expect(page.getByTestId('shot')).toContainText('name nothing here', { timeout: 60_000 })
  await noSidewaysScroll(page)
  await page.getByRole('button', { name: 'Off this list' }).click()
  await expect(page.getByTestId('shot')).toHaveCount(0)
})
