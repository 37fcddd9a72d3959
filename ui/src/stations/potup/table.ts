import { keepPreviousData, useQueries, useQuery } from '@tanstack/vue-query'
import { computed, ref, watch, type ComputedRef, type Ref } from 'vue'

import { api, take, type Cutting, type Schemas } from '@/api/client'
import { useShelf } from '@/api/queries'

export type TablePot = Schemas['PotOnTable']
type Wish = Schemas['PotWish']

/** What lies on the potting table, who goes with whom, and what that takes: proposed, until the grower says otherwise. */
export function useTable(asked: ComputedRef<string[] | undefined>, moving: Ref<boolean>) {
  const { data: shelf, isPending, error, refetch } = useShelf()
  /** Named in the address, and not on the shelf any more: what has grown on. */
  const elsewhere = useQueries({
    queries: computed(() =>
      (shelf.value ? (asked.value ?? []) : [])
        .filter((id) => !shelf.value?.cuttings.some((c) => c.id === id))
        .map((id) => ({
          queryKey: ['cuttings', id],
          queryFn: () => take(api.GET('/api/cuttings/{id}', { params: { path: { id } } })),
        })),
    ),
  })
  const all = computed<Cutting[]>(() => [
    ...(shelf.value?.cuttings ?? []),
    ...elsewhere.value.flatMap((q) => (q.data ? [q.data.cutting as Cutting] : [])),
  ])
  const potted = (c: Cutting) => c.pot !== undefined
  const named = computed(() => all.value.filter((c) => asked.value?.includes(c.id)))
  /** What could lie on it: the ready ones; or, to be moved on, what stands in pots; and those that were asked for. */
  const offered = computed(() =>
    all.value.filter((c) =>
      moving.value ? potted(c) : !potted(c) && (c.judgement.to_pot || (asked.value?.includes(c.id) ?? false)),
    ),
  )
  const on = ref<string[]>([])
  // Once it is known what there is, and when something else is asked for: what the grower took off stays off.
  watch(
    () => `${shelf.value !== undefined} ${moving.value} ${named.value.map((c) => c.id).join()}`,
    () => {
      if (asked.value) on.value = named.value.filter((c) => potted(c) === moving.value).map((c) => c.id)
      else on.value = moving.value ? [] : offered.value.map((c) => c.id)
    },
    { immediate: true },
  )
  const lying = computed(() => on.value.filter((id) => offered.value.some((c) => c.id === id)))
  /** The pots as the grower shared them out; undefined for as proposed. */
  const own = ref<Wish[]>()
  const wish = computed<Schemas['TableWish']>(() => {
    if (!own.value) return { cuttings: lying.value }
    const pots = own.value
      .map((p) => ({ ...p, cuttings: p.cuttings.filter((id) => lying.value.includes(id)) }))
      .filter((p) => p.cuttings.length)
    const loose = lying.value.filter((id) => !pots.some((p) => p.cuttings.includes(id)))
    return { pots: [...pots, ...loose.map((id) => ({ cuttings: [id] }))] }
  })
  const table = useQuery({
    queryKey: computed(() => ['table', JSON.stringify(wish.value)]),
    queryFn: () => take(api.POST('/api/potting-table', { body: wish.value })),
    enabled: computed(() => lying.value.length > 0),
    placeholderData: keepPreviousData,
  })
  const pots = computed(() => (lying.value.length ? (table.data.value?.pots ?? []) : []))
  /** The pots as they are laid out now, to be changed. */
  const asWished = (): Wish[] => (own.value ? (wish.value.pots ?? []) : pots.value.map((p) => ({ cuttings: [...p.plants] })))

  return {
    shelf,
    isPending,
    error,
    refetch,
    all,
    offered,
    on,
    lying,
    own,
    table,
    pots,
    flip: (id: string) => (on.value = lying.value.includes(id) ? lying.value.filter((c) => c !== id) : [...lying.value, id]),
    /** Puts a plant into the pot of that number; a number past the last is a new pot. */
    put(id: string, to: number) {
      const next = asWished().map((p) => ({ ...p, cuttings: p.cuttings.filter((c) => c !== id) }))
      const pot = next[to]
      if (pot) pot.cuttings.push(id)
      else next.push({ cuttings: [id] })
      own.value = next.filter((p) => p.cuttings.length)
    },
    change(at: number, what: Partial<Pick<Wish, 'pot' | 'mix'>>) {
      own.value = asWished().map((p, i) => (i === at ? { ...p, ...what } : p))
    },
  }
}
