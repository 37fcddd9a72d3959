import { readonly, ref, watch, type Ref } from 'vue'

import { whenIdle } from './near'

/**
 * Counts from 0 up to last once there is something to draw, one each time there is time: a page draws what is seen first at
 * once, and the rest then.
 */
export function useSteps(last: number, ready: () => boolean): Readonly<Ref<number>> {
  const step = ref(0)
  const next = () => {
    step.value++
    if (step.value < last) whenIdle(next)
  }
  const stop = watch(
    ready,
    (now) => {
      if (!now) return
      whenIdle(next)
      queueMicrotask(() => stop())
    },
    { immediate: true },
  )
  return readonly(step)
}
