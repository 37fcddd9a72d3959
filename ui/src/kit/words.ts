import type { Verdict } from '@/api/client'
import type { FactKind } from '@/api/outbox'

/** The words of the trade as the screen says them. */
export const verdictWord: Record<Verdict, string> = {
  wait: 'Wait',
  look: 'Look',
  ready: 'Ready',
  overdue: 'Overdue',
  rescue: 'Rescue',
  growing_on: 'Growing on',
  done: 'Done',
  lost: 'Lost',
}

export const kindWord: Record<string, string> = {
  tip: 'tip cutting',
  stem: 'stem cutting',
  leaf_bud: 'single node with leaf',
  wet_stick: 'single node, no leaf',
  leaf: 'leaf piece',
  division: 'division',
  rhizome: 'rhizome piece',
  tuber: 'tuber piece',
  runner: 'runner piece',
  plantlet: 'plantlet',
  head: 'head',
  pair: 'stem pair',
  strand: 'strand',
  pup: 'pup',
  back_rhizome: 'bare rhizome',
}

export const organs = ['stem', 'rhizome', 'runner', 'clump', 'pups', 'back_rhizome', 'tuber', 'leaf'] as const
export const organWord: Record<string, string> = {
  stem: 'Stem',
  rhizome: 'Rhizome',
  runner: 'Runner',
  clump: 'Clump',
  pups: 'Pups',
  back_rhizome: 'Bare rhizome',
  tuber: 'Tuber',
  leaf: 'Leaf',
}
/** "3 nodes" along a stem, "3 growing points" of a clump, a tuber or a leaf. */
export const pointsOf = (organ: string, n: number): string =>
  ['stem', 'rhizome', 'runner'].includes(organ) ? count(n, 'node', 'nodes') : count(n, 'growing point', 'growing points')
export const stripeWord = { none: 'no pattern', some: 'some pattern', strong: 'strong pattern' } as const
export const woodWord = { green: 'green', half_ripe: 'half ripe', woody: 'woody' } as const

/** Whether a young plant has its mother's pattern. */
export const cameWord = { kept: 'pattern kept', partly: 'some of it', lost: 'came plain' } as const

export const budWord: Record<string, string> = {
  dormant: 'asleep',
  swelling: 'swelling',
  shooting: 'shooting',
  leaf_open: 'leaf open',
}
export const rootColours = ['white', 'cream', 'pink', 'tan', 'orange', 'brown', 'black'] as const
export const buds = ['dormant', 'swelling', 'shooting', 'leaf_open'] as const

export const patternWord: Record<string, string> = { plain: 'plain', stable: 'patterned, keeps', unstable: 'patterned, unstable' }

/** With its first letter large. */
export const capital = (s: string): string => `${s[0]?.toUpperCase() ?? ''}${s.slice(1)}`

export const percent = (fraction: number): string =>
  fraction > 0 && fraction < 0.005
    ? 'under 1 %'
    : fraction > 0.995 && fraction < 1
      ? 'over 99 %'
      : `${Math.round(fraction * 100)} %`

/** "1 root", "3 roots", "no roots". */
export const count = (n: number, one: string, many: string): string => (n === 0 ? `no ${many}` : `${n} ${n === 1 ? one : many}`)

export const lostWhy = [
  { key: 'rotted', label: 'it rotted' },
  { key: 'dried', label: 'it dried up' },
  { key: 'never_woke', label: 'it never woke' },
  { key: 'broken', label: 'it broke' },
  { key: 'other', label: 'another reason' },
] as const

/** What is noted, by the kind of fact. */
export const factWord: Record<FactKind | 'photo', string> = {
  mother: 'A mother',
  stem_map: 'The map of a stem',
  cut_plan: 'A plan',
  bench_tick: 'A line of the checklist',
  cut: 'A cut',
  brought: 'A piece brought in',
  vessel: 'A vessel',
  setting: 'A piece set in a vessel',
  care: 'A visit to a vessel',
  vessel_move: 'A vessel moved',
  vessel_end: 'A vessel emptied',
  care_school: 'A school of care',
  place_order: 'The order of the shelves',
  look: 'A look',
  school: 'A choice of school',
  cut_back: 'A piece cut back',
  potting: 'A potting',
  potful: 'A pot filled',
  parting: 'Young plants parted',
  pot_visit: 'A visit to a pot',
  mother_potting: 'A mother potted on',
  handover: 'A piece given away',
  outcome: 'How a piece ended',
  watering: 'A watering',
  planner_number: 'A number of the planner',
  withdrawal: 'Something taken back',
  mother_correction: 'A mother corrected',
  vessel_correction: 'A vessel corrected',
  place_correction: 'A shelf renamed',
  outcome_correction: 'An ending corrected',
  date_correction: 'A day corrected',
  household_correction: 'Where it is',
  photo: 'A photo',
}
