import { computed, reactive, ref, watch } from 'vue'

import { newId, Refusal, type Cutting, type Schemas, type Vessel } from '@/api/client'
import { post, postPhoto, type Contents } from '@/api/outbox'
import { useHandbook, useRound, useShelf } from '@/api/queries'

export type Stop = Schemas['Stop']
export type Task = Schemas['CareTask']
type Act = Schemas['ActRow']['act']
type Sign = Schemas['SignRow']['sign']
type Cover = Schemas['CoverWord']['state']

/** One vessel of the round as its card shows it. */
export interface Card {
  stop: Stop
  vessel: Vessel
  place: string
  cuttings: Cutting[]
}

/** What is noted of one piece that is not like the others. */
export interface Except {
  stem?: 'wrinkled' | 'soft'
  leaf?: 'yellowing' | 'drooping' | 'dropped'
}

/** What went out of this screen for one vessel, to be taken back. */
interface Done {
  vessel: string
  facts: { kind: 'care' | 'look'; id: string }[]
  putOff: boolean
}

/** How long a card takes until it is known how long this grower takes, s. */
const firstGuess = 5

/** The walk from vessel to vessel: what is asked at each, what was chosen, and what went out. */
export function useWalk() {
  const { data: shelf, isPending, error, refetch } = useShelf()
  const { data: round, error: roundError, refetch: roundAgain } = useRound()
  const { data: book } = useHandbook()

  /** In the order they stand; one that became due meanwhile joins, none jumps about. */
  const order = ref<string[]>([])
  const done = reactive<Done[]>([])
  const failed = ref<{ name: string; why: string }[]>([])
  const at = ref<string>()

  watch(
    round,
    (r) => {
      if (!r) return
      const here = r.stops.filter((s) => s.tasks.length > 0 || s.visits.length > 0 || order.value.includes(s.vessel_id))
      order.value = here.map((s) => s.vessel_id)
    },
    { immediate: true },
  )
  const cards = computed<Card[]>(() => {
    const r = round.value
    const s = shelf.value
    if (!r || !s) return []
    const stops = new Map(r.stops.map((x) => [x.vessel_id, x]))
    const vessels = new Map(s.vessels.map((x) => [x.id, x]))
    const places = new Map(s.places.map((x) => [x.id, x.name]))
    return order.value.flatMap((id) => {
      const stop = stops.get(id)
      const vessel = vessels.get(id)
      if (!stop || !vessel) return []
      const cuttings = s.cuttings.filter((c) => c.where === 'vessel' && c.vessel_id === id)
      return [{ stop, vessel, place: places.get(vessel.place_id) ?? '', cuttings }]
    })
  })
  const noted = (id: string) => done.some((d) => d.vessel === id)
  const handled = (c: Card) => noted(c.vessel.id) || c.stop.put_off || c.stop.tasks.length === 0
  const left = computed(() => cards.value.filter((c) => !handled(c)))
  const card = computed(() => cards.value.find((c) => c.vessel.id === at.value) ?? left.value[0])
  const index = computed(() => (card.value ? cards.value.indexOf(card.value) : cards.value.length))
  const finished = computed(() => round.value !== undefined && shelf.value !== undefined && !card.value)

  // What is chosen on the card: what is due is taken to be done, until it is said otherwise.
  const acts = ref(new Set<Act>())
  const signs = ref(new Set<Sign>())
  const cover = ref<Cover>()
  const except = ref<Record<string, Except>>({})
  const othersFirm = ref(false)
  const from = ref(Date.now())
  watch(
    () => card.value?.vessel.id,
    () => {
      acts.value = new Set(card.value?.stop.tasks.flatMap((t) => (t.act === 'cover' ? [] : [t.act])))
      cover.value = card.value?.stop.tasks.find((t) => t.act === 'cover')?.cover
      signs.value = new Set()
      except.value = {}
      othersFirm.value = false
      from.value = Date.now()
    },
    { immediate: true },
  )
  const spent: number[] = reactive([])
  /** Seconds until the end at the pace so far. */
  const secondsLeft = computed(() => {
    const each = spent.length ? spent.reduce((a, b) => a + b, 0) / spent.length : firstGuess
    return Math.round(each * left.value.length)
  })

  const toggle = <T>(set: { value: Set<T> }, key: T) => {
    const next = new Set(set.value)
    if (!next.delete(key)) next.add(key)
    set.value = next
  }
  const toggleAct = (a: Act) => toggle(acts, a)
  const toggleSign = (s: Sign) => toggle(signs, s)
  const toggleCover = (c: Cover) => (cover.value = cover.value === c ? undefined : c)

  const medium = computed(() => book.value?.media.find((m) => m.medium === card.value?.vessel.medium))
  const sort = computed(() => book.value?.vessels.find((v) => v.kind === card.value?.vessel.kind))
  const fits = (r: { liquid: boolean; solid: boolean }) => (medium.value?.liquid ? r.liquid : r.solid)
  const covered = computed(() => (sort.value?.covers.length ?? 0) > 1)
  /** What else can be done or seen here, beside what is asked. */
  const moreActs = computed(
    () =>
      book.value?.acts.filter(
        (a) =>
          a.act !== 'cover' &&
          a.act !== 'glance' &&
          fits(a) &&
          (covered.value || !a.covered) &&
          !card.value?.stop.tasks.some((t) => t.act === a.act),
      ) ?? [],
  )
  const canSee = computed(() => book.value?.signs.filter(fits) ?? [])
  const coverWords = computed(() => (covered.value ? (sort.value?.covers ?? []) : []))

  /** What the big button says: all well, and what was done; or what is noted. */
  const says = computed(() => {
    const c = card.value
    if (!c) return ''
    const words = (list: string[]) => list.join(', ')
    const seen = canSee.value.filter((s) => signs.value.has(s.sign)).map((s) => s.label)
    const did = (book.value?.acts ?? [])
      .filter((a) => acts.value.has(a.act) && a.act !== 'glance')
      .map((a) => c.stop.tasks.find((t) => t.act === a.act)?.done ?? a.done)
    const put = coverWords.value.find((w) => w.state === cover.value && w.state !== c.stop.cover)?.label
    if (put) did.push(put)
    const odd = Object.values(except.value).filter((e) => e.stem ?? e.leaf).length
    if (odd) seen.push(`${odd} of ${c.cuttings.length} not well`)
    const head = seen.length ? words(seen) : 'all well'
    return words([head, ...did])
  })

  function send<K extends 'care' | 'look' | 'withdrawal'>(kind: K, content: Contents[K], name: string, ifKept?: string) {
    const refuse = (why: Refusal) => void failed.value.push({ name, why: why.message })
    post(
      { id: content.id, kind, content: JSON.parse(JSON.stringify(content)) as Contents[K], ...(ifKept ? { ifKept } : {}) },
      { here: () => true, waits: () => undefined, refused: refuse, kept: () => undefined },
    ).catch((e: unknown) => refuse(new Refusal(`This browser could not lay it down, so it was not sent: ${String(e)}`, 0)))
  }

  const now = () => new Date().toISOString()
  const look = (c: Cutting, seen: Partial<Contents['look']['seen']>, photo?: string): Contents['look'] => ({
    id: newId(),
    cutting_id: c.id,
    looked_at: now(),
    ...(photo ? { photo_id: photo } : {}),
    seen: { roots_counted: false, roots: [], buds: [], ...seen },
  })

  function leave(vessel: string, facts: Done['facts'], putOff: boolean) {
    done.push({ vessel, facts, putOff })
    spent.push(Math.min(60, (Date.now() - from.value) / 1000))
    const i = cards.value.findIndex((c) => c.vessel.id === vessel)
    at.value = undefined
    // On along the shelf: the next one that is not done, before those that were skipped.
    const next = [...cards.value.slice(i + 1), ...cards.value.slice(0, i)].find((c) => !handled(c))
    if (next) at.value = next.vessel.id
  }

  /** Notes the card as it is chosen, and goes on at once: what is noted goes out by itself. */
  function note() {
    const c = card.value
    if (!c) return
    const facts: Done['facts'] = []
    const odd = Object.values(except.value).some((e) => e.stem ?? e.leaf)
    const put = cover.value !== undefined && cover.value !== c.stop.cover ? { cover: cover.value } : {}
    const visit: Contents['care'] = {
      id: newId(),
      vessel_id: c.vessel.id,
      at: now(),
      acts: [...acts.value],
      seen: [...signs.value],
      well: signs.value.size === 0 && !odd,
      ...put,
    }
    facts.push({ kind: 'care', id: visit.id })
    send('care', visit, c.vessel.name)
    for (const cutting of c.cuttings) {
      const e = except.value[cutting.id] ?? {}
      const stem = e.stem ?? (othersFirm.value ? ('firm' as const) : undefined)
      if (!stem && !e.leaf) continue
      const seen = look(cutting, { ...(stem ? { stem } : {}), ...(e.leaf ? { leaf: e.leaf } : {}) })
      facts.push({ kind: 'look', id: seen.id })
      send('look', seen, cutting.code)
    }
    leave(c.vessel.id, facts, false)
  }

  function putOff(why: string) {
    const c = card.value
    if (!c) return
    const visit: Contents['care'] = {
      id: newId(),
      vessel_id: c.vessel.id,
      at: now(),
      acts: [],
      seen: [],
      well: false,
      put_off: why,
    }
    send('care', visit, c.vessel.name)
    leave(c.vessel.id, [{ kind: 'care', id: visit.id }], true)
  }

  /** Takes back what was noted last, and goes back there. */
  function undo() {
    const last = done.pop()
    if (!last) return
    for (const f of last.facts) send('withdrawal', { id: newId(), kind: f.kind, about: f.id }, 'Taking back', f.id)
    at.value = last.vessel
  }

  function go(by: 1 | -1) {
    const next = cards.value[index.value + by]
    if (next) at.value = next.vessel.id
    else if (by === 1) at.value = left.value.find((c) => c.vessel.id !== card.value?.vessel.id)?.vessel.id
  }

  /** One photo of the vessel is a photo of each piece in it. */
  async function photograph(file: File) {
    const c = card.value
    if (!c) return
    const photo = await postPhoto(file, {
      here: () => true,
      waits: () => undefined,
      refused: (why) => void failed.value.push({ name: `The photo of ${c.vessel.name}`, why: why.message }),
      kept: () => undefined,
    })
    for (const cutting of c.cuttings) send('look', look(cutting, {}, photo), cutting.code)
  }

  return {
    shelf,
    round,
    book,
    isPending,
    error: computed(() => error.value ?? roundError.value),
    retry: () => void Promise.all([refetch(), roundAgain()]),
    cards,
    card,
    index,
    left,
    handled,
    finished,
    done,
    failed,
    acts,
    signs,
    cover,
    except,
    othersFirm,
    moreActs,
    canSee,
    coverWords,
    says,
    secondsLeft,
    toggleAct,
    toggleSign,
    toggleCover,
    note,
    putOff,
    undo,
    go,
    photograph,
    medium,
  }
}
export type Walk = ReturnType<typeof useWalk>
