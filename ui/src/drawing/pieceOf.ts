import type { Cutting } from '@/api/client'

import type { Piece } from './geometry'

/** The drawing of a cutting as it was last seen: what was cut back is gone, and its nodes count from what is left. */
export function pieceOf(c: Cutting): Piece {
  const gone = Math.min(c.gone_nodes, c.nodes.length - 1)
  const cutAway = c.nodes.slice(1, gone + 1).reduce((sum, n) => sum + n.below_mm, 0)
  return {
    id: c.id,
    nodes: c.nodes.slice(gone),
    belowMm: Math.max(3, c.piece.below_mm + cutAway - c.gone_mm),
    aboveMm: c.piece.above_mm,
    thicknessMm: c.thickness_mm,
    kind: c.kind,
    pose: c.pose,
    lowest: gone + 1,
    tip: c.kind === 'tip',
    setNodes: c.set_nodes || Math.max(1, c.piece.set - gone),
    strip: c.piece.strip.map((n) => n - c.piece.first + 1 - gone).filter((n) => n > 0),
    roots: c.seen.roots.map((r) => ({ ...r, node: Math.max(1, r.node - gone) })),
    buds: c.seen.buds.map((b) => ({ ...b, node: b.node - gone })).filter((b) => b.node > 0),
    rotMm: c.seen.rot_mm ?? 0,
    patterned: c.pattern !== 'plain',
  }
}
