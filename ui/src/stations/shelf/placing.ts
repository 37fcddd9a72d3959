import type { Cutting, Vessel } from '@/api/client'
import { baseHeight, domeRise, hasLeaf, rises, side, type Piece, type Walls } from '@/drawing/geometry'
import { pieceOf } from '@/drawing/pieceOf'

export interface Placed {
  cutting: Cutting
  piece: Piece
  /** Of its base: mm right of the vessel's middle, and above the shelf. */
  x: number
  up: number
  walls: Walls
  /** Above its base, where the medium ends. */
  clear: number
  /** Turned about, so that its shoot points the way it was set. */
  flip: boolean
}

/**
 * Where each cutting stands in its vessel, or in its pot, side by side: held so that the nodes that were set are in. Or,
 * where that is asked for, standing on the floor: then a node above the water shows, and a blade under it.
 */
export function placedIn(vessel: Vessel | undefined, cuttings: Cutting[], onFloor = false): Placed[] {
  const floor = vessel?.floor_mm ?? 2
  return inDepth(cuttings).map((cutting, i) => {
    const piece = pieceOf(cutting)
    const inner = (vessel?.width_mm ?? cutting.pot?.top_mm ?? 90) * (vessel?.taper ?? 1)
    const stand = vessel ? undefined : cutting.stand
    const beside = cuttings.length > 1 ? (inner * 0.86 * (i + 0.5)) / cuttings.length - inner * 0.43 : 0
    const half = (vessel ? inner : (cutting.pot?.bottom_mm ?? 60)) / 2 - 2.5
    const x = stand?.x_mm ?? beside
    const up = vessel
      ? floor + (onFloor && (piece.pose ?? 'upright') === 'upright' ? 1 : baseHeight(piece, vessel.fill_mm))
      : stand?.bury_mm
        ? Math.max(2, (cutting.pot?.depth_mm ?? 80) - 10 - stand.bury_mm)
        : Math.max(12, baseHeight(piece, (cutting.pot?.depth_mm ?? 80) - 12))
    const surface = vessel ? floor + vessel.fill_mm : (cutting.pot?.depth_mm ?? 80) - 8
    const left = Math.min(-half - x, -4)
    const right = Math.max(half - x, 4)
    const flip = stand !== undefined && Math.abs(stand.degrees) !== 90 && leansRight(piece) !== Math.abs(stand.degrees) < 90
    return {
      flip,
      cutting,
      piece,
      x,
      up,
      clear: Math.max(0, surface - up),
      walls: { left: flip ? -right : left, right: flip ? -left : right, floor: up - floor - 2 },
    }
  })
}

/** Whether its uppermost leaf is drawn to the right. */
function leansRight(piece: Piece): boolean {
  for (let n = piece.nodes.length; n > 0; n--) if (hasLeaf(piece, n)) return side(n) > 0
  return side(piece.nodes.length) > 0
}

/** In a pot, those at the back first. */
const inDepth = (cuttings: Cutting[]) =>
  cuttings.some((c) => c.stand) ? [...cuttings].sort((a, b) => (b.stand?.y_mm ?? 0) - (a.stand?.y_mm ?? 0)) : cuttings

const domed = (v: Vessel) => (v.shape === 'pot' || v.shape === 'saucer') && (v.cover ?? v.cover_usual) !== 'off'

/** How high a vessel and what stands in it reach above the shelf, in mm. */
export function reach(vessel: Vessel | undefined, cuttings: Cutting[], onFloor = false): number {
  const own = vessel
    ? vessel.height_mm + (domed(vessel) ? domeRise(vessel.shape, vessel.width_mm) + 4 : 12)
    : (cuttings[0]?.pot?.depth_mm ?? 80)
  return Math.max(own, ...placedIn(vessel, cuttings, onFloor).map((p) => p.up + rises(p.piece, p.clear))) + 4
}
