import { onScopeDispose, ref, shallowRef, toRaw } from 'vue'

import { did } from '@/kit/lastAct'

import { newId, Refusal } from './client'
import { deliver, post, type Contents, type FactKind, type Touched } from './outbox'

/** Said at the screen while its fact has not arrived: nothing is wrong with it, and nothing is lost. */
export class Waiting extends Refusal {
  constructor() {
    super(
      'Not sent yet: Clear Jar does not answer. It is kept in this browser, also when you close it, and goes out by itself. ' +
        'What you change here and save again goes out after it.',
      0,
    )
  }
}

/** How an edit after sending goes out. */
type Again<C> =
  /** The first is taken back, then the new one comes. */
  | { by: 'withdrawal'; kind: Contents['withdrawal']['kind'] }
  /** The newest holds anyway. */
  | { by: 'newest' }
  /** The new one names the first. */
  | { by: 'naming'; name: (next: C, first: C) => C }

export interface FactOptions<K extends FactKind, In, Out> {
  /** The fact as it is sent, under a new id. */
  content: (given: In, id: string) => Contents[K]
  /** What the fact is about: an edit is of the same thing. */
  about: (content: Contents[K]) => string
  again: Again<Contents[K]>
  /** What the screen goes on with, once it is kept. */
  show: (content: Contents[K], touched: Touched) => Promise<Out>
  /** For taking it back: what was done, and how that is undone. */
  says?: (given: In, out: Out) => string
  undo?: (content: Contents[K], given: In, out: Out) => Promise<unknown>
  /** Its page goes with it. */
  leaves?: boolean
}

interface Sent<C, Out> {
  content: C
  /** What was given, to know the same again. */
  text: string
  arrives: Promise<Out>
}

/** Notes facts of one kind: each goes by the outbox, and is answered when it has arrived. */
export function useFact<K extends FactKind, In, Out>(kind: K, o: FactOptions<K, In, Out>) {
  const isPending = ref(false)
  const waits = ref(false)
  const error = shallowRef<Refusal>()
  /** Those that have not arrived, by what they are about. */
  const open = new Map<string, Sent<Contents[K], Out>>()
  let here = true
  onScopeDispose(() => (here = false))

  function reset() {
    if (!waits.value) error.value = undefined
  }

  async function mutateAsync(given: In, draft?: string): Promise<Out> {
    const id = newId()
    let content = plain(o.content(given, id))
    const text = JSON.stringify(o.content(given, '')).replace(instant, '$1')
    const about = o.about(content)
    const first = open.get(about)
    if (first?.text === text) {
      void deliver()
      return first.arrives
    }
    if (first) {
      if (o.again.by === 'naming') content = plain(o.again.name(content, first.content))
      if (o.again.by === 'withdrawal') await takeBack(first.content)
    }
    isPending.value = true
    const arrives = send(given, content, draft)
    open.set(about, { content, text, arrives })
    const settled = () => {
      if (open.get(about)?.content === content) open.delete(about)
      isPending.value = false
      waits.value = open.size > 0 && waits.value
    }
    arrives.then(settled, settled)
    return arrives
  }

  async function takeBack(first: Contents[K]) {
    if (o.again.by !== 'withdrawal') return
    const firstId = idOf(first)
    const content: Contents['withdrawal'] = { id: newId(), kind: o.again.kind, about: firstId }
    await post({ id: content.id, kind: 'withdrawal', content, ifKept: firstId }, nobody)
  }

  function send(given: In, content: Contents[K], draft?: string): Promise<Out> {
    const value = draft === undefined ? null : localStorage.getItem(draft)
    error.value = undefined
    return new Promise<Out>((resolve, reject) => {
      const refuse = (why: Refusal) => {
        // The form is as it was: it can be mended and sent as a new fact.
        if (draft !== undefined && value !== null) localStorage.setItem(draft, value)
        error.value = why
        reject(why)
      }
      post(
        { id: idOf(content), kind, content, ...(draft !== undefined && value !== null ? { draft: { key: draft, value } } : {}) },
        {
          here: () => here,
          waits: () => {
            waits.value = true
            isPending.value = false
            error.value = new Waiting()
          },
          refused: refuse,
          kept: (touched) => {
            if (error.value instanceof Waiting) error.value = undefined
            o.show(content, touched).then(
              (out) => {
                const { says, undo } = o
                if (says) did(undo && { says: says(given, out), undo: () => undo(content, given, out), leaves: o.leaves ?? false })
                // Whoever left the screen, or changed what was sent, is not led anywhere by it.
                if (here && (open.get(o.about(content))?.content ?? content) === content) resolve(out)
              },
              () => refuse(new Refusal('It was kept, but what follows from it cannot be shown now. Open the page anew.', 0)),
            )
          },
        },
      ).then(
        () => draft !== undefined && localStorage.removeItem(draft),
        (e: unknown) => refuse(new Refusal(`This browser could not lay it down, so it was not sent: ${String(e)}`, 0)),
      )
    })
  }

  return {
    isPending,
    /** It has not arrived yet, and waits in the outbox. */
    waits,
    error,
    reset,
    mutateAsync,
    mutate: (given: In, then?: { onError?: (e: Refusal) => void }) => {
      mutateAsync(given).catch((e: unknown) => then?.onError?.(e as Refusal))
    },
  }
}

/** Pressed again a moment later, today is another instant and the same day. */
const instant = /(\d{4}-\d\d-\d\d)T[\d:.]+Z/g
const nobody = { here: () => false, waits: () => undefined, refused: () => undefined, kept: () => undefined }
export const idOf = (c: Contents[FactKind]): string => ('fact_id' in c ? c.fact_id : c.id)
/** What is laid down is data: no proxies. */
const plain = <T>(v: T): T => JSON.parse(JSON.stringify(toRaw(v))) as T

/** Notes one fact outside a form: taking something back, or putting it as it was. */
export function note<K extends FactKind>(kind: K, content: Contents[K]): Promise<Touched> {
  return new Promise((resolve, reject) => {
    post(
      { id: idOf(content), kind, content: plain(content) },
      { here: () => true, waits: () => reject(new Waiting()), refused: reject, kept: resolve },
    ).catch(reject)
  })
}
