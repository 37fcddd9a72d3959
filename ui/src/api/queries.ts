import { isCancelledError, QueryClient, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'

import { api, newId, Refusal, take, type CuttingPage, type Schemas } from './client'
import { idOf, note, useFact, type FactOptions } from './facts'
import { whenKept, type Contents, type FactKind, type Touched } from './outbox'

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 10_000,
      retry: (count, error) => count < 2 && (!(error instanceof Refusal) || error.status === 0 || error.status >= 500),
      networkMode: 'always',
    },
    mutations: { networkMode: 'always' },
  },
})

export const useHandbook = () =>
  useQuery({ queryKey: ['handbook'], queryFn: () => take(api.GET('/api/handbook')), staleTime: Infinity })

export const useCalculators = () =>
  useQuery({ queryKey: ['calculators'], queryFn: () => take(api.GET('/api/calculators')), staleTime: Infinity })

export const useShelf = (enabled: MaybeRefOrGetter<boolean> = true) =>
  useQuery({ queryKey: ['shelf'], queryFn: () => take(api.GET('/api/shelf')), enabled: computed(() => toValue(enabled)) })

export const useGroup = (key: Id) =>
  useQuery({
    queryKey: computed(() => ['group', toValue(key)]),
    queryFn: () => take(api.GET('/api/groups/{key}', { params: { path: { key: toValue(key) } } })),
  })

export const useWorked = () => useQuery({ queryKey: ['worked'], queryFn: () => take(api.GET('/api/worked')) })

export const useAhead = () => useQuery({ queryKey: ['ahead'], queryFn: () => take(api.GET('/api/ahead')) })

export const useRound = (enabled: MaybeRefOrGetter<boolean> = true) =>
  useQuery({
    queryKey: ['round'],
    queryFn: () => take(api.GET('/api/round')),
    enabled: computed(() => toValue(enabled)),
    // The day turns, and the evening comes.
    refetchInterval: 600_000,
  })

export const useMothers = () => useQuery({ queryKey: ['mothers'], queryFn: () => take(api.GET('/api/mothers')) })

type Id = MaybeRefOrGetter<string>
const byId = (id: Id) => ({ params: { path: { id: toValue(id) } } })

export const useMother = (id: Id) =>
  useQuery({
    queryKey: computed(() => ['mothers', toValue(id)]),
    queryFn: () => take(api.GET('/api/mothers/{id}', byId(id))),
    // Asked for by way of its stem, its id comes later.
    enabled: computed(() => toValue(id) !== ''),
  })

export const useStem = (id: Id, enabled: MaybeRefOrGetter<boolean> = true) =>
  useQuery({
    queryKey: computed(() => ['stems', toValue(id)]),
    queryFn: () => take(api.GET('/api/stems/{id}', byId(id))),
    enabled: computed(() => toValue(enabled)),
    refetchOnWindowFocus: false,
  })

export const useCutting = (id: Id) =>
  useQuery({ queryKey: computed(() => ['cuttings', toValue(id)]), queryFn: () => take(api.GET('/api/cuttings/{id}', byId(id))) })

export const useVessel = (id: Id) =>
  useQuery({ queryKey: computed(() => ['vessels', toValue(id)]), queryFn: () => take(api.GET('/api/vessels/{id}', byId(id))) })

type Key = readonly unknown[]
/** Whether what is shown under a key rests on what was touched. */
function restsOn([what, id]: Key, t: Touched): boolean {
  // Everything is reckoned with the numbers.
  if (t.numbers) return what !== 'handbook'
  const of = (list: string[]) => (typeof id === 'string' ? list.includes(id) : list.length > 0)
  switch (what) {
    case 'shelf':
    case 'ahead':
      return t.cuttings.length + t.vessels.length + t.places.length > 0
    case 'round':
      return t.care || t.cuttings.length + t.vessels.length + t.places.length > 0
    case 'vessels':
      return t.care || t.cuttings.length > 0 || of(t.vessels)
    case 'cuttings':
    case 'how-to-set':
      return of(t.cuttings)
    case 'table':
      return t.cuttings.length > 0
    case 'find':
      return t.cuttings.length + t.vessels.length > 0
    case 'mothers':
      return of(t.mothers)
    case 'stems':
      return of(t.stems)
    case 'plans':
      return (id === 'of' ? t.plans.length > 0 : of(t.plans)) || t.stems.length > 0
    case 'cuts':
    case 'photo':
      return t.cuttings.length > 0
    case 'planner-numbers':
      return t.cuttings.length > 0
  }
  return false
}
/** A receipt names what changed; only that is asked for anew. */
whenKept((t) => void queryClient.invalidateQueries({ predicate: (q) => restsOn(q.queryKey, t) }))

export const withdraw = async (kind: Schemas['Withdrawal']['kind'], about: string): Promise<void> => {
  await note('withdrawal', { id: newId(), kind, about })
}

/** Reads what a screen goes on with; when the next fact arrives meanwhile, once more. */
async function read<T>(queryKey: Key, queryFn: () => Promise<T>): Promise<T> {
  for (;;) {
    try {
      return await queryClient.fetchQuery({ queryKey, queryFn })
    } catch (e) {
      if (!isCancelledError(e)) throw e
    }
  }
}
const readCutting = (id: string) => read(['cuttings', id], () => take(api.GET('/api/cuttings/{id}', byId(id))))
const readMother = (id: string) => read(['mothers', id], () => take(api.GET('/api/mothers/{id}', byId(id))))
const readPlan = (id: string) => read(['plans', id], () => take(api.GET('/api/plans/{id}', byId(id))))
const readStem = (id: string) => read(['stems', id], () => take(api.GET('/api/stems/{id}', byId(id))))
const readNumbers = () => read(['planner-numbers'], () => take(api.GET('/api/planner-numbers')))

/** What a form gives: the fact without its id, which is made when it is sent. */
type Given<K extends FactKind> = Omit<Contents[K], 'id'>

/** A fact that is taken back by withdrawing it: what is kept, and what the screen goes on with. */
const withdrawable = <K extends FactKind, Out>(
  kind: K,
  withdrawal: Schemas['Withdrawal']['kind'],
  about: (c: Contents[K]) => string,
  show: FactOptions<K, Given<K>, Out>['show'],
  says: (given: Given<K>, out: Out) => string,
) =>
  useFact<K, Given<K>, Out>(kind, {
    content: (given, id) => ({ ...given, id }) as unknown as Contents[K],
    about,
    again: { by: 'withdrawal', kind: withdrawal },
    show,
    says,
    undo: (c) => withdraw(withdrawal, idOf(c)),
    leaves: ['mother', 'cut', 'plan', 'brought'].includes(withdrawal),
  })
/** The same of one cutting, with its page to go on with. */
const ofCutting = <K extends 'cut_back' | 'parting' | 'handover' | 'outcome'>(
  kind: K,
  withdrawal: Schemas['Withdrawal']['kind'],
  says: (given: Given<K>, code: string) => string,
) =>
  withdrawable(
    kind,
    withdrawal,
    (c) => c.cutting_id,
    (c) => readCutting(c.cutting_id),
    (given, page) => says(given, page.cutting.code),
  )

export const useAddMother = () =>
  withdrawable(
    'mother',
    'mother',
    () => 'new',
    (c) => readMother(c.id),
    (_, m) => `${m.name} was added.`,
  )
export const useAddVessel = () =>
  withdrawable(
    'vessel',
    'vessel',
    () => 'new',
    async (c) => c,
    (_, v) => `${v.name} was added.`,
  )
export const useCare = () =>
  withdrawable(
    'care',
    'care',
    (c) => c.vessel_id,
    async (c) => c,
    () => 'It was noted.',
  )
export const usePotMother = () =>
  withdrawable(
    'mother_potting',
    'mother_potted',
    (c) => c.mother_id,
    (c) => readMother(c.mother_id),
    (_, m) => `${m.code} was potted on.`,
  )
export const useVisitPot = () =>
  withdrawable(
    'pot_visit',
    'pot_visit',
    (c) => c.pot_id,
    async (c) => c,
    () => 'The pot was seen to.',
  )
export const useMoveVessel = () =>
  withdrawable(
    'vessel_move',
    'moved',
    (c) => c.vessel_id,
    async (c) => c,
    (c) => `It stands on ${c.place}.`,
  )
export const useEndVessel = () =>
  withdrawable(
    'vessel_end',
    'emptied',
    (c) => c.vessel_id,
    async (c) => c,
    () => 'It left the shelf.',
  )
export const useOrderPlaces = () =>
  useFact<'place_order', { places: string[]; before: string[] }, true>('place_order', {
    content: ({ places }, id) => ({ id, places }),
    about: () => 'all',
    again: { by: 'newest' },
    show: async () => true,
    says: () => 'The shelves are walked in another order.',
    undo: (_, { before }) => note('place_order', { id: newId(), places: before }),
  })
export const useChooseCareSchool = () =>
  useFact<'care_school', Given<'care_school'> & { before: string }, true>('care_school', {
    content: ({ vessel_id, about, school }, id) => ({ id, about, school, ...(vessel_id ? { vessel_id } : {}) }),
    about: (c) => `${c.vessel_id ?? ''} ${c.about}`,
    again: { by: 'newest' },
    show: async () => true,
    says: () => 'The school was changed.',
    undo: (c, { before }) => note('care_school', { ...c, id: newId(), school: before }),
  })
export const useSetInVessel = () =>
  withdrawable(
    'setting',
    'set',
    (c) => c.cutting_id,
    async (c) => (await readCutting(c.cutting_id)).cutting,
    (_, c) => `${c.code} stands in ${c.vessel_name}.`,
  )
export const useTakeCuttings = () =>
  withdrawable(
    'cut',
    'cut',
    () => 'new',
    async (_, touched) => {
      const mother = touched.mothers[0] ? await readMother(touched.mothers[0]) : undefined
      return mother?.cuttings.filter((c) => touched.cuttings.includes(c.id)) ?? []
    },
    (_, made) => `Cut: ${made.map((c) => c.code).join(', ')}.`,
  )
export const useKeepPlan = () =>
  withdrawable(
    'cut_plan',
    'plan',
    () => 'new',
    (c) => readPlan(c.id),
    () => 'The plan was kept.',
  )
export const useWater = () =>
  withdrawable(
    'watering',
    'watered',
    (c) => c.mother_id,
    (c) => readMother(c.mother_id),
    (_, m) => `${m.code} was watered.`,
  )
export const useBringIn = () =>
  withdrawable(
    'brought',
    'brought',
    () => 'new',
    (_, touched) => readCutting(touched.cuttings[0] ?? ''),
    (_, p) => `${p.cutting.code} was brought in.`,
  )
export const useGiveAway = () => ofCutting('handover', 'given', (_, code) => `${code} was given away.`)
export const useEnd = () => ofCutting('outcome', 'outcome', (g, code) => `${code} was closed as ${g.kind}.`)
export const usePart = () => ofCutting('parting', 'parted', (g, code) => `${g.parts.length === 1 ? 'One was' : `${g.parts.length} were`} parted from ${code}.`)
export const useCutBack = () => ofCutting('cut_back', 'cut_back', (_, code) => `${code} was cut back.`)
export const useRecordLook = () =>
  useFact<'look', Given<'look'>, CuttingPage>('look', {
    content: (given, id) => ({ ...given, id }),
    about: (c) => `${c.cutting_id} ${c.replaces ?? ''}`,
    // The later one replaces the first, which stays in the record.
    again: { by: 'naming', name: (next, first) => ({ ...next, replaces: first.id }) },
    show: (c) => readCutting(c.cutting_id),
    says: (g, p) => `${g.replaces ? 'A look was corrected' : 'Looked'} at ${p.cutting.code}.`,
    undo: (c) => withdraw('look', c.id),
  })

/** The plans of a mother that are being prepared, newest first. */
export const useOpenPlans = (mother: Id) =>
  useQuery({
    queryKey: computed(() => ['plans', 'of', toValue(mother)]),
    queryFn: () => take(api.GET('/api/plans', { params: { query: { mother: toValue(mother), open: true } } })),
  })

/** What came of one cut of one stem. */
export const useCuttingsOfCut = (cut: Id, enabled: MaybeRefOrGetter<boolean>) =>
  useQuery({
    queryKey: computed(() => ['cuts', toValue(cut)]),
    queryFn: () => take(api.GET('/api/cuts/{id}/cuttings', byId(cut))),
    enabled: computed(() => toValue(enabled)),
  })
export const usePlan = (id: Id) =>
  useQuery({ queryKey: computed(() => ['plans', toValue(id)]), queryFn: () => take(api.GET('/api/plans/{id}', byId(id))) })
export const useTickStep = (plan: Id) =>
  useFact<'bench_tick', Omit<Schemas['Tick'], 'id'>, unknown>('bench_tick', {
    content: (given, id) => ({ ...given, id, plan_id: toValue(plan) }),
    about: (c) => c.step,
    again: { by: 'newest' },
    show: (c) => readPlan(c.plan_id),
  })
export const usePlannerNumbers = () =>
  useQuery({
    queryKey: ['planner-numbers'],
    queryFn: () => take(api.GET('/api/planner-numbers')),
    // While records are being counted anew, they grow.
    refetchInterval: (q) => (q.state.data?.waiting ? 2000 : false),
  })
type Choice = Given<'planner_number'> & { before?: Schemas['PlannerNumber'] }
export const useChooseNumber = () =>
  useFact<'planner_number', Choice, unknown>('planner_number', {
    content: ({ key, kind, value }, id) => ({ id, key, kind, ...(value === undefined ? {} : { value }) }),
    about: (c) => c.key,
    again: { by: 'newest' },
    show: readNumbers,
    says: (n) => `${n.before?.number.label ?? 'A number'} was changed.`,
    undo: (c, { before }) =>
      note('planner_number', {
        id: newId(),
        key: c.key,
        kind: before?.kind ?? 'start',
        ...(before?.kind === 'value' ? { value: before.number.value } : {}),
      }),
  })
type SchoolFact = Given<'school'> & { before: Schemas['SchoolChoice']['school'] }
export const useChooseSchool = () =>
  useFact<'school', SchoolFact, CuttingPage>('school', {
    content: ({ cutting_id, school }, id) => ({ id, cutting_id, school }),
    about: (c) => c.cutting_id,
    again: { by: 'newest' },
    show: (c) => readCutting(c.cutting_id),
    says: (_, p) => `${p.cutting.code} follows another school.`,
    undo: (c, { before }) => note('school', { ...c, id: newId(), school: before }),
  })

interface Mapping {
  id: string
  body: Omit<Schemas['StemMapping'], 'fact_id'>
  /** The map that stood before, for taking this one back. */
  before?: Schemas['Stem'] | undefined
}
export const useMapStem = () =>
  useFact<'stem_map', Mapping, Schemas['MappedStem']>('stem_map', {
    content: ({ id, body }, fact_id) => ({ ...body, stem_id: id, fact_id }),
    about: (c) => c.stem_id,
    // The later one is the next version.
    again: { by: 'naming', name: (next, first) => ({ ...next, version: first.version + 1 }) },
    show: (c) => readStem(c.stem_id),
    says: (_, s) => `The map of stem ${s.letter} was kept.`,
    undo: async (c, { before }, s) =>
      before
        ? note('stem_map', { ...c, fact_id: newId(), version: s.version, map: before })
        : withdraw('stem', c.stem_id),
  })

/** Puts something right; taking it back puts it as it was. */
function useCorrection<K extends 'mother_correction' | 'vessel_correction' | 'place_correction' | 'outcome_correction' | 'date_correction'>(
  kind: K,
  says: string,
  more: () => object = () => ({}),
) {
  type Words = Contents[K]['becomes']
  interface Fact {
    about: string
    was: Words
    becomes: Words
  }
  const content = (g: Fact, id: string) => ({ ...g, ...more(), id }) as unknown as Contents[K]
  return useFact<K, Fact, true>(kind, {
    content,
    about: (c) => c.about,
    // It corrects what the first made of it.
    again: { by: 'naming', name: (next, first) => ({ ...next, was: first.becomes }) },
    show: async () => true,
    says: () => says,
    undo: (_, { about, was, becomes }) => note(kind, content({ about, was: becomes, becomes: was }, newId())),
  })
}
export const useCorrectMother = () => useCorrection('mother_correction', 'The mother was corrected.')
export const useCorrectVessel = () => useCorrection('vessel_correction', 'The vessel was corrected.')
export const useCorrectPlace = () => useCorrection('place_correction', 'The shelf was renamed.')
export const useCorrectOutcome = () => useCorrection('outcome_correction', 'The ending was corrected.')
export type DatedKind = Schemas['DateCorrection']['kind']
export const useCorrectDate = (kind: () => DatedKind) =>
  useCorrection('date_correction', 'The day was corrected.', () => ({ kind: kind() }))

export const useHousehold = () => useQuery({ queryKey: ['household'], queryFn: () => take(api.GET('/api/household')) })
type Where = Schemas['HouseholdWords']
export const useCorrectHousehold = () =>
  useFact<'household_correction', { was: Where; becomes: Where }, true>('household_correction', {
    content: (given, id) => ({ ...given, id }),
    about: () => 'household',
    again: { by: 'naming', name: (next, first) => ({ ...next, was: first.becomes }) },
    show: async () => true,
    says: () => 'Days and seasons were changed.',
    undo: (_, { was, becomes }) => note('household_correction', { id: newId(), was: becomes, becomes: was }),
  })

export const useFind = (asked: MaybeRefOrGetter<string>) =>
  useQuery({
    queryKey: computed(() => ['find', toValue(asked)]),
    queryFn: () => take(api.GET('/api/find', { params: { query: { q: toValue(asked) } } })),
    enabled: computed(() => toValue(asked).trim() !== ''),
    placeholderData: (before) => before,
  })
/** Which cuttings are in a photo, by its tags. */
export const useCuttingsInPhoto = (id: Id, enabled: MaybeRefOrGetter<boolean>) =>
  useQuery({
    queryKey: computed(() => ['photo', toValue(id)]),
    queryFn: () => take(api.GET('/api/photos/{id}/cuttings', byId(id))),
    enabled: computed(() => toValue(enabled)),
  })
/** How pieces are set in a vessel, and how they stand in it together. */
export const useTrySetting = (wish: MaybeRefOrGetter<Schemas['SettingWish'] | undefined>) =>
  useQuery({
    queryKey: computed(() => ['setting', toValue(wish)]),
    queryFn: () => take(api.POST('/api/settings/try', { body: toValue(wish) as Schemas['SettingWish'] })),
    enabled: computed(() => toValue(wish) !== undefined),
    placeholderData: (before) => before,
    staleTime: 0,
  })

type Stage = Schemas['PlaceClimate']['stage']
/** The air of a place over some days, held against what the pieces there want, or those of a stage. */
export const useClimate = (place: Id, days: MaybeRefOrGetter<number>, stage: MaybeRefOrGetter<Stage | undefined>) =>
  useQuery({
    queryKey: computed(() => ['climate', toValue(place), toValue(days), toValue(stage) ?? '']),
    queryFn: () => {
      const asked = toValue(stage)
      return take(
        api.GET('/api/places/{id}/climate', {
          params: { path: { id: toValue(place) }, query: { days: toValue(days), ...(asked ? { stage: asked } : {}) } },
        }),
      )
    },
    placeholderData: (before) => before,
    refetchInterval: 60_000,
  })

type KeyOf = Schemas['NewKey']['what']
/** The keys of devices and services that are not the grower. */
export const useKeys = (what: KeyOf) =>
  useQuery({ queryKey: ['keys', what], queryFn: () => take(api.GET('/api/outside-keys', { params: { query: { what } } })) })
export const makeKey = async (wish: Omit<Schemas['NewKey'], 'id'>) => {
  const made = await take(api.POST('/api/outside-keys', { body: { ...wish, id: newId() } }))
  await Promise.all([queryClient.invalidateQueries({ queryKey: ['keys'] }), queryClient.invalidateQueries({ queryKey: ['climate'] })])
  return made
}
export const revokeKey = async (id: string) => {
  await take(api.POST('/api/outside-keys/{id}/revoke', { params: { path: { id } } }))
  await Promise.all([queryClient.invalidateQueries({ queryKey: ['keys'] }), queryClient.invalidateQueries({ queryKey: ['climate'] })])
}
