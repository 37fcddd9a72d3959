import type { Stem, StemNode } from '@/api/client'

/** A stem while it is being mapped: nodes at places in mm from the base, which is how one drags them. */
type Rest<T, K extends keyof T> = Omit<T, K>

/** A node as in the map, but at a place rather than with an internode. */
export interface DraftNode extends Rest<StemNode, 'below_mm'> {
  at: number
}

export interface StemDraft {
  nodes: DraftNode[]
  lengthMm: number
  thicknessMm: number
  tipIntact: boolean
  organ: NonNullable<Stem['organ']>
  form?: Stem['form']
  wood?: Stem['wood']
  sprang?: Stem['sprang']
}

export const emptyDraft = (): StemDraft => ({ nodes: [], lengthMm: 300, thicknessMm: 8, tipIntact: true, organ: 'stem' })

export function draftOf(stem: Stem): StemDraft {
  let at = 0
  const nodes = stem.nodes.map(({ below_mm, ...node }) => ({ ...node, at: (at += below_mm) }))
  return {
    nodes,
    lengthMm: at + stem.beyond_mm,
    thicknessMm: stem.thickness_mm,
    tipIntact: stem.tip_intact,
    organ: stem.organ ?? 'stem',
    form: stem.form,
    wood: stem.wood,
    sprang: stem.sprang,
  }
}

export function stemOf(d: StemDraft): Stem {
  let before = 0
  const nodes = d.nodes.map(({ at, ...node }): StemNode => {
    const below_mm = round(at - before)
    before = at
    return { ...node, below_mm }
  })
  return {
    nodes,
    beyond_mm: Math.max(0, round(d.lengthMm - before)),
    thickness_mm: d.thicknessMm,
    tip_intact: d.tipIntact,
    ...(d.organ === 'stem' ? {} : { organ: d.organ }),
    ...(d.organ === 'leaf' ? { form: d.form ?? 'whole' } : {}),
    ...(d.wood ? { wood: d.wood } : {}),
    ...(d.sprang ? { sprang: d.sprang } : {}),
  }
}

/** How a new map of each organ begins. */
export function beginAs(d: StemDraft, organ: StemDraft['organ']): void {
  const was = d.organ
  d.organ = organ
  if (organ !== 'leaf') d.form = undefined
  if (organ === 'leaf' || was === 'leaf') d.nodes = []
  if (d.nodes.length) return
  const usual = {
    stem: [300, 8],
    rhizome: [250, 14],
    runner: [300, 3],
    clump: [240, 20],
    pups: [200, 18],
    back_rhizome: [200, 14],
    tuber: [40, 30],
    leaf: [180, 12],
  } as const
  ;[d.lengthMm, d.thicknessMm] = usual[organ]
  d.tipIntact = organ === 'stem' || organ === 'rhizome'
  // A leaf has its growing point without being asked: its base.
  if (organ === 'leaf') divideLeaf(d, 'whole', 1, 1)
}

/** Lays a leaf's growing points for the way it is divided: into so many parts, or, where parts is 0, so many pieces of equal length. */
export function divideLeaf(d: StemDraft, form: NonNullable<Stem['form']>, pieces: number, parts: number): void {
  d.form = form
  const n = parts || Math.max(2, pieces)
  d.nodes = Array.from({ length: n }, (_, i) => ({
    // Whole and pulled leaves grow from their very base.
    at: n === 1 ? least : round((d.lengthMm * (i + 0.5)) / n),
    leaf: false,
    aerial_root: false,
    bud: 'dormant' as const,
  }))
}

/** Gives the whole a length; the growing points of a leaf move with it, none is lost. */
export function setLength(d: StemDraft, mm: number): void {
  if (!Number.isFinite(mm) || mm <= 0) return
  d.lengthMm = mm
  if (d.organ === 'leaf') divideLeaf(d, d.form ?? 'whole', d.nodes.length, d.nodes.length)
  else d.lengthMm = Math.max(mm, d.nodes.at(-1)?.at ?? 0)
}

export const round = (v: number): number => Math.round(v * 10) / 10

/** Nodes keep at least this distance while they are dragged, so that they cannot pass each other. */
export const least = 1

/** Moves node i to a place between its neighbours. */
export function moveNode(d: StemDraft, i: number, to: number): void {
  const node = d.nodes[i]
  if (!node) return
  const low = (d.nodes[i - 1]?.at ?? 0) + least
  const high = (d.nodes[i + 1]?.at ?? d.lengthMm + least) - least
  node.at = round(Math.min(Math.max(to, low), high))
}

/** Gives node i an internode of `mm` below it; everything above moves along, as on a real stem. */
export function setInternode(d: StemDraft, i: number, mm: number): void {
  const node = d.nodes[i]
  if (!node || !Number.isFinite(mm)) return
  const shift = mm - (node.at - (d.nodes[i - 1]?.at ?? 0))
  for (const n of d.nodes.slice(i)) n.at = round(n.at + shift)
  d.lengthMm = round(d.lengthMm + shift)
}

/** Adds a node at a place; gives its index, or -1 when the place is taken. */
export function addNode(d: StemDraft, at: number): number {
  if (d.nodes.some((n) => Math.abs(n.at - at) < least) || at < least) return -1
  const leafy = d.organ === 'stem' || d.organ === 'rhizome'
  const node: DraftNode = { at: round(at), leaf: leafy, aerial_root: false, bud: 'dormant' }
  d.nodes.push(node)
  d.nodes.sort((a, b) => a.at - b.at)
  if (at > d.lengthMm) d.lengthMm = round(at)
  return d.nodes.findIndex((n) => n.at === node.at)
}
