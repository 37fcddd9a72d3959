import type { Cutting } from '@/api/client'

/** The day until which a vessel is left closed, when nothing in it asks for a look and opening pays for none yet. */
export function closedUntil(cuttings: Cutting[]): string | undefined {
  const days = cuttings.map((c) => (c.where === 'vessel' && !c.judgement.asks ? c.judgement.do_not_open_until : undefined))
  if (!days.length || days.some((d) => !d)) return undefined
  return days.flatMap((d) => (d ? [d] : [])).sort()[0]
}
