import type { Cutting } from '@/api/client'

import type { Piece } from './geometry'

/** The drawing of a cutting as it was last seen: what was cut back is gone, and its nodes count from what is left. */
export function pieceOf(c: Cutting): Piece {
  const gone = Math.min(c.gone_nodes, c.nodes.length - 1)
  // What was parted from it took growing points along; those that are left count from 1 again.
  const left = c.nodes.map((_, i) => i + 1).filter((n) => n > gone && !c.taken.includes(n))
  const now = (n: number) => Math.max(1, left.indexOf(n) + 1)
  const parted = c.taken.some((n) => n > gone)
  const cutAway = c.nodes.slice(1, gone + 1).reduce((sum, n) => sum + n.below_mm, 0)
  return {
    id: c.id,
    nodes: left.flatMap((n) => c.nodes[n - 1] ?? []),
    belowMm: Math.max(3, c.piece.below_mm + cutAway - c.gone_mm),
    aboveMm: c.piece.above_mm,
    thicknessMm: c.thickness_mm,
    kind: c.kind,
    pose: c.pose,
    lowest: gone + 1,
    tip: c.kind === 'tip' && !parted,
    setNodes: c.set_nodes || Math.max(1, c.piece.set - gone),
    strip: c.piece.strip.map((n) => left.indexOf(n - c.piece.first + 1) + 1).filter((n) => n > 0),
    roots: c.seen.roots.map((r) => ({ ...r, node: now(r.node) })),
    buds: c.seen.buds.map((b) => ({ ...b, node: left.indexOf(b.node) + 1 })).filter((b) => b.node > 0),
    young: c.seen.plantlets ?? [],
    rotMm: c.seen.rot_mm ?? 0,
    patterned: c.pattern !== 'plain',
  }
}
