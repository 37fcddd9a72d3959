import { expect, test } from '@playwright/test'

import {
  baseHeight,
  budAt,
  drawnRoots,
  hasLeaf,
  nodeAt,
  rises,
  rootLine,
  seeded,
  stemLength,
  type Piece,
  type XY,
} from '../ui/src/drawing/geometry'
import { bothDates, daysFromNow, instantOf, todayField } from '../ui/src/kit/dates'
import { percent } from '../ui/src/kit/words'
import type { MappedStem, Mother } from '../ui/src/api/client'
import { plantBox, plantOf, potHalf } from '../ui/src/drawing/motherPlant'
import {
  addNode,
  beginAs,
  divideLeaf,
  draftOf,
  emptyDraft,
  moveNode,
  setInternode,
  stemOf,
  type StemDraft,
} from '../ui/src/stations/mothers/stemDraft'
import { emptyLook, lookOf, reopened, untyped, type DraftRoot } from '../ui/src/stations/photo/lookDraft'

// The drawings are pure: mm in, mm out. These run without a browser.

const root = (node: number, order: 1 | 2, mm: number): Piece['roots'][number] => ({
  node,
  order,
  length_mm: mm,
  low_mm: mm,
  high_mm: mm,
  colour: 'white',
  how: 'typed',
})
const piece = (over: Partial<Piece> = {}): Piece => ({
  id: 'a piece',
  nodes: [
    { below_mm: 30, leaf: true, aerial_root: false, bud: 'dormant' },
    { below_mm: 34, leaf: true, aerial_root: false, bud: 'swelling' },
  ],
  belowMm: 15,
  aboveMm: 17,
  thicknessMm: 8,
  tip: false,
  setNodes: 2,
  strip: [1],
  roots: [],
  buds: [],
  rotMm: 0,
  patterned: false,
  ...over,
})
const lengthOf = (line: XY[]) => line.slice(1).reduce((sum, p, i) => sum + Math.hypot(p.x - line[i]!.x, p.y - line[i]!.y), 0)

test.describe('a piece to scale', () => {
  test('nodes sit where the map says', () => {
    const p = piece()
    expect(nodeAt(p, 1)).toBe(15)
    expect(nodeAt(p, 2)).toBe(49)
    expect(stemLength(p)).toBe(66)
    expect(hasLeaf(p, 1)).toBe(false)
    expect(hasLeaf(p, 2)).toBe(true)
    expect(rises(p)).toBeGreaterThan(66)
    expect(rises(p, 200)).toBeGreaterThan(200)
  })

  test('the bud last seen overrules the one mapped', () => {
    expect(budAt(piece(), 2)).toBe('swelling')
    expect(budAt(piece({ buds: [{ node: 2, bud: 'leaf_open' }] }), 2)).toBe('leaf_open')
  })

  test('set nodes stand below the surface, and the base never below the floor', () => {
    const p = piece()
    expect(baseHeight(p, 90) + nodeAt(p, 2)).toBeLessThan(90)
    expect(baseHeight(p, 10)).toBe(2)
  })

  test('a root is drawn exactly as long as it was measured, and stays inside its vessel', () => {
    let wrongLength = 0
    let outside = 0
    for (let i = 0; i < 300; i++) {
      const mm = 1 + i * 0.61
      const walls = { left: -20 - (i % 30), right: 15 + (i % 50), floor: 30 + (i % 60) }
      const line = rootLine({ x: 4, y: -20 }, mm, (i / 300) * Math.PI, seeded(`root ${i}`), walls)
      wrongLength = Math.max(wrongLength, Math.abs(lengthOf(line) - mm))
      for (const p of line) outside = Math.max(outside, walls.left - p.x, p.x - walls.right, p.y - walls.floor)
    }
    expect(wrongLength).toBeLessThan(1e-5)
    expect(outside).toBeLessThan(2.6)
  })

  test('every root is drawn once, the same each time, side roots on a root of their node', () => {
    const p = piece({ roots: [root(1, 1, 40), root(2, 1, 25), root(1, 2, 8), root(2, 2, 6)] })
    const once = drawnRoots(p)
    expect(once).toHaveLength(4)
    expect(drawnRoots(p)).toEqual(once)
    expect(drawnRoots({ ...p, id: 'another' })).not.toEqual(once)
    for (const side of once.filter((r) => r.root.order === 2)) {
      const parents = once.filter((r) => r.root.order === 1 && r.root.node === side.root.node)
      expect(parents.some((parent) => parent.line.some((q) => q.x === side.line[0]!.x && q.y === side.line[0]!.y))).toBe(true)
    }
  })

  test('side roots without a root of their own are left out rather than drawn in the air', () => {
    expect(drawnRoots(piece({ roots: [root(1, 2, 8)] }))).toEqual([])
  })
})

test.describe('the stem while it is mapped', () => {
  const three = (): StemDraft => {
    const d = emptyDraft()
    for (const at of [40, 90, 130]) addNode(d, at)
    return d
  }

  test('places become internodes and back', () => {
    const d = three()
    const stem = stemOf(d)
    expect(stem.nodes.map((n) => n.below_mm)).toEqual([40, 50, 40])
    expect(stem.beyond_mm).toBe(170)
    expect(draftOf(stem)).toEqual(d)
  })

  test('nodes keep their order, and none is put on another', () => {
    const d = three()
    moveNode(d, 1, 500)
    expect(d.nodes[1]!.at).toBe(129)
    moveNode(d, 1, -5)
    expect(d.nodes[1]!.at).toBe(41)
    expect(addNode(d, 41.4)).toBe(-1)
    expect(addNode(d, 0)).toBe(-1)
    expect(addNode(d, 60)).toBe(2)
  })

  test('a typed internode moves all that is above it', () => {
    const d = three()
    setInternode(d, 1, 70)
    expect(d.nodes.map((n) => n.at)).toEqual([40, 110, 150])
    expect(d.lengthMm).toBe(320)
    setInternode(d, 1, Number.NaN)
    expect(d.nodes.map((n) => n.at)).toEqual([40, 110, 150])
  })

  test('a node beyond the end makes the stem longer', () => {
    const d = three()
    addNode(d, 340)
    expect(d.lengthMm).toBe(340)
  })
})

test.describe('a look on its way', () => {
  const drafted = (over: Partial<DraftRoot>): DraftRoot => ({
    key: 'r',
    node: 1,
    order: 1,
    colour: '',
    path: [],
    typed: false,
    typedMm: null,
    ...over,
  })
  const path = [
    { x: 1, y: 1 },
    { x: 5, y: 9 },
  ]

  test('what was not noted is left out, never sent as no', () => {
    const look = lookOf(emptyLook('2026-05-01'), 2)
    expect(look).toEqual({ roots_counted: false, roots: [], buds: [], note: '' })
  })

  test('typed, traced and unmeasured roots', () => {
    const d = emptyLook('2026-05-01')
    d.roots = [
      drafted({ typed: true, typedMm: 12 }),
      drafted({ key: 't', path, colour: 'tan', node: 9 }),
      drafted({ key: 'v', typed: true }),
    ]
    expect(
      lookOf(d, 2).roots.map((r) => r.how),
      'lines without a scale are no lengths',
    ).toEqual(['typed'])
    d.scale = { a: path[0]!, b: path[1]!, distanceMm: 50 }
    const look = lookOf(d, 2)
    expect(look.roots.map((r) => [r.how, r.length_mm, r.node])).toEqual([
      ['typed', 12, 1],
      // Its length is worked out where it is kept.
      ['traced', 0, 2],
    ])
    expect(look.roots_counted).toBe(true)
  })

  test('a root row left empty is not a length', () => {
    const d = emptyLook('2026-05-01')
    d.roots = [drafted({ typed: true }), drafted({ key: 'z', typed: true, typedMm: 0 })]
    expect(untyped(d)).toBe(2)
    expect(lookOf(d, 2)).toMatchObject({ roots_counted: false, roots: [] })
  })

  test('a reopened look comes back as it was', () => {
    const seen = {
      roots_counted: true,
      roots: [{ ...root(1, 1, 30), how: 'truth' as const, path }, root(2, 1, 11)],
      buds: [{ node: 2, bud: 'shooting' as const }],
      stem: 'firm' as const,
      tug: 'holds' as const,
      note: 'as it was',
      scale: { a: path[0]!, b: path[1]!, distance_mm: 50 },
    }
    const view = { id: 'old', looked_at: '2026-05-01T10:00:00Z', seen, longest_mm: 30 }
    const again = reopened(view, '2026-05-01')
    expect(again.replaces).toBe('old')
    const typed = { ...seen.roots[1]!, low_mm: 0, high_mm: 0 }
    expect(lookOf(again, 2)).toEqual({ ...seen, roots: [seen.roots[0], typed] })
    Object.assign(again.roots[1]!, { typed: true, typedMm: 13 })
    expect(lookOf(again, 2).roots[1]).toMatchObject({ length_mm: 13, how: 'typed' })
  })
})

test.describe('days and numbers in words', () => {
  const now = new Date(2026, 10, 23, 22, 30)

  test('days are calendar days in the grower’s own zone', () => {
    expect(daysFromNow(new Date(2026, 10, 24, 0, 5).toISOString(), now)).toBe(1)
    expect(daysFromNow(new Date(2026, 10, 23, 0, 5).toISOString(), now)).toBe(0)
    expect(todayField(now)).toBe('2026-11-23')
  })

  test('a date field is now when it is today, and noon of any other day', () => {
    expect(instantOf('2026-11-23', now)).toBe(now.toISOString())
    expect(instantOf('2026-11-20', now)).toBe(new Date(2026, 10, 20, 12).toISOString())
    expect(instantOf('', now)).toBe('')
  })

  test('relative and absolute together', () => {
    const inDays = (n: number) => new Date(Date.now() + n * 86_400_000).toISOString()
    expect(bothDates(inDays(0))).toMatch(/, today$/)
    expect(bothDates(inDays(10))).toMatch(/^\w{3} \d+ \w+, in 10 days$/)
    expect(bothDates(inDays(-3))).toMatch(/3 days ago$/)
  })

  test('a chance is never rounded to never or always', () => {
    expect(percent(0)).toBe('0 %')
    expect(percent(0.001)).toBe('under 1 %')
    expect(percent(0.784)).toBe('78 %')
    expect(percent(0.999)).toBe('over 99 %')
    expect(percent(1)).toBe('100 %')
  })
})

test.describe('a mother as she stands', () => {
  const stem = (
    letter: string,
    over: Partial<MappedStem['map']> = {},
    standing = 4,
    organ: MappedStem['organ'] = 'stem',
  ): MappedStem => ({
    id: letter,
    mother_id: 'm',
    letter,
    version: 1,
    mapped_at: '2026-05-20T12:00:00Z',
    taken: [],
    organ,
    standing,
    end_mm: standing < 4 ? 130 : 220,
    map: {
      nodes: Array.from({ length: 4 }, () => ({ below_mm: 50, leaf: true, aerial_root: false, bud: 'dormant' as const })),
      beyond_mm: 20,
      thickness_mm: 8,
      tip_intact: true,
      ...over,
    },
  })
  const mother = (stems: MappedStem[]) => ({ name: 'X', pattern: 'plain', stems }) as unknown as Mother

  test('what was taken is a ghost, and counts no longer', () => {
    const [drawn] = plantOf(mother([stem('A', {}, 2)]))
    expect(drawn!.nodes.map((n) => n.gone)).toEqual([false, false, true, true])
    // It ends where the knife went, not half way.
    expect(drawn!.line[1]!.y).toBeCloseTo(-130, 6)
    expect(drawn!.ghost).toHaveLength(2)
    expect(drawn!.tip).toBe(false)
  })

  test('a shoot grows from its node, as long as it was mapped', () => {
    const [, shoot] = plantOf(mother([stem('A'), stem('B', { sprang: { letter: 'A', node: 2 } })]))
    expect(shoot!.line[0]).toEqual({ x: expect.closeTo(0, 6), y: expect.closeTo(-100, 6) })
    const [a, b] = shoot!.line as [XY, XY]
    expect(Math.hypot(b.x - a.x, b.y - a.y)).toBeCloseTo(220, 6)
  })

  test('a creeping one lies in a trough that holds it, leaves up', () => {
    const drawn = plantOf(mother([stem('A', {}, 4, 'rhizome')]))
    expect(drawn[0]!.creeping).toBe(true)
    expect(new Set(drawn[0]!.nodes.map((n) => n.side))).toEqual(new Set([-1]))
    expect(potHalf(drawn)).toBeGreaterThan(110)
    const box = plantBox(drawn, true)
    for (const p of drawn[0]!.line) expect(p.x > box.x && p.x < box.x + box.w && p.y > box.y).toBe(true)
  })
})

test.describe('other organs on the bench', () => {
  test('a leaf is divided into equal parts, or is one piece', () => {
    const d = emptyDraft()
    beginAs(d, 'leaf')
    divideLeaf(d, 'section', 3, 0)
    expect(d.nodes.map((n) => n.at)).toEqual([30, 90, 150])
    divideLeaf(d, 'half', 9, 2)
    expect(d.nodes).toHaveLength(2)
    divideLeaf(d, 'pulled', 9, 1)
    expect(d.nodes).toHaveLength(1)
    const map = stemOf(d)
    expect([map.organ, map.form, map.tip_intact]).toEqual(['leaf', 'pulled', false])
    beginAs(d, 'stem')
    expect(stemOf(d).form).toBeUndefined()
  })

  test('nothing that was mapped is lost on the way through the strip', () => {
    const map = {
      nodes: [
        { below_mm: 30, leaf: false, aerial_root: false, bud: 'dormant' as const, rooted: true, stripe: 'strong' as const },
        { below_mm: 40.5, leaf: true, aerial_root: true, bud: 'swelling' as const },
      ],
      beyond_mm: 12,
      thickness_mm: 20,
      tip_intact: true,
      organ: 'clump' as const,
      wood: 'woody' as const,
      sprang: { letter: 'A', node: 3 },
    }
    expect(stemOf(draftOf(map))).toEqual(map)
  })

  test('a node of a clump has no leaf of its own', () => {
    const d = emptyDraft()
    beginAs(d, 'clump')
    addNode(d, 60)
    expect(d.nodes[0]!.leaf).toBe(false)
  })
})
