import { accessible, expect, newId, rooted, test } from './kit'

// The weeks after potting. It walks the whole round, so it comes after those that need one.

// common practice, no source: water roots evenly damp for 14 days; what dried out begins again.
test('a pot in its first weeks is seen to on the round, and what was dry is judged', async ({ page }) => {
  page.setDefaultTimeout(20_000)
  const [piece] = await rooted(page, 'cissus_kin', 'Weeks vine', 15)
  const on = new Date(Date.now() - 3 * 86_400_000).toISOString()
  const potted = await page.request.post('/api/pottings', {
    data: {
      id: newId(),
      cutting_id: piece!.id,
      place: 'Potting bench',
      potted_on: on,
      pot: { top_mm: 60, bottom_mm: 45, depth_mm: 60 },
    },
  })
  expect(potted.status(), 'looked at since, so it cannot have been potted three days ago before that look').toBe(200)
  await page.goto('/round')
  const well = page.locator('.well')
  const pots = page.getByRole('region', { name: 'Pots in their first weeks' })
  await expect(well.or(pots).first()).toBeVisible()
  for (let i = 0; i < 40 && !(await pots.isVisible()); i++) {
    await well.click({ timeout: 2000 }).catch(() => undefined)
    await page.waitForTimeout(150)
  }
  const card = pots.getByRole('article').filter({ hasText: piece!.code })
  await expect(card).toContainText('Water-grown roots dry out in a day')
  await expect(card).toContainText('Not normal: a soft or brown base')
  await accessible(page)
  await card.getByRole('button', { name: 'it was dry' }).click()
  await expect(card).toHaveCount(0)
  await page.goto(`/cuttings/${piece!.id}`)
  await expect(page.getByRole('region', { name: 'Verdict' }).getByRole('heading', { name: 'Look' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Aftercare' })).toContainText('Seen to.')
})
