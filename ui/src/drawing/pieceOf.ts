import type { Cutting } from '@/api/client'

import type { Piece } from './geometry'

/** The drawing of a cutting as it was last seen. */
export const pieceOf = (c: Cutting): Piece => ({
  id: c.id,
  nodes: c.nodes,
  belowMm: c.piece.below_mm,
  aboveMm: c.piece.above_mm,
  thicknessMm: c.thickness_mm,
  kind: c.kind,
  tip: c.kind === 'tip',
  setNodes: c.set_nodes || c.piece.set,
  strip: c.piece.strip.map((n) => n - c.piece.first + 1),
  roots: c.seen.roots,
  buds: c.seen.buds,
  rotMm: c.seen.rot_mm ?? 0,
  patterned: c.pattern !== 'plain',
})
