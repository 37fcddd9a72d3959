import { QueryClient, useMutation, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'

import { did } from '@/kit/lastAct'

import { api, newId, Refusal, take, type CuttingPage, type Schemas } from './client'

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

export const useShelf = () => useQuery({ queryKey: ['shelf'], queryFn: () => take(api.GET('/api/shelf')) })

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

/** Everything that follows from facts is asked for again after a fact was written. */
export const refreshAll = () =>
  queryClient.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'handbook' && q.queryKey[0] !== 'stems' })

/** What is remembered of a fact, so that it can be taken back. */
interface Undoing<In, Out> {
  says: (fact: In, out: Out) => string
  undo: (fact: In, out: Out) => Promise<unknown>
  /** Its page goes with it. */
  leaves?: boolean
}

export const withdraw = async (kind: Schemas['Withdrawal']['kind'], about: string): Promise<void> => {
  await take(api.POST('/api/withdrawals', { body: { id: newId(), kind, about } }))
  await refreshAll()
}
/** Most facts are taken back by their id. */
const byWithdrawal = <In extends { id: string }, Out>(
  kind: Schemas['Withdrawal']['kind'],
  says: (fact: In, out: Out) => string,
): Undoing<In, Out> => ({
  says,
  undo: (fact) => withdraw(kind, fact.id),
  leaves: ['mother', 'cut', 'plan', 'brought'].includes(kind),
})

function useFact<In, Out>(write: (fact: In) => Promise<Out>, undoing?: Undoing<In, Out>, after?: (out: Out) => void) {
  return useMutation<Out, Refusal, In>({
    mutationFn: write,
    onSuccess: async (out, fact) => {
      after?.(out)
      did(undoing && { says: undoing.says(fact, out), undo: () => undoing.undo(fact, out), leaves: undoing.leaves ?? false })
      await refreshAll()
    },
  })
}

const keepPage = (page: CuttingPage) => queryClient.setQueryData(['cuttings', page.cutting.id], page)
const codeOf = (_: unknown, page: CuttingPage) => page.cutting.code

export const useAddMother = () =>
  useFact(
    (body: Schemas['NewMother']) => take(api.POST('/api/mothers', { body })),
    byWithdrawal('mother', (m) => `${m.name} was added.`),
  )
export const useAddVessel = () =>
  useFact(
    (body: Schemas['NewVessel']) => take(api.POST('/api/vessels', { body })),
    byWithdrawal('vessel', (v) => `${v.name} was added.`),
  )
export const useSetInVessel = () =>
  useFact(
    (body: Schemas['Setting']) => take(api.POST('/api/settings', { body })),
    byWithdrawal('set', (_, c) => `${c.code} stands in ${c.vessel_name}.`),
  )
export const useTakeCuttings = () =>
  useFact(
    (body: Schemas['Cut']) => take(api.POST('/api/cuts', { body })),
    byWithdrawal('cut', (_, made) => `Cut: ${made.map((c) => c.code).join(', ')}.`),
  )
export const useKeepPlan = () =>
  useFact(
    (body: Schemas['NewPlan']) => take(api.POST('/api/plans', { body })),
    byWithdrawal('plan', () => 'The plan was kept.'),
    (p) => queryClient.setQueryData(['plans', p.id], p),
  )
export const usePlans = () => useQuery({ queryKey: ['plans'], queryFn: () => take(api.GET('/api/plans')) })
export const usePlan = (id: Id) =>
  useQuery({ queryKey: computed(() => ['plans', toValue(id)]), queryFn: () => take(api.GET('/api/plans/{id}', byId(id))) })
export const useTickStep = (plan: Id) =>
  useMutation<Schemas['PreparedPlan'], Refusal, Schemas['Tick']>({
    mutationFn: (body) => take(api.POST('/api/plans/{id}/ticks', { ...byId(plan), body })),
    onSuccess: (p) => queryClient.setQueryData(['plans', p.id], p),
  })
export const useWater = () =>
  useFact(
    (body: Schemas['Watering']) => take(api.POST('/api/waterings', { body })),
    byWithdrawal('watered', (_, m) => `${m.code} was watered.`),
    (m) => queryClient.setQueryData(['mothers', m.id], m),
  )
export const useGiveAway = () =>
  useFact(
    (body: Schemas['Handover']) => take(api.POST('/api/handovers', { body })),
    byWithdrawal('given', (f, p) => `${codeOf(f, p)} was given away.`),
    keepPage,
  )
export const usePlannerNumbers = () =>
  useQuery({ queryKey: ['planner-numbers'], queryFn: () => take(api.GET('/api/planner-numbers')) })
type Choice = Schemas['NumberChoice'] & { before?: Schemas['PlannerNumber'] }
const chooseNumber = ({ id, key, kind, value }: Schemas['NumberChoice']) =>
  take(api.POST('/api/planner-numbers', { body: { id, key, kind, ...(value === undefined ? {} : { value }) } }))
export const useChooseNumber = () =>
  useFact(
    chooseNumber,
    {
      says: (n: Choice) => `${n.before?.number.label ?? 'A number'} was changed.`,
      undo: async (n: Choice) => {
        const was = n.before
        await chooseNumber({
          id: newId(),
          key: n.key,
          kind: was?.kind ?? 'start',
          ...(was?.kind === 'value' ? { value: was.number.value } : {}),
        })
        await refreshAll()
      },
    },
    (list) => queryClient.setQueryData(['planner-numbers'], list),
  )
export const useRecordLook = () =>
  useFact(
    (body: Schemas['NewLook']) => take(api.POST('/api/looks', { body })),
    byWithdrawal('look', (f, p) => `${f.replaces ? 'A look was corrected' : 'Looked'} at ${codeOf(f, p)}.`),
    keepPage,
  )
type SchoolFact = Schemas['SchoolChoice'] & { before: Schemas['SchoolChoice']['school'] }
const chooseSchool = ({ id, cutting_id, school }: Schemas['SchoolChoice']) =>
  take(api.POST('/api/schools', { body: { id, cutting_id, school } }))
export const useChooseSchool = () =>
  useFact(
    chooseSchool,
    {
      says: (f: SchoolFact, p) => `${codeOf(f, p)} follows another school.`,
      undo: async (f: SchoolFact) => {
        await chooseSchool({ ...f, id: newId(), school: f.before })
        await refreshAll()
      },
    },
    keepPage,
  )
export const usePotUp = () =>
  useFact(
    (body: Schemas['Potting']) => take(api.POST('/api/pottings', { body })),
    byWithdrawal('potted', (f, p) => `${codeOf(f, p)} was potted.`),
    keepPage,
  )
export const useEnd = () =>
  useFact(
    (body: Schemas['Ending']) => take(api.POST('/api/outcomes', { body })),
    byWithdrawal('outcome', (f, p) => `${codeOf(f, p)} was closed as ${f.kind}.`),
    keepPage,
  )
export const useCutBack = () =>
  useFact(
    (body: Schemas['CutBack']) => take(api.POST('/api/cut-backs', { body })),
    byWithdrawal('cut_back', (f, p) => `${codeOf(f, p)} was cut back.`),
    keepPage,
  )
export const useBringIn = () =>
  useFact(
    (body: Schemas['Brought']) => take(api.POST('/api/brought', { body })),
    byWithdrawal('brought', (f, p) => `${codeOf(f, p)} was brought in.`),
    keepPage,
  )

interface Mapping {
  id: string
  body: Schemas['StemMapping']
  /** The map that stood before, for taking this one back. */
  before?: Schemas['Stem'] | undefined
}
const mapStem = ({ id, body }: Mapping) => take(api.PUT('/api/stems/{id}', { params: { path: { id } }, body }))
export const useMapStem = () =>
  useFact(mapStem, {
    says: (_: Mapping, s) => `The map of stem ${s.letter} was kept.`,
    undo: async (m: Mapping, s) => {
      if (!m.before) return withdraw('stem', m.id)
      await mapStem({ id: m.id, body: { ...m.body, fact_id: newId(), version: s.version, map: m.before } })
      await queryClient.invalidateQueries({ queryKey: ['stems'] })
      await refreshAll()
    },
  })

/** Puts something right; taking it back puts it as it was. */
function useCorrection<T, Out>(write: (about: string, body: { id: string; was?: T; becomes: T }) => Promise<Out>, says: string) {
  interface Fact {
    about: string
    was: T
    becomes: T
  }
  return useFact<Fact, Out>(({ about, was, becomes }) => write(about, { id: newId(), was, becomes }), {
    says: () => says,
    undo: async ({ about, was, becomes }) => {
      await write(about, { id: newId(), was: becomes, becomes: was })
      await refreshAll()
    },
  })
}
export const useCorrectMother = () =>
  useCorrection<Schemas['MotherWords'], Schemas['Mother']>(
    (id, body) => take(api.PUT('/api/mothers/{id}', { params: { path: { id } }, body })),
    'The mother was corrected.',
  )
export const useCorrectVessel = () =>
  useCorrection<Schemas['VesselWords'], Schemas['VesselView']>(
    (id, body) => take(api.PUT('/api/vessels/{id}', { params: { path: { id } }, body })),
    'The vessel was corrected.',
  )
export const useCorrectPlace = () =>
  useCorrection<Schemas['PlaceWords'], Schemas['Place']>(
    (id, body) => take(api.PUT('/api/places/{id}', { params: { path: { id } }, body })),
    'The shelf was renamed.',
  )
export const useCorrectOutcome = () =>
  useCorrection<Schemas['OutcomeWords'], CuttingPage>(
    (id, body) => take(api.PUT('/api/outcomes/{id}', { params: { path: { id } }, body })),
    'The ending was corrected.',
  )
export type DatedKind = 'cut' | 'set' | 'potted' | 'given' | 'cut_back' | 'watered'
export const useCorrectDate = (kind: () => DatedKind) =>
  useCorrection<Schemas['Dated'], Schemas['Dated']>(
    (id, body) => take(api.PUT('/api/dates/{kind}/{id}', { params: { path: { kind: kind(), id } }, body })),
    'The day was corrected.',
  )

export const useFind = (asked: MaybeRefOrGetter<string>) =>
  useQuery({
    queryKey: computed(() => ['find', toValue(asked)]),
    queryFn: () => take(api.GET('/api/find', { params: { query: { q: toValue(asked) } } })),
    enabled: computed(() => toValue(asked).trim() !== ''),
    placeholderData: (before) => before,
  })
export const useHowToSet = (cutting: MaybeRefOrGetter<string>, vessel: MaybeRefOrGetter<Schemas['VesselSort']['kind'] | ''>) =>
  useQuery({
    queryKey: computed(() => ['how-to-set', toValue(cutting), toValue(vessel)]),
    queryFn: () =>
      take(
        api.GET('/api/cuttings/{id}/setting/{vessel}', {
          params: { path: { id: toValue(cutting), vessel: toValue(vessel) as 'jar' } },
        }),
      ),
    enabled: computed(() => toValue(cutting) !== '' && toValue(vessel) !== ''),
  })
