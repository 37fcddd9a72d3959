import type { Root, StemNode } from '@/api/client'

/**
 * Pure geometry of the to-scale drawings: mm in, mm out. The base of a piece is the
 * origin; y points down, as in SVG, so a stem rises into negative y.
 */
export interface XY {
  x: number
  y: number
}

/** What there is to draw of one piece. */
export interface Piece {
  id: string
  nodes: StemNode[]
  belowMm: number
  aboveMm: number
  thicknessMm: number
  tip: boolean
  setNodes: number
  /** Node numbers, 1 at the base, whose leaf was taken off. */
  strip: number[]
  roots: Root[]
  buds: { node: number; bud: string }[]
  rotMm: number
  /** Young plants counted on it, by the number of the growing point. */
  young?: { node: number; count: number }[]
  patterned: boolean
  /** Kind of piece; left out for pieces of a stem. */
  kind?: string
  /** How it stands or lies; left out for upright. */
  pose?: Pose
  /** The number of its lowest node that is left; more than 1 after it was cut back. */
  lowest?: number
}

export type Pose = 'upright' | 'stalk' | 'on_top' | 'lying' | 'flat' | 'half_buried' | 'crown' | 'perched' | 'hanging'

/** Pieces that lie along the surface of their medium. */
export const lies = (p: Piece): boolean => p.pose === 'lying' || p.pose === 'flat' || p.pose === 'on_top'

/** The stalk of a leaf that is set by it: this much of it is below the surface, mm. */
const stalkIn = 9
/** How a stalk leans, radians from upright: nearly flat. */
export const stalkLean = 0.95

/** Walls that roots turn along: x from left to right, y down to the floor. */
export interface Walls {
  left: number
  right: number
  floor: number
}

/** A small generator with a seed, so that a drawing looks the same every time. */
export function seeded(text: string): () => number {
  let s = 2166136261
  for (const ch of text) s = Math.imul(s ^ ch.charCodeAt(0), 16777619)
  return () => {
    s = Math.imul(s ^ (s >>> 15), 2246822519)
    s = Math.imul(s ^ (s >>> 13), 3266489917)
    s ^= s >>> 16
    return (s >>> 0) / 4294967296
  }
}

/** Distance of node n (1 at the base) from the base of the piece. */
export function nodeAt(p: Piece, n: number): number {
  let sum = p.belowMm
  for (let i = 1; i < n && i < p.nodes.length; i++) sum += p.nodes[i]?.below_mm ?? 0
  return sum
}

export const stemLength = (p: Piece): number => (p.nodes.length ? nodeAt(p, p.nodes.length) : p.belowMm) + p.aboveMm
export const leafLength = (p: Piece): number => Math.min(58, Math.max(34, p.thicknessMm * 6))

/** The place of what is so many mm along the piece from its base. */
export function along(p: Piece, mm: number): XY {
  if (lies(p)) return { x: mm - stemLength(p) / 2, y: 0 }
  if (p.pose === 'crown' || p.pose === 'perched') return { x: 0, y: 0 }
  return { x: 0, y: -mm }
}

/** How high a dome over a rim of such a width rises, mm. */
export const domeRise = (shape: string, width: number): number => width * (shape === 'saucer' ? 0.6 : 0.95)

/** How high the leaves of a crown stand, mm: a young plant is small. */
export const crownHeight = (p: Piece): number =>
  p.kind === 'plantlet' || p.kind === 'head' ? 30 : Math.max(70, Math.min(140, stemLength(p)))

/** How high the drawing rises above the base, leaves and all, when its blades stand clear of the medium. */
export function rises(p: Piece, clear = 0): number {
  if (p.pose === 'stalk') return leafPieceLength(p) * 0.8 + 22
  if (p.pose === 'on_top') return 16
  if (p.pose === 'crown' || p.pose === 'perched') return crownHeight(p) + 6
  if (p.pose === 'hanging') return clear + 44
  if (lies(p)) return leafLength(p) * 1.2 + 26
  let top = p.kind === 'leaf' ? leafPieceLength(p) : stemLength(p)
  p.nodes.forEach((node, i) => {
    if (hasLeaf(p, i + 1) && node.leaf)
      top = Math.max(top, nodeAt(p, i + 1) + leafLength(p) * 1.05, clear + 6 + leafLength(p) * 0.7)
  })
  return top + 4
}

/** A leaf piece is drawn at its length, within what a leaf can be. */
export const leafPieceLength = (p: Piece): number => Math.min(140, Math.max(36, stemLength(p)))

export const hasLeaf = (p: Piece, n: number): boolean => (p.nodes[n - 1]?.leaf ?? false) && !p.strip.includes(n)
export const side = (n: number): 1 | -1 => (n % 2 ? 1 : -1)

/** The bud at a node: as last seen, else as mapped. */
export const budAt = (p: Piece, n: number): string => p.buds.find((b) => b.node === n)?.bud ?? p.nodes[n - 1]?.bud ?? 'dormant'

const step = 2.5

/**
 * A root of exactly `length` mm from `from`, starting at `angle` (radians, 0 to the right,
 * growing clockwise), bending downward and turning along the walls.
 */
export function rootLine(from: XY, length: number, angle: number, random: () => number, walls?: Walls): XY[] {
  const line: XY[] = [from]
  let { x, y } = from
  let a = angle
  for (let left = length; left > 1e-6; left -= step) {
    const d = Math.min(step, left)
    a += (random() - 0.5) * 0.36 + (Math.PI / 2 - a) * 0.055
    let nx = x + Math.cos(a) * d
    let ny = y + Math.sin(a) * d
    if (walls) {
      if (ny > walls.floor) {
        a = Math.cos(a) >= 0 ? 0 : Math.PI
        nx = x + Math.cos(a) * d
        ny = y
      }
      if (nx < walls.left || nx > walls.right) {
        a = y > walls.floor - 3 ? Math.PI - a : Math.PI / 2
        nx = x + Math.cos(a) * d
        ny = Math.min(y + Math.sin(a) * d, walls.floor)
        if (ny - y < d * 0.5 && Math.abs(nx - x) < d * 0.5) nx = x + (nx < (walls.left + walls.right) / 2 ? d : -d)
      }
    }
    x = nx
    y = ny
    line.push({ x, y })
  }
  return line
}

export interface DrawnRoot {
  root: Root
  line: XY[]
  tip: XY
}

/** Lays out every root of a piece: first-order ones from their nodes, side roots along them. */
export function drawnRoots(p: Piece, walls?: Walls): DrawnRoot[] {
  const random = seeded(p.id)
  const first: DrawnRoot[] = []
  const out: DrawnRoot[] = []
  const perNode = new Map<number, number>()
  for (const root of p.roots.filter((r) => r.order === 1)) {
    const nth = perNode.get(root.node) ?? 0
    perNode.set(root.node, nth + 1)
    const s = nth % 2 ? -1 : 1
    const at = along(p, nodeAt(p, root.node))
    const from =
      lies(p) || p.pose === 'crown' || p.pose === 'perched' || p.kind === 'leaf'
        ? { x: at.x + s * 2, y: at.y + 2 }
        : { x: (s * p.thicknessMm) / 2, y: at.y }
    const angle = Math.PI / 2 - s * (0.5 + random() * 0.75)
    const line = rootLine(from, root.length_mm, angle, random, walls)
    first.push({ root, line, tip: line.at(-1) ?? from })
  }
  out.push(...first)
  p.roots
    .filter((r) => r.order === 2)
    .forEach((root, i) => {
      const own = first.filter((f) => f.root.node === root.node)
      const parent = (own.length ? own : first)[i % Math.max(1, own.length || first.length)]
      if (!parent) return
      const from = parent.line[Math.floor(parent.line.length * (0.25 + 0.5 * random()))] ?? parent.tip
      const line = rootLine(from, root.length_mm, Math.PI / 2 + (random() - 0.5) * 2.6, random, walls)
      out.unshift({ root, line, tip: line.at(-1) ?? from })
    })
  return out
}

export const svgLine = (line: XY[]): string => line.map((p, i) => `${i ? 'L' : 'M'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join('')

/** A leaf blade lying along +x from the origin, `length` mm long. */
export function leafBlade(length: number): string {
  const w = length * 0.36
  const f = (n: number) => n.toFixed(1)
  return `M0 0C${f(length * 0.02)} ${f(-w)} ${f(length * 0.5)} ${f(-w * 0.95)} ${f(length)} 0C${f(length * 0.55)} ${f(w * 0.9)} ${f(length * 0.06)} ${f(w)} 0 0Z`
}

export function leafPattern(length: number): string {
  const w = length * 0.36
  const f = (n: number) => n.toFixed(1)
  return `M${f(length * 0.1)} ${f(-w * 0.1)}C${f(length * 0.3)} ${f(-w * 0.75)} ${f(length * 0.55)} ${f(-w * 0.6)} ${f(length * 0.9)} ${f(-w * 0.06)}C${f(length * 0.55)} ${f(-w * 0.25)} ${f(length * 0.35)} ${f(-w * 0.12)} ${f(length * 0.1)} ${f(-w * 0.1)}Z`
}

export const rootPaint: Record<string, { fill: string; line: string }> = {
  white: { fill: '#fffdf6', line: '#8f8463' },
  cream: { fill: '#f3e7c3', line: '#8f7a45' },
  pink: { fill: '#efc0bb', line: '#96605a' },
  tan: { fill: '#d2a868', line: '#7d5c2b' },
  orange: { fill: '#dd8a37', line: '#8a4d12' },
  brown: { fill: '#74492c', line: '#40240f' },
  black: { fill: '#3a322c', line: '#12100e' },
}

/** How far above the inner floor a piece's base stands, so that its set nodes are in the medium. */
export function baseHeight(p: Piece, fillMm: number): number {
  if (p.pose === 'stalk') return Math.max(2, fillMm - stalkIn)
  if (p.pose === 'on_top') return fillMm + 3
  if (p.pose === 'lying') return fillMm
  if (p.pose === 'flat') return Math.max(2, fillMm - 10)
  if (p.pose === 'half_buried') return Math.max(2, fillMm - stemLength(p) / 2)
  if (p.pose === 'crown') return Math.max(2, fillMm - 4)
  if (p.pose === 'perched') return fillMm + 2
  if (p.kind === 'leaf') return Math.max(2, fillMm - 25)
  const top = p.nodes.length ? nodeAt(p, Math.max(1, Math.min(p.setNodes, p.nodes.length))) : 0
  return Math.max(2, fillMm - 7 - top)
}
