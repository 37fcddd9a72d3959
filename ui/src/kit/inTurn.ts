import { computed, ref, toValue, watch, type ComputedRef, type MaybeRefOrGetter } from 'vue'

import { whenIdle } from './near'

/**
 * A list that is drawn some at a time: the first at once, the rest as soon as there is time, so that no long list
 * holds up the hand. Nothing is left out.
 */
export function useInTurn<T>(list: MaybeRefOrGetter<readonly T[]>, first = 6, step = 6): ComputedRef<readonly T[]> {
  const many = ref(first)
  let waiting = false
  const more = () => {
    waiting = false
    many.value += step
  }
  watch(
    [many, () => toValue(list).length],
    ([now, all]) => {
      if (now >= all || waiting) return
      waiting = true
      whenIdle(more)
    },
    { immediate: true },
  )
  return computed(() => (toValue(list).length <= many.value ? toValue(list) : toValue(list).slice(0, many.value)))
}
