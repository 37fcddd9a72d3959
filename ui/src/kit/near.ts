import { useIntersectionObserver } from '@vueuse/core'
import { onScopeDispose, readonly, ref, type Ref, type ShallowRef } from 'vue'

// What may be drawn when there is time, one at a time, so that no drawing holds up the hand.
const later: (() => void)[] = []
let running = false
const idle = (work: () => void) =>
  typeof requestIdleCallback === 'function' ? requestIdleCallback(work, { timeout: 400 }) : setTimeout(work, 30)
function run() {
  try {
    later.shift()?.()
  } finally {
    // One that fails holds up no other.
    running = later.length > 0
    if (running) idle(run)
  }
}
/** Does it when there is time, in its turn. */
export function whenIdle(work: () => void) {
  later.push(work)
  if (running) return
  running = true
  idle(run)
}

/**
 * True once a thing has come near the screen; it stays true, so that what is drawn stays drawn. With anyway it
 * becomes true when there is time, too.
 */
export function useNear(
  box: Readonly<ShallowRef<HTMLElement | null>>,
  anyway: boolean,
  margin = '500px',
): Readonly<Ref<boolean>> {
  const near = ref(false)
  const come = () => {
    near.value = true
    stop()
  }
  const { stop } = useIntersectionObserver(box, ([entry]) => entry?.isIntersecting && come(), { rootMargin: margin })
  if (anyway) whenIdle(come)
  onScopeDispose(() => {
    const at = later.indexOf(come)
    if (at >= 0) later.splice(at, 1)
  })
  return readonly(near)
}
