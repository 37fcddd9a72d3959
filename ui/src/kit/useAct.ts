import { ref, shallowRef } from 'vue'

import { Refusal } from '@/api/client'

/** One act at a time: whether it goes on, and why the last one was refused. */
export function useAct() {
  const busy = ref(false)
  const error = shallowRef<Refusal>()
  async function act(work: () => Promise<unknown>): Promise<boolean> {
    busy.value = true
    error.value = undefined
    try {
      await work()
      return true
    } catch (e) {
      error.value = e instanceof Refusal ? e : new Refusal(e instanceof Error ? e.message : String(e), 0)
      return false
    } finally {
      busy.value = false
    }
  }
  return { busy, error, act }
}
