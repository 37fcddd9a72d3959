import { accessible, choose, expect, noSidewaysScroll, readable, test } from './kit'

// What cannot be is refused on purpose here; the browser reports it on the console.
test.use({ tolerate: [/the server responded with a status of 422/] })

// published: C1 V1 = C2 V2; 1 % = 10 g per litre = 10 000 ppm.
test('the mixing corner thins a stock, shows how, and remembers', async ({ page }) => {
  await page.goto('/mix')
  const answer = page.getByRole('region', { name: 'Answer' })
  await expect(answer).toContainText('Fill in what is asked for')
  const field = (name: RegExp) => page.getByRole('textbox', { name })
  await field(/The stock/).fill('1000')
  await field(/Strength wanted/).fill('300')
  await field(/Made in all/).fill('100')
  await expect(answer).toContainText('30 ml')
  await expect(answer).toContainText('100 ml x 300 / 1000')
  await expect(page.getByText('read the label and follow it')).toBeVisible()
  await accessible(page)
  await noSidewaysScroll(page)
  // Thinning makes nothing stronger; the reason stands at the field.
  await field(/Strength wanted/).fill('3000')
  await expect(page.getByText('stronger than the stock')).toBeVisible()
  await field(/Strength wanted/).fill('250')
  await expect(answer).toContainText('25 ml')
  await page.reload()
  await expect(answer).toContainText('25 ml')
})

test('units, a mix of the handbook, and pots to fill', async ({ page }) => {
  await page.goto('/mix?of=strength')
  const answer = page.getByRole('region', { name: 'Answer' })
  await page.getByRole('textbox', { name: 'Strength' }).fill('0.8')
  await expect(answer).toContainText('8,000 ppm')
  await page.getByRole('button', { name: 'A mix by parts' }).click()
  await choose(page, 'Which mix', /chunky for climbers/)
  await page.getByRole('textbox', { name: /Mix in all/ }).fill('1000')
  await expect(answer).toContainText('500 ml')
  await expect(answer).toContainText('bark')
  await page.getByRole('button', { name: 'What pots hold' }).click()
  const values = {
    'Across the top': '90',
    'Across the bottom': '68',
    'Height inside': '85',
    'Filled to': '85',
    Pots: '2',
    'Settles by': '0',
  }
  for (const [name, v] of Object.entries(values)) await page.getByRole('textbox', { name: new RegExp(`^${name}`) }).fill(v)
  // published: a frustum, pi h / 12 (D^2 + D d + d^2): 419.3 ml
  await expect(answer).toContainText('419.3 ml')
  await page.getByRole('button', { name: 'square' }).click()
  await expect(answer).toContainText('533.9 ml')
})

test('every calculator fits, and says what it is about', async ({ page }) => {
  const calculators = (await (await page.request.get('/api/calculators')).json()) as {
    key: string
    title: string
    fields: unknown[]
  }[]
  expect(calculators.length).toBeGreaterThan(7)
  for (const c of calculators) {
    await page.goto(`/mix?of=${c.key}`)
    const panel = page.getByRole('region', { name: c.title, exact: true })
    await expect.poll(() => panel.getByRole('textbox').count()).toBeGreaterThanOrEqual(c.fields.length)
    await readable(page)
    await noSidewaysScroll(page)
  }
})
