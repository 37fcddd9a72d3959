import type { MappedStem, Mother } from '@/api/client'

import type { XY } from './geometry'

/** A mother as she stands: mm, her pot's rim at y = 0, up is negative. */
export interface StandingNode extends XY {
  n: number
  side: 1 | -1
  leaf: boolean
  aerial: boolean
  gone: boolean
  patterned: boolean
}
export interface StandingStem {
  id: string
  letter: string
  line: XY[]
  ghost: XY[]
  nodes: StandingNode[]
  thickness: number
  tip: boolean
  /** Degrees from upright. */
  lean: number
  creeping: boolean
}

const spacing = 70

/** Lays a mother's stems out: upright from the pot and leaning apart; creeping ones along the soil; shoots from their node. */
export function plantOf(mother: Mother): StandingStem[] {
  const own = mother.stems.filter((s) => s.organ !== 'leaf')
  const rooted = own.filter((s) => !s.map.sprang)
  const out = new Map<string, StandingStem>()
  const creeping = (s: MappedStem) => s.organ === 'rhizome' || s.organ === 'runner'
  own.forEach((s) => {
    const i = rooted.indexOf(s)
    const parent = s.map.sprang ? out.get(s.map.sprang.letter) : undefined
    const at = parent?.nodes.find((n) => n.n === s.map.sprang?.node)
    const lies = creeping(s)
    const from = at
      ? { x: at.x, y: at.y }
      : lies
        ? { x: -mapLength(s) / 2, y: -10 - s.map.thickness_mm / 2 - i * 16 }
        : { x: (i - (rooted.length - 1) / 2) * spacing, y: 0 }
    const lean = at ? at.side * 26 : lies ? 90 : (i - (rooted.length - 1) / 2) * 9
    const stem = standing(s, from, lean, mother.pattern !== 'plain', lies)
    out.set(s.letter, stem)
  })
  return [...out.values()]
}

const mapLength = (s: MappedStem) => s.map.nodes.reduce((sum, n) => sum + n.below_mm, 0) + s.map.beyond_mm

function standing(s: MappedStem, from: XY, lean: number, patterned: boolean, creeping: boolean): StandingStem {
  const rad = (lean * Math.PI) / 180
  const place = (mm: number): XY => ({ x: from.x + Math.sin(rad) * mm, y: from.y - Math.cos(rad) * mm })
  let at = 0
  const nodes = s.map.nodes.map((node, i): StandingNode & { at: number } => {
    at += node.below_mm
    return {
      ...place(at),
      at,
      n: i + 1,
      // Leaves of a creeping stem all stand up.
      side: creeping || i % 2 ? -1 : 1,
      leaf: node.leaf,
      aerial: node.aerial_root,
      gone: i + 1 > s.standing,
      patterned: patterned && node.stripe !== 'none',
    }
  })
  const whole = at + s.map.beyond_mm
  const end = s.end_mm
  return {
    id: s.id,
    letter: s.letter,
    line: [from, place(end)],
    ghost: end < whole ? [place(end), place(whole)] : [],
    nodes,
    thickness: s.map.thickness_mm,
    tip: s.map.tip_intact && end === whole,
    lean,
    creeping,
  }
}

export const leafOf = (s: StandingStem): number => Math.min(58, Math.max(34, s.thickness * 6))

/** Where a leaf's tip is, for the box of the drawing. */
function leafTip(s: StandingStem, n: StandingNode): XY {
  const a = ((n.side > 0 ? -22 : -158) * Math.PI) / 180
  const x = n.side * (s.thickness / 2 + 16) + Math.cos(a) * leafOf(s)
  const y = -15 + Math.sin(a) * leafOf(s)
  const r = (s.lean * Math.PI) / 180
  return { x: n.x + x * Math.cos(r) - y * Math.sin(r), y: n.y + x * Math.sin(r) + y * Math.cos(r) }
}

export const potDepth = 70
/** Half the width of the pot's rim: a creeping plant has a trough. */
export const potHalf = (stems: StandingStem[]): number =>
  Math.max(64, ...stems.filter((s) => s.creeping).map((s) => Math.max(...[...s.line, ...s.ghost].map((p) => Math.abs(p.x))) + 14))

/** The box that holds a whole plant with its pot. */
export function plantBox(stems: StandingStem[], ghosts: boolean): { x: number; y: number; w: number; h: number } {
  const half = potHalf(stems)
  const xs = [-half, half]
  const ys = [-20, potDepth]
  for (const s of stems) {
    const points = [...s.line, ...(ghosts ? s.ghost : []), ...s.nodes.filter((n) => n.leaf && !n.gone).map((n) => leafTip(s, n))]
    xs.push(...points.map((p) => p.x))
    ys.push(...points.map((p) => p.y))
  }
  const margin = 14
  const x = Math.min(...xs) - margin
  const y = Math.min(...ys) - margin
  return { x, y, w: Math.max(...xs) + margin - x, h: potDepth + 4 - y }
}
