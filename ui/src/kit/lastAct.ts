import { ref } from 'vue'

/** The last thing that was noted, and how to take it back. */
export interface Act {
  /** What was done, as a sentence. */
  says: string
  undo: () => Promise<unknown>
}

export const lastAct = ref<Act>()
export const did = (act: Act | undefined): void => {
  lastAct.value = act
}
