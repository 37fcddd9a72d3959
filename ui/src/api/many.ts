import { ref } from 'vue'

import { did } from '@/kit/lastAct'

import { newId, Refusal, type Schemas } from './client'
import { idOf, note } from './facts'
import { post, type Contents, type FactKind } from './outbox'

/** One of several facts of one kind, with the name of what it is about. */
export interface One<K extends FactKind> {
  content: Contents[K]
  name: string
}

type Undoes = Schemas['Withdrawal']['kind']

/** Notes many facts of one kind at once: each is kept or refused by itself, and all that were kept are taken back together. */
export function useMany<K extends FactKind>(kind: K, undoes: Undoes) {
  const isPending = ref(false)
  /** Those that were refused, with why; the others are kept. */
  const refused = ref<{ name: string; why: Refusal }[]>([])
  /** How many wait in the outbox. */
  const waits = ref(0)

  async function send(all: One<K>[], says: (kept: One<K>[]) => string): Promise<One<K>[]> {
    isPending.value = true
    refused.value = []
    waits.value = 0
    const kept: One<K>[] = []
    const each = all.map(
      (one) =>
        new Promise<void>((done) => {
          const refuse = (why: Refusal) => {
            refused.value.push({ name: one.name, why })
            done()
          }
          post(
            { id: idOf(one.content), kind, content: JSON.parse(JSON.stringify(one.content)) as Contents[K] },
            {
              here: () => true,
              waits: () => {
                waits.value++
                done()
              },
              refused: refuse,
              kept: () => {
                kept.push(one)
                done()
              },
            },
          ).catch((e: unknown) => refuse(new Refusal(`This browser could not lay it down, so it was not sent: ${String(e)}`, 0)))
        }),
    )
    await Promise.all(each)
    isPending.value = false
    if (kept.length)
      did({
        says: says(kept),
        undo: () => Promise.all([...kept].reverse().map((one) => note('withdrawal', { id: newId(), kind: undoes, about: idOf(one.content) }))),
      })
    return kept
  }
  return { isPending, refused, waits, send }
}
