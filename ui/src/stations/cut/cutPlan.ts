import { useDebounceFn, useStorage } from '@vueuse/core'
import { computed, ref, watch, type Ref } from 'vue'

import { api, take, type MappedStem, type Mother, type Schemas } from '@/api/client'

export type Wish = Pick<Schemas['PlanWish'], 'limits' | 'conditions' | 'aim'>
export type Answer = Schemas['PlanAnswer']

/** Knives by stem, as the hand laid them; a stem without an entry is left to the planner. */
type Knives = Record<string, number[]>

/**
 * A plan over one or more stems of a mother while it is being made: what is asked, the newest
 * answer, and the line of choices. What was asked survives a reload.
 */
export function useCutPlan(mother: Ref<Mother | undefined>, first: Ref<MappedStem | undefined>, start: Ref<Wish | undefined>) {
  const wish = ref<Wish>()
  const also = ref<string[]>([])
  const skip = ref<Record<string, number[]>>({})
  const kept = useStorage<Record<string, { wish: Wish; also: string[]; skip: Record<string, number[]>; knives: Knives }>>(
    'clearjar.draft.cut',
    {},
  )
  const laid = ref<Knives>({})
  const answer = ref<Answer>()
  const choices = ref<Schemas['Choice'][]>([])
  const error = ref<Error>()

  /** The stem that was opened, in the newer of the two ways it is known here: what is kept of its mother may be older. */
  const stems = computed(() => {
    const own = first.value
    if (!own || !mother.value) return []
    const hers = mother.value.stems.find((s) => s.id === own.id)
    const others = mother.value.stems.filter((s) => s.id !== own.id && also.value.includes(s.id))
    return [hers && hers.version > own.version ? hers : own, ...others]
  })

  watch(
    [first, start],
    () => {
      const stem = first.value
      if (!stem || !start.value || wish.value) return
      const had = kept.value[stem.id]
      const { limits, conditions, aim } = had?.wish ?? start.value
      wish.value = { limits: { ...limits }, conditions: { ...conditions }, aim: { ...aim } }
      also.value = had?.also ?? []
      skip.value = had?.skip ?? {}
      if (had && Object.keys(had.knives).length) void check(had.knives)
    },
    { immediate: true },
  )

  const body = (knives?: Knives): Schemas['PlanWish'] => ({
    ...(wish.value as Wish),
    stems: stems.value.map((s) => ({
      stem_id: s.id,
      version: s.version,
      ...(knives ? { knives_mm: knives[s.id] ?? [] } : {}),
      ...(skip.value[s.id]?.length ? { skip: skip.value[s.id] ?? [] } : {}),
    })),
  })
  function remember(knives: Knives) {
    if (first.value && wish.value)
      kept.value = { ...kept.value, [first.value.id]: { wish: wish.value, also: also.value, skip: skip.value, knives } }
  }
  function forget() {
    if (first.value) kept.value = Object.fromEntries(Object.entries(kept.value).filter(([id]) => id !== first.value?.id))
  }

  /** Only the newest answer counts: a knife may have moved on meanwhile. */
  let asked = 0
  async function ask(knives?: Knives) {
    if (!wish.value || !stems.value.length) return
    const mine = ++asked
    try {
      const got = await take(api.POST('/api/plans/try', { body: body(knives) }))
      if (mine !== asked) return
      answer.value = got
      laid.value = Object.fromEntries(got.stems.map((s) => [s.stem_id, s.plan.knives_mm]))
      error.value = undefined
    } catch (e) {
      if (mine === asked) error.value = e as Error
    }
  }
  async function askChoices() {
    if (!wish.value) return
    choices.value = await take(api.POST('/api/plans/choices', { body: body() })).catch(() => [])
  }
  async function propose() {
    remember({})
    await Promise.all([ask(), askChoices()])
  }
  async function check(knives: Knives) {
    remember(knives)
    await ask(knives)
  }
  const checkSoon = useDebounceFn((knives: Knives) => check(knives), 25, { maxWait: 70 })
  /** A knife of one stem moved; the others lie as they were. */
  const move = (stem: string, mm: number[]) => void checkSoon({ ...laid.value, [stem]: mm })
  function lay(choice: Schemas['Choice']) {
    void check(Object.fromEntries(stems.value.map((s, i) => [s.id, choice.knives_mm[i] ?? []])))
  }

  let ready = false
  watch(
    [wish, stems, skip],
    ([w, s]) => {
      if (!w || !s.length) return
      // Knives that were remembered are asked for already; the line of choices is not.
      if (!ready && Object.keys(kept.value[first.value?.id ?? '']?.knives ?? {}).length) void askChoices()
      else void propose()
      ready = true
    },
    { deep: true, immediate: true },
  )

  const pieces = computed(() => answer.value?.stems.flatMap((s) => s.plan.pieces) ?? [])
  const refused = computed(() => answer.value?.stems.flatMap((s) => s.plan.refused) ?? [])
  const warnings = computed(() => [...new Set(answer.value?.stems.flatMap((s) => s.plan.warnings) ?? [])])
  const possible = computed(() => pieces.value.length > 0 && refused.value.length === 0)
  /** The plan as a fact: the same body with the knives that lie. */
  const settled = (): Schemas['PlanWish'] => body(laid.value)

  return {
    wish, also, skip, stems, answer, choices, error, laid,
    pieces, refused, warnings, possible, propose, check, move, lay, settled, forget,
  } // prettier-ignore
}
