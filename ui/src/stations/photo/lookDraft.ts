import type { Look, Root, Schemas } from '@/api/client'

export interface Pt {
  x: number
  y: number
}

/** What taps on the photo do: mark nodes, tap roots, set the two points of a scale, or draw a line by hand. */
export type BoardMode = 'nodes' | 'roots' | 'scale' | 'trace'

export type RootColour = NonNullable<Root['colour']>

/** A root in the making: traced on the photo, or with a typed length. */
export interface DraftRoot {
  key: string
  node: number
  order: 1 | 2
  colour: NonNullable<Root['colour']> | ''
  path: Pt[]
  /** Its length is typed rather than traced; until it is, there is none. */
  typed: boolean
  typedMm: number | null
  /** What it was typed from; a ruler, unless said otherwise. */
  with?: 'ruler' | 'eye'
  /** The tap it was followed from, and the points it must pass. */
  tap?: { tip: Pt; pass: Pt[] }
  /** What is to be checked about it. */
  says?: string[]
  /** A length that was kept earlier and is not to be measured anew. */
  known?: { length_mm: number; low_mm: number; high_mm: number; how: Root['how'] }
}

export interface LookDraft {
  replaces?: string
  photo?: Schemas['Photo']
  lookedOn: string
  scale: { a?: Pt; b?: Pt; distanceMm: number | null }
  /** Where the nodes are on the photo. */
  nodesAt?: Record<number, Pt>
  /** When the look was that the nodes were carried over from. */
  carried?: string | undefined
  /** The edges of the vessel, where they were dragged. */
  edges?: { left: Schemas['Stroke']; right: Schemas['Stroke'] }
  /** Where the water's surface meets the left edge, where the grower set it. */
  waterY?: number | undefined
  /** What lengths rest on where the photo measures itself. */
  sight?: Schemas['Sight']
  /** The colour of most of its roots, where the grower said it. */
  rootsAre?: RootColour
  /** Tips of proposals that are no roots. */
  left?: Pt[]
  counted: boolean
  roots: DraftRoot[]
  buds: Record<number, string>
  /** Young plants counted at each growing point. */
  plantlets?: Record<number, number>
  stem?: Look['stem']
  rotMm: number | null
  root_feel?: Look['root_feel']
  tug?: Look['tug']
  leaf?: Look['leaf']
  water?: Look['water']
  crowding?: Look['crowding']
  note: string
}

export const emptyLook = (lookedOn: string): LookDraft => ({
  lookedOn,
  scale: { distanceMm: null },
  counted: false,
  roots: [],
  buds: {},
  rotMm: null,
  note: '',
})

let made = 0
export const rootKey = (): string => `r${Date.now()}-${made++}`

/** Opens a look that was kept, to correct it: the correction replaces it, the earlier one stays. */
export function reopened(look: Schemas['LookView'], lookedOn: string): LookDraft {
  const s = look.seen
  const buds: Record<number, string> = {}
  for (const b of s.buds) buds[b.node] = b.bud
  return {
    ...emptyLook(lookedOn),
    replaces: look.id,
    ...(look.photo ? { photo: look.photo } : {}),
    scale: s.scale ? { a: s.scale.a, b: s.scale.b, distanceMm: s.scale.distance_mm } : { distanceMm: null },
    ...(s.sight
      ? {
          sight: s.sight,
          nodesAt: Object.fromEntries(s.sight.nodes.map((n) => [n.node, n.at])),
          ...(s.sight.water_y === undefined ? {} : { waterY: s.sight.water_y }),
          ...(s.sight.dragged && s.sight.left && s.sight.right ? { edges: { left: s.sight.left, right: s.sight.right } } : {}),
        }
      : {}),
    counted: s.roots_counted,
    roots: s.roots.map((r) => ({
      key: rootKey(),
      node: r.node,
      order: r.order === 2 ? 2 : 1,
      colour: r.colour ?? '',
      path: r.path ?? [],
      typed: r.how === 'typed',
      typedMm: r.how === 'typed' ? r.length_mm : null,
      ...(r.with ? { with: r.with } : {}),
      ...(r.how !== 'truth' ? {} : { known: { length_mm: r.length_mm, low_mm: r.low_mm, high_mm: r.high_mm, how: r.how } }),
    })),
    buds,
    plantlets: Object.fromEntries((s.plantlets ?? []).map((y) => [y.node, y.count])),
    stem: s.stem,
    rotMm: s.rot_mm ?? null,
    root_feel: s.root_feel,
    tug: s.tug,
    leaf: s.leaf,
    water: s.water,
    crowding: s.crowding,
    note: s.note ?? '',
  }
}

export type Lengths = Map<string, { length_mm: number; low_mm: number; high_mm: number }>

/** Two points a known distance apart are set on the photo. */
export const twoPoints = ({ scale: { a, b, distanceMm } }: LookDraft): boolean =>
  Boolean(a && b && distanceMm !== null && Number(distanceMm) > 0)

/** The photo has a scale, so that its lines can be measured: two points that were set, or what it gives itself. */
export const scaled = (d: LookDraft): boolean => twoPoints(d) || Boolean(d.sight)

/** Rows whose length was to be typed and was not. */
export const untyped = (d: LookDraft): number => d.roots.filter((r) => r.typed && (r.typedMm === null || !(r.typedMm > 0))).length

/** The look as it is sent: lines where traced, typed lengths where typed. Intervals and lengths of lines are worked out where it is kept. */
export function lookOf(d: LookDraft, nodes: number): Look {
  const roots: Root[] = []
  for (const r of d.roots) {
    const base = { node: Math.min(r.node, nodes), order: r.order, ...(r.colour ? { colour: r.colour } : {}) }
    if (r.known && (!r.typed || r.typedMm === r.known.length_mm)) {
      roots.push({ ...base, ...r.known, ...(r.path.length > 1 ? { path: r.path } : {}) })
    } else if (r.typed) {
      // Nothing is recorded that was not entered.
      if (r.typedMm === null || !(r.typedMm > 0)) continue
      roots.push({ ...base, length_mm: r.typedMm, low_mm: 0, high_mm: 0, how: 'typed', ...(r.with ? { with: r.with } : {}) })
    } else if (scaled(d) && r.path.length > 1) {
      roots.push({ ...base, length_mm: 0, low_mm: 0, high_mm: 0, path: r.path, how: 'traced' })
    }
  }
  const { a, b, distanceMm } = d.scale
  return {
    roots_counted: d.counted || roots.length > 0,
    roots,
    buds: Object.entries(d.buds).map(([node, bud]) => ({ node: Number(node), bud: bud as 'dormant' })),
    note: d.note,
    ...(Object.keys(d.plantlets ?? {}).length
      ? { plantlets: Object.entries(d.plantlets ?? {}).map(([node, n]) => ({ node: Number(node), count: n })) }
      : {}),
    ...(a && b && distanceMm ? { scale: { a, b, distance_mm: distanceMm } } : {}),
    ...(d.sight && !twoPoints(d) ? { sight: d.sight } : {}),
    ...(d.stem ? { stem: d.stem } : {}),
    ...(d.rotMm ? { rot_mm: d.rotMm } : {}),
    ...(d.root_feel ? { root_feel: d.root_feel } : {}),
    ...(d.tug ? { tug: d.tug } : {}),
    ...(d.leaf ? { leaf: d.leaf } : {}),
    ...(d.water ? { water: d.water } : {}),
    ...(d.crowding ? { crowding: d.crowding } : {}),
  }
}
