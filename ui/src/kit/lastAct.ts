import { ref } from 'vue'

/** The last thing that was noted, and how to take it back. */
export interface Act {
  /** What was done, as a sentence. */
  says: string
  undo: () => Promise<unknown>
  /** Its page goes with it, so that is left first. */
  leaves?: boolean
}

export const lastAct = ref<Act>()
export const did = (act: Act | undefined): void => {
  lastAct.value = act
}
