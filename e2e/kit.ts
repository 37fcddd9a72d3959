import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'

import { expect, test as base, type Page } from '@playwright/test'

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

/** Problems the page must not have: console errors, thrown errors, requests to anywhere else. */
export const test = base.extend<{ tolerate: RegExp[] }>({
  // Playwright reads the first parameter's destructuring, so it must be there.
  // eslint-disable-next-line no-empty-pattern
  tolerate: async ({}, use) => use([]),
  page: async ({ page, tolerate, baseURL }, use) => {
    const wrong: string[] = []
    page.on('console', (m) => {
      if (m.type() === 'error' && !tolerate.some((t) => t.test(m.text()))) wrong.push(`console: ${m.text()}`)
    })
    page.on('pageerror', (e) => wrong.push(`thrown: ${e.message}`))
    page.on('request', (r) => {
      if (!r.url().startsWith(baseURL ?? '') && !/^(blob|data):/.test(r.url())) wrong.push(`external request: ${r.url()}`)
    })
    await use(page)
    expect(wrong).toEqual([])
  },
})

export { expect }

interface AxeResult {
  violations: { id: string; impact: string | null; nodes: { target: unknown; failureSummary?: string }[] }[]
}

/** axe finds nothing serious or critical in the page as it is. */
export async function accessible(page: Page): Promise<void> {
  await page.evaluate(axeSource)
  const result = await page.evaluate(
    async () =>
      (await (window as unknown as { axe: { run: (o: object) => Promise<unknown> } }).axe.run({
        resultTypes: ['violations'],
      })) as unknown,
  )
  const bad = (result as AxeResult).violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .map((v) => `${v.id}: ${v.nodes.map((n) => `${JSON.stringify(n.target)} ${n.failureSummary ?? ''}`).join('\n   ')}`)
  expect(bad, `axe on ${page.url()}`).toEqual([])
}

export async function noSidewaysScroll(page: Page): Promise<void> {
  const over = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)
  expect(over, `sideways scroll on ${page.url()}`).toBeLessThanOrEqual(0)
}

interface ShelfCutting {
  id: string
  code: string
  mother_id: string
  vessel_id?: string
  judgement: { verdict: string; sentence: string }
}

export async function cuttingByCode(page: Page, code: string): Promise<ShelfCutting> {
  const shelf = (await (await page.request.get('/api/shelf')).json()) as { cuttings: ShelfCutting[] }
  const found = shelf.cuttings.find((c) => c.code === code)
  if (!found) throw new Error(`no cutting ${code} on the shelf`)
  return found
}

export async function motherByCode(page: Page, code: string): Promise<{ id: string; stems: { id: string; letter: string }[] }> {
  const mothers = (await (await page.request.get('/api/mothers')).json()) as {
    id: string
    code: string
    stems: { id: string; letter: string }[]
  }[]
  const found = mothers.find((m) => m.code === code)
  if (!found) throw new Error(`no mother ${code}`)
  return found
}

export async function choose(page: Page, label: string | RegExp, option: string | RegExp): Promise<void> {
  await page.getByRole('combobox', { name: label }).click({ force: true })
  await page.getByRole('option', { name: option }).first().click()
}

/** Taps the vessel that pieces go into. */
export async function into(page: Page, name: string | RegExp): Promise<void> {
  const which = page.getByRole('group', { name: 'Into which vessel' })
  const vessel = which.getByRole('button', { name })
  // Where there are many they are found by name, as a grower would.
  const find = which.getByRole('textbox', { name: 'Find a vessel' })
  await expect(vessel.or(find).first()).toBeVisible()
  if (await find.isVisible()) await find.fill(typeof name === 'string' ? name : name.source)
  await expect(vessel).toBeVisible()
  if ((await vessel.getAttribute('aria-pressed')) !== 'true') await vessel.click()
}

/** Types a day into a date field, the way a grower does: yyyy-mm-dd, 27 Nov, 3 days ago. */
export async function typeDay(page: Page, label: string, day: string): Promise<void> {
  const field = page.getByRole('textbox', { name: label, exact: true })
  await field.fill(day)
  await field.press('Enter')
}

/** Opens the folded wishes of the cut page. */
export async function openWishes(page: Page): Promise<void> {
  const line = page.locator('button[aria-controls="wishes"]')
  await expect(line).toBeVisible()
  if ((await line.getAttribute('aria-expanded')) === 'false') await line.click()
}

/** Clicks the photo at a place given in its own pixels. */
export async function clickPhoto(page: Page, [x, y]: readonly [number, number]): Promise<void> {
  const board = page.getByTestId('board')
  await board.scrollIntoViewIfNeeded()
  const { px, py, w, h } = await board.evaluate(
    (el, at) => {
      const svg = el as unknown as SVGSVGElement
      const scroller = svg.closest('.board')
      const box = () => svg.getBoundingClientRect()
      if (scroller) {
        const want = (at[1] / svg.viewBox.baseVal.height) * box().height
        scroller.scrollTop = want - scroller.clientHeight / 2
      }
      const b = box()
      const size = svg.viewBox.baseVal
      return {
        px: b.left + (at[0] / size.width) * b.width,
        py: b.top + (at[1] / size.height) * b.height,
        w: size.width,
        h: size.height,
      }
    },
    [x, y] as const,
  )
  expect(x <= w && y <= h).toBe(true)
  await page.mouse.click(px, py)
}

/** Text that is drawn smaller than 12 px on the screen, and labels that do not fit their field. */
export async function readable(page: Page): Promise<void> {
  const wrong = await page.evaluate(() => {
    const out: string[] = []
    const shown = (e: Element) => {
      const b = e.getBoundingClientRect()
      return (
        b.width > 1 && b.height > 1 && (e as HTMLElement).checkVisibility({ visibilityProperty: true, opacityProperty: true })
      )
    }
    for (const e of document.querySelectorAll('body *')) {
      const own = [...e.childNodes].some((n) => n.nodeType === Node.TEXT_NODE && n.textContent?.trim())
      if (!own || !shown(e)) continue
      const svg = e instanceof SVGGraphicsElement ? e.getScreenCTM() : null
      const px = Number.parseFloat(getComputedStyle(e).fontSize) * (svg ? Math.hypot(svg.a, svg.b) : 1)
      if (px < 11.9) out.push(`${px.toFixed(1)} px: ${e.textContent?.trim().slice(0, 40)}`)
    }
    for (const e of document.querySelectorAll<HTMLElement>('.v-label, button, .v-select__selection-text, h1, h2, h3')) {
      if (
        shown(e) &&
        e.scrollWidth > e.clientWidth + 1 &&
        getComputedStyle(e).overflowX !== 'visible' &&
        getComputedStyle(e).textOverflow === 'ellipsis'
      )
        out.push(`cut off: ${e.textContent?.trim().slice(0, 60)}`)
    }
    return [...new Set(out)]
  })
  expect(wrong, `text on ${page.url()}`).toEqual([])
}

/** An id as the application makes them: a UUID of version 7, whose first half is the time. */
export function newId(): string {
  const time = Date.now().toString(16).padStart(12, '0')
  return `${time.slice(0, 8)}-${time.slice(8)}-7${crypto.randomUUID().slice(15)}`
}

/** Pieces that stand in a jar since 40 days, their one root so many mm long. */
export async function rooted(page: Page, group: string, name: string, ...mm: number[]): Promise<{ id: string; code: string }[]> {
  const day = (n: number) => new Date(Date.now() - n * 86_400_000).toISOString()
  const out: { id: string; code: string }[] = []
  let vessel: string | undefined
  for (const length of mm) {
    const made = await page.request.post('/api/brought', {
      data: {
        id: newId(),
        name,
        group_key: group,
        kind: 'stem',
        nodes: 2,
        leaves: 1,
        since: day(40),
        known_to: 'day',
        ...(vessel
          ? { vessel_id: vessel }
          : {
              vessel: {
                id: newId(),
                name: `${name} jar`,
                place: 'Potting bench',
                kind: 'jar',
                width_mm: 150,
                depth_mm: 150,
                height_mm: 140,
                wall_mm: 2,
                fill_mm: 60,
                holds: 8,
              },
            }),
      },
    })
    expect(made.ok(), await made.text()).toBe(true)
    const c = ((await made.json()) as { cutting: { id: string; code: string; vessel_id: string } }).cutting
    vessel = c.vessel_id
    const look = await page.request.post('/api/looks', {
      data: {
        id: newId(),
        cutting_id: c.id,
        looked_at: day(1),
        seen: {
          roots_counted: true,
          roots: [{ node: 1, order: 1, length_mm: length, low_mm: length, high_mm: length, how: 'typed' }],
          buds: [],
          stem: 'firm',
        },
      },
    })
    expect(look.ok(), await look.text()).toBe(true)
    out.push(c)
  }
  return out
}
