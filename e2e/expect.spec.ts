import { accessible, cuttingByCode, expect, noSidewaysScroll, test } from './kit'

// What is to be expected of a piece, by the model: the chance, the day with its band, the best days to pot, the one look that is worth
// its trouble, and what is left alone.

interface Page {
  cutting: { judgement: { verdict: string; do_not_open_until?: string; question?: { key: string } } }
  foreseen: { p_ready: number; words: string; best_day: { curve: number[]; day: number }; rests: { what: string }[] }
}

test('the chance, the day and the best days are read; for what was potted nothing is foreseen', async ({ page }) => {
  const waiting = await cuttingByCode(page, 'PIN-A8-9')
  await page.goto(`/cuttings/${waiting.id}`)
  const card = page.getByRole('region', { name: 'What to expect' })
  const verdict = page.getByRole('region', { name: 'Verdict' })
  await expect(card).toContainText(/8 in 10 between/)
  await expect(card).toContainText(/Best potted about|Potting today is as good/)
  await expect(card.getByRole('img')).toHaveAccessibleName(/today/)
  await expect(page.getByRole('region', { name: 'What it rests on' })).toContainText('pace of the longest root')
  await accessible(page)
  // The same numbers as the contract gives.
  const read = async () => (await (await page.request.get(`/api/cuttings/${waiting.id}`)).json()) as Page
  const seen = await read()
  const worth = seen.foreseen.best_day.curve
  expect(worth).toHaveLength(61)
  expect(Math.max(...worth)).toBeCloseTo(worth[seen.foreseen.best_day.day]!, 9)
  await expect(card).toContainText(`${Math.round(100 * worth[0]!)} in 100`)
  await expect(verdict).toContainText(seen.foreseen.words)
  // Another school asks for something else.
  await page.getByRole('button', { name: /^early roots/ }).click()
  await expect(verdict).toContainText(/Almost surely ready|Likely ready/)
  await page.getByRole('button', { name: /^full roots/ }).click()
  await expect(verdict).toContainText(/not ready|Not ready|Hardly/)
  // Straight to mix is no school for what stands in water.
  await expect(page.getByRole('button', { name: /^straight to mix/ })).toHaveCount(0)
  const potted = await cuttingByCode(page, 'PIN-A4-5')
  await page.goto(`/cuttings/${potted.id}`)
  await expect(page.getByRole('heading', { name: 'PIN-A4-5' })).toBeVisible()
  await expect(page.getByText(/It grows on with about \d+ in 100/)).toBeVisible()
  await expect(card).toHaveCount(0)
})

test('the question is asked with its price and what each answer would do, and answered in one tap', async ({ page }) => {
  const asked = await cuttingByCode(page, 'CIS-A9-10')
  await page.goto(`/cuttings/${asked.id}`)
  const question = page.getByRole('region', { name: 'One look that pays' })
  await expect(question).toContainText(/Takes \d+ (seconds|minutes?)/)
  await question.getByText('What each answer would do').click()
  await expect(question.getByRole('listitem').first()).toContainText(/pot it|rescue it/)
  const before = (await (await page.request.get(`/api/cuttings/${asked.id}`)).json()) as Page
  expect(before.cutting.judgement.question?.key).toBe('tug')
  await question.getByRole('button', { name: 'it gives' }).click()
  await expect(page.getByRole('region', { name: 'What happened' }).or(page.locator('.photos'))).toContainText('tug gives')
  const after = (await (await page.request.get(`/api/cuttings/${asked.id}`)).json()) as Page
  expect(after.cutting.judgement.question?.key).not.toBe('tug')
  // It held nine days ago: the two do not fit, and that is told.
  await expect(page.getByRole('alert')).toContainText('These two do not fit')
  await expect(page.getByRole('alert')).toContainText(/held on .* gives on/)
  await accessible(page)
})

test('a sealed box is left alone until a day', async ({ page }) => {
  await page.goto('/')
  const today = page.getByRole('complementary', { name: 'Today' })
  await expect(today.getByText(/leave it closed until/).first()).toBeVisible()
  const closed = await cuttingByCode(page, 'MEL-A7-8')
  const seen = (await (await page.request.get(`/api/cuttings/${closed.id}`)).json()) as Page
  const until = seen.cutting.judgement.do_not_open_until
  expect(new Date(until ?? 0).getTime()).toBeGreaterThan(Date.now())
  await page.goto(`/cuttings/${closed.id}`)
  await expect(page.getByRole('region', { name: 'Verdict' })).toContainText('Do not open or dig before')
  await expect(page.getByRole('region', { name: 'One look that pays' })).toHaveCount(0)
})

test('the coming weeks show when pieces come ready and the days that serve several', async ({ page }) => {
  await page.goto('/ahead')
  await expect(page.getByRole('heading', { name: 'The coming eight weeks' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Days to pot' }).getByRole('listitem').first()).toContainText(/\d+ pieces?/)
  const chart = page.getByRole('region', { name: 'When pieces come ready' })
  await expect(chart.getByText('PIN-A8-9')).toBeVisible()
  await expect(chart).toContainText('To rescue first')
  await accessible(page)
  await noSidewaysScroll(page)
})

test('the model is explained with one worked cutting, and its numbers can be changed', async ({ page }) => {
  await page.goto('/expecting')
  const worked = page.getByRole('region', { name: 'One worked cutting' })
  await expect(worked.getByRole('row')).toHaveCount(4)
  await expect(worked).toContainText('one root of 6 mm')
  const assumed = page.getByRole('region', { name: 'What it assumes' })
  await expect(assumed.getByText('Ready from a chance of', { exact: true })).toBeVisible()
  await accessible(page)
})
