import { accessible, expect, newId, noSidewaysScroll, readable, rooted, test } from './kit'

// The potting table: several plants, like with like, laid out and changed by the grower, one confirm.
// common practice, no source: 3 in a 100 mm pot; like roots together; moved on 25 mm wider, never 50.

test('like goes with like, the grower changes who goes where, and one confirm pots them all', async ({ page }) => {
  page.setDefaultTimeout(20_000)
  const made = await rooted(page, 'cissus_kin', 'Bench vine', 14, 15, 16, 70)
  const [a, b, c, long] = made.map((m) => m.code) as [string, string, string, string]
  await page.goto(`/potup?cuttings=${made.map((m) => m.id).join(',')}`)
  const pots = page.getByRole('article')
  await expect(pots).toHaveCount(2)
  await expect(page.getByRole('status').first()).toContainText('4 plants, 2 pots. Like roots together')
  const three = pots.filter({ hasText: a })
  await expect(three.getByRole('heading')).toContainText('100 mm pot, 3 of Bench vine')
  await expect(three).toContainText(/Shoots apart; \d+ mm apart, 14 mm from the rim/)
  await expect(pots.filter({ hasText: long })).toContainText('stays apart: its roots are much longer or shorter')
  await expect(three.getByRole('img', { name: /^From the side, to scale: 100 mm across/ })).toBeVisible()
  await expect(three.getByRole('img', { name: /^From above/ })).toBeVisible()
  await accessible(page)
  await readable(page)
  await noSidewaysScroll(page)

  // Dragged, with a mouse, from where both pots are seen.
  await page.setViewportSize({ width: 1280, height: 1200 })
  const chip = (await page.getByRole('button', { name: new RegExp(`^${c} .*where to`) }).boundingBox())!
  const card = (await pots.filter({ hasText: long }).boundingBox())!
  await page.mouse.move(chip.x + 30, chip.y + chip.height / 2)
  await page.mouse.down()
  await page.mouse.move(chip.x + 60, chip.y + 10, { steps: 4 })
  await page.mouse.move(card.x + 60, card.y + 24, { steps: 8 })
  await page.mouse.up()
  await expect(pots.filter({ hasText: long })).toContainText(c)
  await expect(pots.filter({ hasText: a }).getByRole('heading')).toContainText('2 of Bench vine')
  await page.getByRole('button', { name: 'share them out anew' }).click()
  await expect(pots.filter({ hasText: a }).getByRole('heading')).toContainText('3 of Bench vine')
  // The grower puts the long one with the short ones: laid out, and told what speaks against it.
  await page.getByRole('button', { name: new RegExp(`^${long} .*where to`) }).click()
  await page.getByRole('button', { name: /^to the 100 mm pot/ }).click()
  await expect(pots).toHaveCount(1)
  await expect(pots).toContainText('The longest root is 5.0 times the shortest')
  await page.getByRole('button', { name: 'share them out anew' }).click()
  await expect(pots.filter({ hasText: a }).getByRole('heading')).toContainText('3 of Bench vine')
  await page.getByRole('button', { name: new RegExp(`^${c} .*where to`) }).click()
  await page.getByRole('button', { name: 'a pot of its own' }).click()
  await expect(pots).toHaveCount(3)
  await page.getByRole('button', { name: new RegExp(`^${c} .*where to`) }).click()
  await page.getByRole('button', { name: 'off the table' }).click()
  await expect(pots).toHaveCount(2)

  // Another pot and another mix for one; the parts of a mix are the grower's own.
  const two = pots.filter({ hasText: a })
  await two.getByText(/another pot or mix/).click()
  await two.getByRole('combobox', { name: 'Made of' }).click({ force: true })
  await page.getByRole('option', { name: 'clay' }).click()
  await expect(two).toContainText('Roots grown in water dry out in a day')
  await two.getByText('no hole in its bottom').click()
  await expect(two).toContainText('Watering too often kills')
  await expect(two.getByRole('heading')).toContainText('clay pot')
  const mix = page.getByRole('region', { name: 'Mix' })
  const bark = mix.getByRole('listitem').filter({ hasText: 'bark' }).first()
  const before = (await bark.textContent()) ?? ''
  await mix.getByRole('button', { name: 'change the parts' }).click()
  await mix.getByLabel('parts of bark').fill('5')
  await mix.getByLabel('parts of bark').blur()
  await mix.getByRole('button', { name: 'done' }).click()
  await expect(bark).not.toHaveText(before)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(bark).toHaveText(before)

  await page.getByRole('combobox', { name: 'Goes to which shelf' }).fill('Potting bench')
  await page.getByRole('button', { name: 'They are potted' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'Potted: ' })).toContainText('in 2 pots')
  await expect(page.getByRole('link', { name: '3 tags as PDF' })).toBeVisible()

  // The shelf draws one pot with both; what is noted of one is noted of one.
  await page.goto('/')
  await expect(page.getByRole('img', { name: new RegExp(`^\\d+ mm pot: .*${a}.*${b}|^\\d+ mm pot: .*${b}.*${a}`) })).toBeVisible()
  await page.goto(`/cuttings/${made[0]!.id}`)
  await expect(page.getByRole('list', { name: 'What happened' })).toContainText(/100 mm clay pot, \d+ ml of mix, .*with 1 other/)

  // Moved on together: 25 mm wider; 50 is warned of.
  await page.getByRole('link', { name: 'Into a wider pot' }).click()
  await expect(page.getByRole('heading', { name: 'Move on' })).toBeVisible()
  await page.getByRole('button', { name: new RegExp(`^${b} `) }).click()
  await expect(pots).toHaveCount(1)
  await expect(pots.getByRole('heading')).toContainText('125 mm clay pot, 2 of Bench vine')
  await pots.getByText(/another pot or mix/).click()
  await pots.getByLabel('Across, mm').fill('150')
  await pots.getByLabel('Across, mm').blur()
  await expect(pots).toContainText('50 mm wider than before')
  await pots.getByLabel('Across, mm').fill('130')
  await pots.getByLabel('Across, mm').blur()
  await expect(pots).not.toContainText('wider than before:')
  await page.getByRole('button', { name: 'They are moved on' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'Moved on: ' })).toBeVisible()
  await page.goto(`/cuttings/${made[1]!.id}`)
  await expect(page.getByRole('list', { name: 'What happened' })).toContainText('Moved on: 130 mm clay pot')
})

// common practice, no source: 25 mm wider, never 50; at most a fifth of the roots off.
test('a mother is potted on, and what speaks against it is told', async ({ page }) => {
  const made = await page.request.post('/api/mothers', {
    data: { id: newId(), name: 'Clump at the end of its pot', group_key: 'clump_former', pattern: 'plain' },
  })
  await page.goto(`/mothers/${((await made.json()) as { id: string }).id}`)
  const pot = page.getByRole('region', { name: 'Her pot' })
  await pot.getByRole('button', { name: 'Say what she stands in' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Note it' }).click()
  await expect(pot).toContainText('120 mm across')
  await expect(pot).toContainText('Next: 145 mm')
  await pot.getByRole('button', { name: 'She was potted on' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Across, mm').fill('180')
  await dialog.getByLabel('Roots that came off', { exact: true }).fill('40')
  await dialog.getByLabel('Roots that came off', { exact: true }).blur()
  await accessible(page)
  await dialog.getByRole('button', { name: 'Note it' }).click()
  await expect(pot).toContainText('60 mm wider than before')
  await expect(pot).toContainText('only a vigorous plant takes that')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(pot).toContainText('120 mm across')
})
