import { choose, expect, newId, test, typeDay } from './kit'

// Every growth group, every organ and every kind of vessel: from the map to a plant that has grown on.
// common practice, no source: which groups there are and how each is multiplied; that every station opens for
// each of them is what is held here.

type Page = Parameters<typeof choose>[0]
interface Book {
  groups: { key: string; name: string }[]
  organs: { organ: Organ; label: string }[]
  vessels: { kind: string; label: string }[]
}
type Organ = 'stem' | 'rhizome' | 'runner' | 'clump' | 'tuber' | 'leaf'
const title: Record<Organ, string> = {
  stem: 'Stem',
  rhizome: 'Rhizome',
  runner: 'Runner',
  clump: 'Clump',
  tuber: 'Tuber',
  leaf: 'Leaf',
}
const bookOf = async (page: Page) => (await (await page.request.get('/api/handbook')).json()) as Book

async function mother(page: Page, group: { key: string; name: string }, what: string): Promise<string> {
  const made = await page.request.post('/api/mothers', {
    data: { id: newId(), name: `${group.name} ${what}`, group_key: group.key, pattern: 'plain' },
  })
  expect(made.ok(), await made.text()).toBe(true)
  return ((await made.json()) as { id: string }).id
}

/** What lies on the bench, drawn by clicking; a leaf lays its marks itself. */
async function map(page: Page, motherId: string, organ: Organ): Promise<void> {
  await page.goto(`/mothers/${motherId}/stems/new`)
  const strip = page.getByRole('group', { name: /, base left/ })
  await expect(strip).toBeVisible()
  if (organ !== 'stem') await choose(page, 'What lies on the bench', new RegExp(`^${title[organ]}`))
  if (organ === 'leaf') {
    await expect(strip.getByRole('slider')).toHaveCount(1)
  } else {
    const box = (await strip.boundingBox())!
    const places = [0.15, 0.3, 0.45, 0.6]
    for (const [i, at] of places.entries()) {
      await page.mouse.click(box.x + box.width * at, box.y + 120)
      await expect(strip.getByRole('slider')).toHaveCount(i + 1)
    }
  }
  await page.getByRole('button', { name: 'Save the map' }).click()
  await expect(page.getByRole('link', { name: 'Plan a cut' }).first()).toBeVisible()
}

test('the handbook has every group and every organ', async ({ page }) => {
  const book = await bookOf(page)
  expect(book.groups).toHaveLength(19)
  expect(book.organs).toHaveLength(8)
})

for (const i of Array.from({ length: 19 }, (_, i) => i)) {
  test(`the cut page of group ${i + 1} opens for every organ`, async ({ page }) => {
    const slow = expect.configure({ timeout: 25_000 })
    test.setTimeout(120_000)
    await page.goto('/')
    const book = await bookOf(page)
    const group = book.groups[i]!
    const id = await mother(page, group, 'for every organ')
    for (const { organ } of book.organs) {
      const along = ['stem', 'rhizome', 'runner'].includes(organ)
      const count = organ === 'leaf' ? 1 : 5
      const stem = await page.request.put(`/api/stems/${newId()}`, {
        data: {
          fact_id: newId(),
          mother_id: id,
          version: 0,
          map: {
            organ,
            ...(organ === 'leaf' ? { form: 'whole' } : {}),
            nodes: Array.from({ length: count }, () => ({
              below_mm: 40,
              leaf: along,
              aerial_root: false,
              bud: 'dormant',
            })),
            beyond_mm: organ === 'leaf' ? 40 : 30,
            thickness_mm: 8,
            tip_intact: organ === 'stem' || organ === 'rhizome',
          },
        },
      })
      expect(stem.ok(), `${group.key} ${organ}: ${await stem.text()}`).toBe(true)
      await page.goto(`/cut/${((await stem.json()) as { id: string }).id}`)
      const plan = page.getByRole('region', { name: 'The plan' })
      await slow(plan.getByRole('heading', { level: 2 }), `${group.key} ${organ}`).toContainText(
        /plants expected|^Nothing to cut$/,
      )
    }
    await page.goto(`/mothers/${id}`)
    await slow(page.getByRole('region', { name: 'Fit to cut today?' })).toBeVisible()
  })
}

const organs: Organ[] = ['stem', 'leaf', 'clump', 'rhizome', 'tuber', 'runner']
// Each organ comes with several groups, each vessel with each organ; leaves once more with those that regrow from one.
const walks: [number, Organ][] = [
  ...Array.from({ length: 19 }, (_, i): [number, Organ] => [i, organs[i % 6]!]),
  [8, 'leaf'],
  [10, 'leaf'],
  [11, 'leaf'],
  [14, 'leaf'],
]
for (const [i, organ] of walks) {
  test(`from the map to a plant that has grown on: group ${i + 1}, ${organ}`, async ({ page }) => {
    page.setDefaultTimeout(40_000)
    await page.goto('/')
    const book = await bookOf(page)
    const group = book.groups[i]!
    const vessel = book.vessels[(i + Math.floor(i / 6)) % book.vessels.length]!
    await map(page, await mother(page, group, `as ${organ}`), organ)

    await page.getByRole('link', { name: 'Plan a cut' }).first().click()
    const plan = page.getByRole('region', { name: 'The plan' })
    await expect(plan.getByRole('heading', { level: 2 })).toBeVisible()
    // A group that cannot grow from this organ says so; the grower may still lay a knife, or leave it.
    if ((await plan.getByRole('heading', { level: 2 }).innerText()) === 'Nothing to cut') {
      await expect(page.getByText(/^Nothing to cut: .*(do|does) not regrow from/)).toBeVisible()
      return
    }
    await page.getByRole('button', { name: 'Prepare the bench' }).click()
    await expect(page.getByRole('heading', { name: /Bench for/ })).toBeVisible()
    await typeDay(page, 'Cut on', '90 days ago')
    await page.getByRole('button', { name: 'I have cut it so' }).click()
    const after = page.getByRole('region', { name: 'After' })
    const codes = after.getByRole('link', { name: /^[A-Z]{3}\d*-/ })
    await expect(codes.first()).toBeVisible()
    const code = (await codes.first().innerText()).trim()

    // Set: words and picture follow the kind.
    await codes.first().click()
    await expect(page.getByRole('heading', { level: 1, name: code }).first()).toBeVisible()
    await page.getByRole('link', { name: 'Set it' }).click()
    await expect(page.getByRole('heading', { name: 'Set', exact: true })).toBeVisible()
    await page.getByRole('button', { name: 'A new vessel' }).click()
    await page.getByLabel('Name of the vessel').fill(`${organ} vessel ${i + 1}`)
    await choose(page, 'Kind', vessel.label)
    await expect(page.getByRole('heading', { name: /How to set it in .* in a/ })).toBeVisible()
    await expect(page.getByRole('listitem').first()).toBeVisible()
    await expect(page.getByRole('img', { name: /, to scale: / })).toBeVisible()
    await typeDay(page, 'Set on', '90 days ago')
    await page.getByRole('button', { name: 'It is set' }).click()
    await expect(
      page
        .getByRole('status')
        .filter({ hasText: `${code} stands in ${organ} vessel ${i + 1}.` })
        .first(),
    ).toBeVisible()

    // Look: typed lengths, by eye and touch.
    await page.keyboard.press('/')
    await page.getByLabel('Code, name or vessel').fill(code)
    await page.keyboard.press('Enter')
    const verdict = page.getByRole('region', { name: 'Verdict' })
    await expect(verdict).toBeVisible()
    await page.getByRole('link', { name: 'Look: photo or by hand' }).click()
    for (const [n, mm] of [72, 64, 55].entries()) {
      await page.getByRole('button', { name: 'Type a length' }).click()
      await page.getByLabel('length in mm').nth(n).fill(String(mm))
    }
    await page.getByRole('group', { name: 'Roots squeezed' }).getByRole('button', { name: 'firm' }).click()
    await page.getByRole('button', { name: 'Save the look' }).click()
    await expect(page.getByRole('list', { name: 'What happened' })).toContainText('3 roots, longest 72 mm')
    await expect(verdict.getByRole('heading', { name: /Ready|Overdue|Look|Wait/ })).toBeVisible()

    // Pot up, whatever the verdict: against it only with a warning.
    const all = page.getByRole('button', { name: 'Pot it all the same' })
    if (await all.isVisible()) {
      await all.click()
      await page.getByRole('link', { name: 'Yes, I know my plant' }).click()
    } else {
      await page.getByRole('link', { name: 'Pot up', exact: true }).last().click()
    }
    await expect(page.getByRole('heading', { name: /^\d+ mm pot, / })).toBeVisible()
    await typeDay(page, 'Potted on', '20 days ago')
    await page.getByRole('button', { name: 'It is potted' }).click()
    await expect(page.getByRole('region', { name: 'Aftercare' }).getByRole('listitem').first()).toBeVisible()

    await page.getByRole('button', { name: 'It has grown on' }).click()
    await page.getByRole('dialog').getByRole('button', { name: 'Close the record' }).click()
    await expect(verdict.getByRole('heading', { name: /Established|Done/ })).toBeVisible()
  })
}
