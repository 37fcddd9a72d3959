import type { Stem } from '@/api/client'

/** A stem while it is being mapped: nodes at places in mm from the base, which is how one drags them. */
export interface DraftNode {
  at: number
  leaf: boolean
  aerial_root: boolean
  bud: 'dormant' | 'swelling' | 'shooting' | 'leaf_open'
}

export interface StemDraft {
  nodes: DraftNode[]
  lengthMm: number
  thicknessMm: number
  tipIntact: boolean
}

export const emptyDraft = (): StemDraft => ({ nodes: [], lengthMm: 300, thicknessMm: 8, tipIntact: true })

export function draftOf(stem: Stem): StemDraft {
  let at = 0
  const nodes = stem.nodes.map(({ below_mm, leaf, aerial_root, bud }) => ({ at: (at += below_mm), leaf, aerial_root, bud }))
  return { nodes, lengthMm: at + stem.beyond_mm, thicknessMm: stem.thickness_mm, tipIntact: stem.tip_intact }
}

export function stemOf(d: StemDraft): Stem {
  let before = 0
  const nodes = d.nodes.map(({ at, leaf, aerial_root, bud }) => {
    const below_mm = round(at - before)
    before = at
    return { below_mm, leaf, aerial_root, bud }
  })
  return { nodes, beyond_mm: Math.max(0, round(d.lengthMm - before)), thickness_mm: d.thicknessMm, tip_intact: d.tipIntact }
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
  const node: DraftNode = { at: round(at), leaf: true, aerial_root: false, bud: 'dormant' }
  d.nodes.push(node)
  d.nodes.sort((a, b) => a.at - b.at)
  if (at > d.lengthMm) d.lengthMm = round(at)
  return d.nodes.findIndex((n) => n.at === node.at)
}
