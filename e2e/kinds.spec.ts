import { accessible, choose, expect, newId, openWishes, test, typeDay } from './kit'

// Each way of multiplying from plan to an established plant, spoken of and drawn as what it is.
// common practice, no source: handbook of the trade, kind by kind.

// While limits are typed they contradict each other for a moment, and are refused.
test.use({ tolerate: [/the server responded with a status of 422/] })

type Page = Parameters<typeof accessible>[0]
type Organ = 'stem' | 'rhizome' | 'runner' | 'clump' | 'pups' | 'back_rhizome' | 'tuber' | 'leaf'

interface Walk {
  what: string
  group: string
  organ: Organ
  form?: 'whole' | 'half' | 'half_across' | 'wedge' | 'section' | 'pulled' | 'heel'
  nodes: number
  between?: number
  thick?: number
  rooted?: boolean
  /** The grower wants single nodes, or long strands. */
  nodesIn?: [number, number]
  /** The kind that is followed, and how it is called. */
  kind: string
  called: RegExp
  /** What is said at the bench, and how it is set. */
  bench?: RegExp
  medium: 'Jar' | 'Lidded box' | 'Lidded cup' | 'Covered pot' | 'Bottle'
  set?: RegExp
  /** What a look asks of it. */
  asks: RegExp
  /** How it goes on: potted as it came, potted once rooted, or its young plants are parted from it. */
  then: 'pot at once' | 'pot' | 'part'
  after: RegExp
}
const walks: Walk[] = [
  {
    what: 'tip',
    group: 'soft_climber',
    organ: 'stem',
    nodes: 7,
    kind: 'tip',
    called: /tip cutting/,
    medium: 'Jar',
    asks: /^Stem$/,
    then: 'pot',
    after: /evenly damp/,
  },
  {
    what: 'stem',
    group: 'thick_climber',
    organ: 'stem',
    nodes: 8,
    kind: 'stem',
    called: /stem cutting/,
    medium: 'Jar',
    asks: /^Stem$/,
    then: 'pot',
    after: /evenly damp/,
  },
  {
    what: 'single node',
    group: 'thick_climber',
    organ: 'stem',
    nodes: 5,
    nodesIn: [1, 1],
    kind: 'leaf_bud',
    called: /single node with leaf/,
    medium: 'Lidded box',
    asks: /^Stem$/,
    then: 'pot',
    after: /evenly damp/,
  },
  {
    what: 'whole leaf',
    group: 'gesneriad',
    organ: 'leaf',
    form: 'whole',
    nodes: 1,
    kind: 'leaf',
    called: /leaf piece/,
    bench: /third row counted from the middle.*25 mm, at 45 degrees/i,
    medium: 'Covered pot',
    set: /nearly flat and barely covered/,
    asks: /^Plantlets$/,
    then: 'part',
    after: /then cover it: a young plant wants humid air/,
  },
  {
    what: 'wedge',
    group: 'begonia',
    organ: 'leaf',
    form: 'wedge',
    nodes: 3,
    kind: 'leaf',
    called: /leaf piece/,
    bench: /wedge is cut beside a main vein/,
    medium: 'Lidded box',
    asks: /^Plantlets$/,
    then: 'part',
    after: /then cover it: a young plant wants humid air/,
  },
  {
    what: 'half leaf lengthwise',
    group: 'peperomia',
    organ: 'leaf',
    form: 'half',
    nodes: 2,
    kind: 'leaf',
    called: /leaf piece/,
    medium: 'Lidded cup',
    set: /every cut vein may give a plantlet/,
    asks: /^Plantlets$/,
    then: 'part',
    after: /then cover it: a young plant wants humid air/,
  },
  {
    what: 'half leaf across',
    group: 'peperomia',
    organ: 'leaf',
    form: 'half_across',
    nodes: 2,
    kind: 'leaf',
    called: /leaf piece/,
    bench: /cut the blade across its middle/,
    medium: 'Lidded cup',
    set: /the half with the stalk by its stalk/,
    asks: /^Plantlets$/,
    then: 'part',
    after: /then cover it: a young plant wants humid air/,
  },
  {
    what: 'section',
    group: 'sword_succulent',
    organ: 'leaf',
    form: 'section',
    nodes: 3,
    kind: 'leaf',
    called: /leaf piece/,
    bench: /mark its lower end/,
    medium: 'Covered pot',
    set: /25 mm in, upright/,
    asks: /^Leaf$/,
    then: 'pot',
    after: /80 % of the mix dry/,
  },
  {
    what: 'pulled leaf',
    group: 'butterwort',
    organ: 'leaf',
    form: 'pulled',
    nodes: 1,
    kind: 'leaf',
    called: /leaf piece/,
    bench: /it is pulled, not cut/,
    medium: 'Lidded box',
    set: /Never cover or plunge the leaf/,
    asks: /^Plantlets$/,
    then: 'part',
    after: /then cover it: a young plant wants humid air/,
  },
  {
    what: 'leaf with a bit of stem',
    group: 'rosette_succulent',
    organ: 'leaf',
    form: 'heel',
    nodes: 1,
    kind: 'leaf',
    called: /leaf piece/,
    bench: /sliver of stem/,
    medium: 'Covered pot',
    set: /until the cut has healed and roots show/,
    asks: /^Plantlets$/,
    then: 'part',
    after: /Do not water yet/,
  },
  {
    what: 'division with roots',
    group: 'clump_former',
    organ: 'clump',
    nodes: 4,
    rooted: true,
    kind: 'division',
    called: /division/,
    bench: /a fifth/,
    medium: 'Covered pot',
    asks: /^Base$/,
    then: 'pot at once',
    after: /Top dry/,
  },
  {
    what: 'division without roots',
    group: 'clump_former',
    organ: 'clump',
    nodes: 4,
    kind: 'division',
    called: /division/,
    bench: /part the clump/,
    medium: 'Covered pot',
    set: /trim the leaves hard/,
    asks: /^Base$/,
    then: 'pot',
    after: /Top dry/,
  },
  {
    what: 'pup',
    group: 'sword_succulent',
    organ: 'pups',
    nodes: 3,
    rooted: true,
    kind: 'pup',
    called: /pup/,
    bench: /cut it in its middle between/,
    medium: 'Covered pot',
    asks: /^Base$/,
    then: 'pot at once',
    after: /80 % of the mix dry/,
  },
  {
    what: 'back-rhizome',
    group: 'clump_former',
    organ: 'back_rhizome',
    nodes: 3,
    kind: 'back_rhizome',
    called: /bare rhizome/,
    medium: 'Covered pot',
    set: /a shoot comes within a year/,
    asks: /^Rhizome$/,
    then: 'pot',
    after: /evenly damp/,
  },
  {
    what: 'head with stump',
    group: 'rosette_succulent',
    organ: 'stem',
    nodes: 5,
    thick: 12,
    kind: 'head',
    called: /head/,
    medium: 'Covered pot',
    set: /Stand the head on an empty pot/,
    asks: /^Head$/,
    then: 'pot',
    after: /Do not water yet/,
  },
  {
    what: 'tuber',
    group: 'heart_vine',
    organ: 'tuber',
    nodes: 2,
    between: 15,
    kind: 'tuber',
    called: /tuber piece/,
    bench: /Pick the tuber out whole/i,
    medium: 'Covered pot',
    set: /eye up, half buried/,
    asks: /^Tuber$/,
    then: 'pot',
    after: /80 % of the mix dry/,
  },
  {
    what: 'strand',
    group: 'heart_vine',
    organ: 'stem',
    nodes: 8,
    thick: 2,
    nodesIn: [4, 6],
    kind: 'strand',
    called: /strand/,
    medium: 'Jar',
    set: /hang the strand over the rim/,
    asks: /^Stem$/,
    then: 'pot',
    after: /80 % of the mix dry/,
  },
  {
    what: 'runner',
    group: 'runner_former',
    organ: 'runner',
    nodes: 5,
    between: 45,
    kind: 'runner',
    called: /runner piece/,
    medium: 'Covered pot',
    set: /Lay it flat in a wide vessel, 10 mm of cover/,
    asks: /^Runner$/,
    then: 'pot',
    after: /evenly damp/,
  },
  {
    what: 'pitcher vine',
    group: 'pitcher_vine',
    organ: 'stem',
    nodes: 6,
    thick: 8,
    kind: 'stem',
    called: /stem cutting/,
    bench: /Tendrils and pitchers off; blades shortened/,
    medium: 'Lidded cup',
    set: /Bury it almost to the next node/,
    asks: /^Stem$/,
    then: 'pot',
    after: /evenly damp/,
  },
  {
    what: 'shrub in a bottle',
    group: 'soft_shrub',
    organ: 'stem',
    nodes: 6,
    kind: 'tip',
    called: /tip cutting/,
    bench: /scrape a woody one at its base/,
    medium: 'Bottle',
    set: /up to twenty close together in a bottle/,
    asks: /^Stem$/,
    then: 'pot',
    after: /evenly damp/,
  },
]

const post = async <T>(page: Page, path: string, data: object, put = false): Promise<T> => {
  const r = await (put ? page.request.put(path, { data }) : page.request.post(path, { data }))
  expect(r.ok(), `${path} ${await r.text()}`).toBe(true)
  return (await r.json()) as T
}
interface Cutting {
  id: string
  code: string
  kind: string
  judgement: { to_pot: boolean; verdict: string; act: string }
}

/** What lies on the bench, mapped. */
async function lies(page: Page, w: Walk): Promise<string> {
  const mother = await post<{ id: string }>(page, '/api/mothers', {
    id: newId(),
    name: `Mother for ${w.what}`,
    group_key: w.group,
    pattern: 'stable',
  })
  const along = ['stem', 'rhizome', 'runner'].includes(w.organ)
  const stem = await post<{ id: string }>(
    page,
    `/api/stems/${newId()}`,
    {
      fact_id: newId(),
      mother_id: mother.id,
      version: 0,
      map: {
        organ: w.organ,
        ...(w.form ? { form: w.form } : {}),
        nodes: Array.from({ length: w.nodes }, () => ({
          below_mm: w.between ?? 40,
          leaf: along && w.organ !== 'runner',
          aerial_root: false,
          bud: 'dormant',
          ...(w.rooted ? { rooted: true } : {}),
        })),
        beyond_mm: 40,
        thickness_mm: w.thick ?? 8,
        tip_intact: w.organ === 'stem',
      },
    },
    true,
  )
  return stem.id
}

/** The plan, the bench and the cut; gives the piece that is followed. */
async function cut(page: Page, w: Walk): Promise<Cutting> {
  await page.goto(`/cut/${await lies(page, w)}`)
  const plan = page.getByRole('region', { name: 'The plan' })
  await expect(plan.getByRole('heading', { level: 2 })).toContainText(/plants expected/)
  if (w.nodesIn) {
    await openWishes(page)
    await page.getByRole('button', { name: /^Nodes in a piece/ }).click()
    const fields = page.getByRole('group', { name: 'Nodes in a piece' })
    await fields.getByLabel('At most', { exact: true }).fill(String(w.nodesIn[1]))
    await fields.getByLabel('Tip at most', { exact: true }).fill(String(Math.max(w.nodesIn[1], 2)))
    await fields.getByLabel('At least', { exact: true }).fill(String(w.nodesIn[0]))
    await fields.getByLabel('At least', { exact: true }).blur()
    await page.keyboard.press('Escape')
    await expect(
      page.getByRole('button', { name: new RegExp(`^Nodes in a piece.*${w.nodesIn[0]} to ${w.nodesIn[1]}`) }),
    ).toBeVisible()
    await expect(plan.getByRole('heading', { level: 2 })).toContainText(/plants expected/)
  }
  await page.getByRole('button', { name: 'Prepare the bench' }).click()
  await expect(page.getByRole('heading', { name: /Bench for/ })).toBeVisible()
  if (w.bench) await expect(page.getByText(w.bench).first()).toBeVisible()
  await typeDay(page, 'Cut on', '90 days ago')
  await page.getByRole('button', { name: 'I have cut it so' }).click()
  const codes = page.getByRole('region', { name: 'After' }).getByRole('link', { name: /^[A-Z]{3}\d*-/ })
  await expect(codes.first()).toBeVisible()
  const shelf = (await (await page.request.get('/api/shelf')).json()) as { cuttings: Cutting[] }
  const mine = (await codes.allInnerTexts()).map((t) => t.trim())
  const found = shelf.cuttings.find((c) => mine.includes(c.code) && c.kind === w.kind)
  expect(
    found,
    `${w.what}: a ${w.kind} among ${JSON.stringify(shelf.cuttings.filter((c) => mine.includes(c.code)).map((c) => [c.code, c.kind]))}`,
  ).toBeTruthy()
  return found!
}

async function setIt(page: Page, w: Walk, c: Cutting): Promise<void> {
  await page.goto(`/set?cutting=${c.id}`)
  await page.getByRole('button', { name: 'A new vessel' }).click()
  await page.getByLabel('Name of the vessel').fill(`For ${w.what}`)
  await choose(page, 'Kind', w.medium)
  await expect(page.getByRole('heading', { name: /How to set it in .* in a/ })).toBeVisible()
  if (w.set) await expect(page.getByText(w.set).first()).toBeVisible()
  await expect(page.getByRole('img', { name: /, to scale: / })).toBeVisible()
  await typeDay(page, 'Set on', '90 days ago')
  await page.getByRole('button', { name: 'It is set' }).click()
  await expect(
    page
      .getByRole('status')
      .filter({ hasText: `${c.code} stands in For ${w.what}.` })
      .first(),
  ).toBeVisible()
}

/** Roots as a hand measures them; on a leaf the plantlets are counted. */
async function look(page: Page, w: Walk, c: Cutting): Promise<void> {
  await page.goto(`/cuttings/${c.id}/look`)
  await expect(page.getByRole('group', { name: w.asks })).toBeVisible()
  if (w.then === 'part') {
    const plantlets = page.getByRole('group', { name: w.asks })
    await plantlets.getByRole('button', { name: '3', exact: true }).click()
    await page
      .getByRole('group', { name: /^Plantlet$/ })
      .getByRole('button', { name: 'leaf open' })
      .click()
  } else {
    for (const [n, mm] of [72, 64, 55].entries()) {
      await page.getByRole('button', { name: 'Type a length' }).click()
      await page.getByLabel('length in mm').nth(n).fill(String(mm))
    }
    await page.getByRole('group', { name: 'Roots squeezed' }).getByRole('button', { name: 'firm' }).click()
  }
  await page.getByRole('button', { name: 'Save the look' }).click()
  await expect(page.getByRole('list', { name: 'What happened' })).toContainText(
    w.then === 'part' ? '3 plantlets' : '3 roots, longest 72 mm',
  )
}

/** Into a pot, and grown on. */
async function potAndGrow(page: Page, w: Walk, id: string): Promise<void> {
  const verdict = page.getByRole('region', { name: 'Verdict' })
  await page.goto(`/potup?cutting=${id}`)
  await expect(page.getByRole('article')).toHaveCount(1)
  await expect(page.getByRole('article').getByText('The weeks after')).toBeVisible()
  await typeDay(page, 'Potted on', '20 days ago')
  await page.getByRole('button', { name: 'It is potted' }).click()
  await expect(page.getByRole('region', { name: 'Aftercare' })).toContainText(w.after)
  await page.getByRole('button', { name: 'It has grown on' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Close the record' }).click()
  await expect(verdict.getByRole('heading', { name: 'Done' })).toBeVisible()
  await expect(verdict).toContainText('Established on')
}

for (const w of walks) {
  test(`from the plan to a plant of its own: ${w.what}`, async ({ page }) => {
    page.setDefaultTimeout(30_000)
    await page.goto('/')
    const c = await cut(page, w)
    await page.goto(`/cuttings/${c.id}`)
    await expect(page.locator('.who')).toContainText(w.called)
    if (w.then === 'pot at once') {
      expect(c.judgement.to_pot, 'it has roots of its own').toBe(true)
      await expect(page.getByRole('region', { name: 'Verdict' })).toContainText('needs no rooting')
      return potAndGrow(page, w, c.id)
    }
    await setIt(page, w, c)
    await look(page, w, c)
    if (w.then === 'pot') return potAndGrow(page, w, c.id)

    // The plantlets are parted: each with a code of its own, the leaf stays known.
    const verdict = page.getByRole('region', { name: 'Verdict' })
    await expect(verdict).toContainText('Part the plantlets')
    await verdict.getByRole('button', { name: 'Part the plantlets' }).click()
    const dialog = page.getByRole('dialog', { name: 'Part the plantlets' })
    await expect(dialog.getByRole('group', { name: /^Plantlet \d$/ })).toHaveCount(3)
    await dialog.getByLabel('Longest root, mm').first().fill('14')
    await dialog.getByRole('button', { name: 'pattern kept' }).first().click()
    await expect(dialog.getByRole('button', { name: 'All 3 are parted' })).toBeDisabled()
    await dialog.getByRole('button', { name: 'has roots' }).nth(1).click()
    await dialog.getByRole('button', { name: 'none yet' }).nth(2).click()
    await typeDay(page, 'On', '25 days ago')
    await accessible(page)
    await dialog.getByRole('button', { name: 'All 3 are parted' }).click()
    const young = page.getByRole('link', { name: new RegExp(`${c.code.replace('.', '\\.')}\\.1`) }).first()
    await expect(young).toBeVisible()
    const list = (await (await page.request.get(`/api/cuttings/${c.id}`)).json()) as { parts: { id: string; code: string }[] }
    expect(list.parts.map((p) => p.code)).toEqual([1, 2, 3].map((n) => `${c.code}.${n}`))
    await young.click()
    await expect(page.locator('.who')).toContainText('plantlet')
    await expect(page.getByText(`Parted from ${c.code}, pattern kept.`)).toBeVisible()
    await potAndGrow(page, w, list.parts[0]!.id)
    await page.goto(`/cuttings/${c.id}`)
    await expect(page.locator('.photos')).toContainText(`${c.code}.1 Done`)
  })
}

test('a rooted piece is cut in two, and both go on', async ({ page }) => {
  page.setDefaultTimeout(30_000)
  await page.goto('/')
  const w = walks[1]!
  const c = await cut(page, { ...w, what: 'recut piece' })
  await setIt(page, { ...w, what: 'recut piece' }, c)
  await look(page, w, c)
  await page.getByRole('button', { name: 'Cut it in two' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('A fresh wound in mix invites rot')
  await typeDay(page, 'On', '25 days ago')
  await dialog.getByRole('button', { name: 'has roots' }).click()
  await dialog.getByRole('button', { name: 'It is cut in two' }).click()
  await expect(page.getByRole('link', { name: new RegExp(`${c.code}\\.1`) }).first()).toBeVisible()
  await expect(page.locator('.who')).toContainText(/left of \d/)
  const parts = ((await (await page.request.get(`/api/cuttings/${c.id}`)).json()) as { parts: { id: string }[] }).parts
  for (const id of [parts[0]!.id, c.id]) await potAndGrow(page, { ...w, after: /damp/ }, id)
})
