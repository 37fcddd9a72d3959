import { ref, watch, type Ref } from 'vue'

/** True from the first time that something opens: what is only drawn then is only fetched then. */
export function useOpened(open: () => unknown): Readonly<Ref<boolean>> {
  const once = ref(false)
  const stop = watch(
    open,
    (now) => {
      if (!now) return
      once.value = true
      queueMicrotask(() => stop())
    },
    { immediate: true },
  )
  return once
}
