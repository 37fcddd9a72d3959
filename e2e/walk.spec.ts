import { readFileSync } from 'node:fs'

import { choose, clickPhoto, expect, into, test, typeDay } from './kit'

interface Truth {
  reference: { scale_bar_ends_px: [[number, number], [number, number]]; scale_bar_mm: number }
  roots: { id: number; length_mm: number; naive_length_mm: number; apparent_px: [number, number][] }[]
}
const photo = new URL('../demo/photos/demo_aroid_day24.jpg', import.meta.url).pathname
const truth = JSON.parse(readFileSync(photo.replace('.jpg', '.json'), 'utf8')) as Truth

test('one stem, from the mother to the pot', async ({ page }) => {
  // Mothers: add one.
  await page.goto('/mothers')
  await page.getByRole('button', { name: 'Add a mother' }).click()
  await page.getByLabel('Full name').fill('Rhaphidophora decursiva')
  await choose(page, /Growth group/, /Thick climbers/)
  await page.getByLabel('Where it came from').fill('A strip from the greenhouse wall')
  await page.getByRole('button', { name: 'Add it' }).click()
  await expect(page.getByRole('heading', { name: /Rhaphidophora decursiva/ })).toBeVisible()

  // The stem strip: a click adds a node; keys move it and say what it bears.
  await page.getByRole('link', { name: 'Map a stem' }).click()
  const stem = page.getByRole('group', { name: /Stem, base left/ })
  await expect(stem).toBeVisible()
  const box = (await stem.boundingBox())!
  for (const at of [0.12, 0.24, 0.36, 0.48, 0.6, 0.72]) await page.mouse.click(box.x + box.width * at, box.y + 120)
  await expect(stem.getByRole('slider')).toHaveCount(6)
  const third = stem.getByRole('slider', { name: 'Node 3' })
  await third.focus()
  const before = Number(await third.getAttribute('aria-valuenow'))
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Shift+ArrowRight')
  expect(Number(await third.getAttribute('aria-valuenow'))).toBeCloseTo(before + 11, 1)
  await page.keyboard.press('a')
  await expect(third).toHaveAttribute('aria-valuetext', /aerial root, bud asleep/)
  await page.keyboard.press('b')
  await expect(third).toHaveAttribute('aria-valuetext', /bud swelling/)
  await page.keyboard.press('n')
  await expect(stem.getByRole('slider')).toHaveCount(7)
  await page.keyboard.press('Delete')
  await expect(stem.getByRole('slider')).toHaveCount(6)
  // Drag node 5, and type the internode of node 6: what is above moves along.
  const fifth = (await stem.getByRole('slider', { name: 'Node 5' }).boundingBox())!
  await page.mouse.move(fifth.x + fifth.width / 2, box.y + 120)
  await page.mouse.down()
  await page.mouse.move(fifth.x + fifth.width / 2 + 18, box.y + 120, { steps: 4 })
  await page.mouse.up()
  await stem.getByRole('slider', { name: 'Node 6' }).focus()
  await page.getByLabel('Below it, mm').fill('44')
  await page.getByLabel('Below it, mm').press('Enter')
  // What is typed survives a reload.
  await page.reload()
  await expect(stem.getByRole('slider')).toHaveCount(6)
  await page.getByRole('button', { name: 'Save the map' }).click()
  await expect(page.getByRole('heading', { name: 'Stem A' })).toBeVisible()

  // Cut: the planner proposes; a knife moves and the numbers follow.
  await page.getByRole('link', { name: 'Plan a cut' }).click()
  await expect(page.getByRole('heading', { name: /plants expected/ })).toBeVisible()
  const pieces = page.getByRole('button', { name: /^Piece A/ })
  await expect(pieces).toHaveCount(2)
  const last = page.getByRole('slider', { name: 'Knife 2' })
  const chance = await pieces.last().getAttribute('aria-label')
  await last.focus()
  for (let i = 0; i < 14; i++) await page.keyboard.press('ArrowRight')
  await expect(pieces.last()).not.toHaveAttribute('aria-label', chance ?? '')
  // Dragging the last knife into the internode below leaves a piece without a node: refused with the reason.
  await page.getByRole('button', { name: 'Add a knife' }).click()
  await expect(page.getByRole('slider', { name: 'Knife 3' })).toBeVisible()
  await page.getByRole('button', { name: 'Propose again' }).click()
  await expect(pieces).toHaveCount(2)
  const first = page.getByRole('slider', { name: 'Knife 1' })
  await first.focus()
  for (let i = 0; i < 9; i++) await page.keyboard.press('Shift+ArrowLeft')
  await expect(page.getByText(/leave at least one node/)).toBeVisible()
  await expect(page.getByRole('button', { name: 'I have cut it so' })).toBeDisabled()
  await page.getByRole('button', { name: 'Propose again' }).click()
  // The line from fewer and safer to more and riskier lays its own knives.
  const line = page.getByRole('slider', { name: 'Number of pieces' })
  await line.fill('0')
  await expect(pieces).toHaveCount(1)
  await line.fill('1')
  await expect(pieces).toHaveCount(2)
  await page.getByRole('button', { name: 'Propose again' }).click()
  await expect(pieces).toHaveCount(2)
  const codes = await pieces.evaluateAll((all) =>
    all.map((p) => `DEC-${/^Piece (\S+?)[, ]/.exec(p.getAttribute('aria-label') ?? '')?.[1] ?? ''}`),
  )
  const [lower, upper] = codes as [string, string]
  await typeDay(page, 'Cut on', daysAgo(30))
  await page.getByRole('button', { name: 'I have cut it so' }).click()

  // Set: into a new jar, with how to do it and the caution of the group.
  await expect(page.getByRole('heading', { name: 'Set', exact: true })).toBeVisible()
  await page.getByRole('button', { name: lower }).click()
  await page.getByRole('button', { name: 'A new vessel' }).click()
  await page.getByLabel('Name of the vessel').fill('Test jar')
  await expect(page.getByText('every blade and petiole above it')).toBeVisible()
  await expect(page.getByText(/calcium oxalate needles/)).toBeVisible()
  await typeDay(page, 'Set on', daysAgo(30))
  await page.getByRole('button', { name: 'It is set' }).click()
  await expect(
    page
      .getByRole('status')
      .filter({ hasText: `${lower} stands in Test jar.` })
      .first(),
  ).toBeVisible()
  await page.getByRole('button', { name: upper }).click()
  await into(page, /Test jar/)
  await page.getByRole('button', { name: 'It is set' }).click()
  await expect(
    page
      .getByRole('status')
      .filter({ hasText: `${upper} stands in Test jar.` })
      .first(),
  ).toBeVisible()

  // The stem shows them as taken.
  await page.goto('/cut')
  await expect(page.getByRole('link', { name: /DEC-A .*nodes? stands?/ })).toBeVisible()

  // Look, by photo: scale from two points, one root traced along itself.
  await page.keyboard.press('/')
  await page.getByLabel('Code, name or vessel').fill(lower.toLowerCase())
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: lower })).toBeVisible()
  await page.getByRole('link', { name: 'Look: photo or by hand' }).click()
  await page.getByTestId('photo-file').setInputFiles(photo)
  await expect(page.getByTestId('board')).toBeVisible()
  await typeDay(page, 'Looked on', daysAgo(6))
  await page.getByRole('button', { name: 'Measure by two points instead' }).click()
  const [a, b] = truth.reference.scale_bar_ends_px
  await clickPhoto(page, a)
  await clickPhoto(page, b)
  await page.getByLabel('Between them, mm').fill(String(truth.reference.scale_bar_mm))
  const root = truth.roots[0]!
  const along = root.apparent_px.filter((_, i) => i % 6 === 0 || i === root.apparent_px.length - 1)
  for (const p of along) await clickPhoto(page, p)
  await clickPhoto(page, [600, 300])
  await page.keyboard.press('Backspace')
  await page.keyboard.press('Enter')
  const output = page.locator('output').first()
  await expect(output).toContainText('mm')
  const length = Number.parseFloat(await output.innerText())
  // published: the rendered photo's truth file, apparent line on the tag's plane: 58.9 mm.
  expect(Math.abs(length / root.naive_length_mm - 1)).toBeLessThan(0.05)
  await page.getByRole('group', { name: 'Stem' }).getByRole('button', { name: 'firm' }).click()
  await page.getByRole('group', { name: 'Bud at node 1' }).getByRole('button', { name: 'swelling' }).click()
  await page.getByRole('button', { name: 'Save the look' }).click()

  // Verdict: from the core, and it follows the school.
  const verdict = page.getByRole('region', { name: 'Verdict' })
  await expect(verdict.getByRole('heading', { name: 'Look' })).toBeVisible()
  await expect(verdict.getByRole('row', { name: /\d roots? or more of 5 mm/ })).toContainText('1')
  // Reopened, the trace is still there.
  await page.getByRole('link', { name: new RegExp(`Photo of ${lower}`) }).click()
  await expect(page.locator('output').first()).toContainText(length.toFixed(1))

  // A second look by hand, with no photo.
  await page.goBack()
  await page.getByRole('link', { name: 'Look: photo or by hand' }).click()
  for (const [i, mm] of [58, 22, 14].entries()) {
    await page.getByRole('button', { name: 'Type a length' }).click()
    const line = page
      .getByRole('listitem')
      .filter({ has: page.getByLabel('length in mm') })
      .nth(i)
    await line.getByLabel('length in mm').fill(String(mm))
    await line.getByLabel('node').selectOption(String((i % 2) + 1))
    await line.getByLabel('colour').selectOption('white')
  }
  await page.getByRole('group', { name: 'Stem' }).getByRole('button', { name: 'firm' }).click()
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(
    verdict
      .getByText('longest root 58 mm', { exact: false })
      .or(verdict.getByText(/no side roots yet/i))
      .first(),
  ).toBeVisible()
  await verdict.getByRole('button', { name: /early roots/ }).click()
  await expect(verdict.getByRole('heading', { name: 'Ready' })).toBeVisible()
  await expect(page.getByText(/2 looks|Look with photo/).first()).toBeVisible()

  // Pot up: suggested pot and mix; it becomes Growing on and leaves its jar.
  await page.getByRole('link', { name: 'Pot up', exact: true }).first().click()
  await expect(page.getByRole('heading', { name: /^60 mm pot, / })).toBeVisible()
  await page.getByRole('button', { name: 'It is potted' }).click()
  await expect(verdict.getByRole('heading', { name: 'Growing on' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Aftercare' })).toContainText('do not let it dry once in these 14 days')

  // The shelf shows the pot, and the jar with the one that is left.
  await page.goto('/')
  await expect(page.getByRole('img', { name: new RegExp(`^Test jar: ${upper}`) })).toBeVisible()
  await expect(page.getByRole('img', { name: new RegExp(`60 mm pot: ${lower}`) })).toBeVisible()
})

function daysAgo(n: number): string {
  return new Date(Date.now() - n * 86_400_000).toISOString().slice(0, 10)
}
