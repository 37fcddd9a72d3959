import { QueryClient, useMutation, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'

import { api, Refusal, take, type CuttingPage, type Schemas } from './client'

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

function useFact<In, Out>(write: (fact: In) => Promise<Out>, after?: (out: Out) => void) {
  return useMutation<Out, Refusal, In>({
    mutationFn: write,
    onSuccess: async (out) => {
      after?.(out)
      await refreshAll()
    },
  })
}

const keepPage = (page: CuttingPage) => queryClient.setQueryData(['cuttings', page.cutting.id], page)

export const useAddMother = () => useFact((body: Schemas['NewMother']) => take(api.POST('/api/mothers', { body })))
export const useAddVessel = () => useFact((body: Schemas['NewVessel']) => take(api.POST('/api/vessels', { body })))
export const useSetInVessel = () => useFact((body: Schemas['Setting']) => take(api.POST('/api/settings', { body })))
export const useTakeCuttings = () => useFact((body: Schemas['Cut']) => take(api.POST('/api/cuts', { body })))
export const useKeepPlan = () =>
  useFact(
    (body: Schemas['NewPlan']) => take(api.POST('/api/plans', { body })),
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
    (m) => queryClient.setQueryData(['mothers', m.id], m),
  )
export const useGiveAway = () => useFact((body: Schemas['Handover']) => take(api.POST('/api/handovers', { body })), keepPage)
export const usePlannerNumbers = () =>
  useQuery({ queryKey: ['planner-numbers'], queryFn: () => take(api.GET('/api/planner-numbers')) })
export const useChooseNumber = () =>
  useFact(
    (body: Schemas['NumberChoice']) => take(api.POST('/api/planner-numbers', { body })),
    (list) => queryClient.setQueryData(['planner-numbers'], list),
  )
export const useRecordLook = () => useFact((body: Schemas['NewLook']) => take(api.POST('/api/looks', { body })), keepPage)
export const useChooseSchool = () => useFact((body: Schemas['SchoolChoice']) => take(api.POST('/api/schools', { body })), keepPage)
export const usePotUp = () => useFact((body: Schemas['Potting']) => take(api.POST('/api/pottings', { body })), keepPage)
export const useEnd = () => useFact((body: Schemas['Ending']) => take(api.POST('/api/outcomes', { body })), keepPage)
export const useMapStem = () =>
  useFact(({ id, body }: { id: string; body: Schemas['StemMapping'] }) =>
    take(api.PUT('/api/stems/{id}', { params: { path: { id } }, body })),
  )
