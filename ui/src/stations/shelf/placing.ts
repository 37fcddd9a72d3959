import type { Cutting, Vessel } from '@/api/client'
import { baseHeight, domeRise, rises, type Piece, type Walls } from '@/drawing/geometry'
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
}

/**
 * Where each cutting stands in its vessel, or in its pot, side by side: held so that the nodes that were set are in. Or,
 * where that is asked for, standing on the floor: then a node above the water shows, and a blade under it.
 */
export function placedIn(vessel: Vessel | undefined, cuttings: Cutting[], onFloor = false): Placed[] {
  const floor = vessel?.floor_mm ?? 2
  return cuttings.map((cutting, i) => {
    const piece = pieceOf(cutting)
    const inner = (vessel?.width_mm ?? cutting.pot?.top_mm ?? 90) * (vessel?.taper ?? 1)
    const x = cuttings.length > 1 ? (inner * 0.86 * (i + 0.5)) / cuttings.length - inner * 0.43 : 0
    const up = vessel
      ? floor + (onFloor && (piece.pose ?? 'upright') === 'upright' ? 1 : baseHeight(piece, vessel.fill_mm))
      : Math.max(12, baseHeight(piece, (cutting.pot?.depth_mm ?? 80) - 12))
    const half = inner / 2 - 2.5
    const surface = vessel ? floor + vessel.fill_mm : (cutting.pot?.depth_mm ?? 80) - 8
    return {
      cutting,
      piece,
      x,
      up,
      clear: Math.max(0, surface - up),
      walls: { left: -half - x, right: half - x, floor: up - floor - 2 },
    }
  })
}

const domed = (v: Vessel) => (v.shape === 'pot' || v.shape === 'saucer') && (v.cover ?? v.cover_usual) !== 'off'

/** How high a vessel and what stands in it reach above the shelf, in mm. */
export function reach(vessel: Vessel | undefined, cuttings: Cutting[], onFloor = false): number {
  const own = vessel
    ? vessel.height_mm + (domed(vessel) ? domeRise(vessel.shape, vessel.width_mm) + 4 : 12)
    : (cuttings[0]?.pot?.depth_mm ?? 80)
  return Math.max(own, ...placedIn(vessel, cuttings, onFloor).map((p) => p.up + rises(p.piece, p.clear))) + 4
}
