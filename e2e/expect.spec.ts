import { accessible, cuttingByCode, expect, test } from './kit'

// What is to be expected of a piece, by the model: the chance, the day with its band, the best days to pot.

test('the chance, the day and the best days are read; for what was potted nothing is foreseen', async ({ page }) => {
  const waiting = await cuttingByCode(page, 'PIN-A8-9')
  await page.goto(`/cuttings/${waiting.id}`)
  const card = page.getByRole('region', { name: 'What to expect' })
  await expect(card.getByRole('heading')).toContainText(/ready/i)
  await expect(card).toContainText(/8 in 10 between/)
  await expect(card).toContainText(/Best potted about|Potting today is as good/)
  await expect(card.getByRole('img')).toHaveAccessibleName(/today/)
  await accessible(page)
  // The same numbers as the contract gives.
  const seen = (await (await page.request.get(`/api/cuttings/${waiting.id}`)).json()) as {
    foreseen: { p_ready: number; best_day: { curve: number[]; day: number; from: number; to: number } }
  }
  expect(seen.foreseen.best_day.curve).toHaveLength(61)
  const worth = seen.foreseen.best_day.curve
  expect(Math.max(...worth)).toBeCloseTo(worth[seen.foreseen.best_day.day]!, 9)
  await expect(card).toContainText(`${Math.round(100 * worth[0]!)} in 100`)
  // Another school asks for something else.
  await page.getByRole('button', { name: /^early roots/ }).click()
  await expect(card.getByRole('heading')).toContainText(/Almost surely ready|Likely ready/)
  await page.getByRole('button', { name: /^full roots/ }).click()
  await expect(card.getByRole('heading')).toContainText(/not ready|Not ready|Hardly/)
  const potted = await cuttingByCode(page, 'PIN-A4-5')
  await page.goto(`/cuttings/${potted.id}`)
  await expect(page.getByRole('heading', { name: 'PIN-A4-5' })).toBeVisible()
  await expect(card).toHaveCount(0)
})
