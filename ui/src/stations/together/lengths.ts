import type { Look, Root } from '@/api/client'

/**
 * Lengths of roots as they are typed for one of many pieces: "45 32 / 28" is two roots at the lowest node and one at the
 * next; "0" is that there are none. In the grower's unit; toMm turns it into mm. lowest is the number of the lowest of
 * the nodes that are left.
 */
export function rootsTyped(
  text: string,
  lowest: number,
  nodes: number,
  toMm: (v: number) => number,
  by: NonNullable<Root['with']> = 'ruler',
): Pick<Look, 'roots' | 'roots_counted'> | string {
  const at = text.split('/')
  if (at.length > nodes) return `It has ${nodes === 1 ? 'one node' : `${nodes} nodes`}: no more places than that.`
  const roots: Root[] = []
  for (const [i, part] of at.entries()) {
    for (const word of part.split(/[\s;]+/).filter(Boolean)) {
      const v = Number(word.replace(',', '.'))
      if (!Number.isFinite(v) || v < 0) return `“${word}” is not a length.`
      if (v > 0) roots.push({ node: lowest + i, order: 1, length_mm: toMm(v), low_mm: 0, high_mm: 0, how: 'typed', with: by })
      else if (part.trim() !== '0') return 'A root of no length: “0” alone says that there is none.'
    }
  }
  return { roots, roots_counted: true }
}
