/** How pieces are spread over several vessels: in turn, for a comparison; or the first ones here, the next ones there. */
export type Spread = 'turn' | 'blocks'

/** Which vessel each piece goes into, by its place in the list; every vessel gets its even share, the first ones one more. */
export function spreadOver(pieces: number, vessels: number, how: Spread): number[] {
  if (vessels < 1) return []
  if (how === 'turn') return Array.from({ length: pieces }, (_, i) => i % vessels)
  const each = Math.floor(pieces / vessels)
  const more = pieces % vessels
  return Array.from({ length: vessels }, (_, v) => Array.from({ length: each + (v < more ? 1 : 0) }, () => v)).flat()
}
