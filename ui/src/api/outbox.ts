import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import { computed, ref, shallowRef } from 'vue'

import { api, newId, Refusal, sendPhoto, take, type Schemas } from './client'

/**
 * Facts on their way. Each is laid down here, in the browser's own database, before it is sent: its id
 * and its content are frozen together, so that sending it again is the same fact. A network that fails
 * keeps it; only a refusal lets go of it. It survives a reload and a closed tab, and goes out in order.
 */

/** What each kind of fact takes. */
export interface Contents {
  mother: Schemas['NewMother']
  stem_map: Schemas['StemMap']
  cut_plan: Schemas['NewPlan']
  bench_tick: Schemas['BenchTick']
  cut: Schemas['Cut']
  brought: Schemas['Brought']
  vessel: Schemas['NewVessel']
  setting: Schemas['Setting']
  care: Schemas['Care']
  vessel_move: Schemas['VesselMove']
  vessel_end: Schemas['VesselEnd']
  care_school: Schemas['CareSchool']
  place_order: Schemas['PlaceOrder']
  look: Schemas['NewLook']
  school: Schemas['SchoolChoice']
  cut_back: Schemas['CutBack']
  potting: Schemas['Potting']
  potful: Schemas['Potful']
  parting: Schemas['Parting']
  pot_visit: Schemas['PotVisit']
  mother_potting: Schemas['MotherPotting']
  handover: Schemas['Handover']
  outcome: Schemas['Ending']
  watering: Schemas['Watering']
  planner_number: Schemas['NumberChoice']
  withdrawal: Schemas['Withdrawal']
  mother_correction: Schemas['MotherCorrection']
  vessel_correction: Schemas['VesselCorrection']
  place_correction: Schemas['PlaceCorrection']
  outcome_correction: Schemas['OutcomeCorrection']
  date_correction: Schemas['DateCorrection']
  household_correction: Schemas['HouseholdCorrection']
}
export type FactKind = keyof Contents
export type Touched = Schemas['Touched']

/** A form that was being filled in when its fact was sent, to open it again should the fact be refused. */
export interface Draft {
  key: string
  value: string
}

/** One fact, or the bytes of a photo, on its way. */
export interface Letter {
  seq?: number
  id: string
  kind: FactKind | 'photo'
  /** As it was frozen; a Blob for a photo. */
  content: unknown
  notedAt: string
  path: string
  /** The member who noted it: it goes out under this name only. */
  by?: string
  draft?: Draft
  /** It takes back what this one noted, and means nothing when that was refused. */
  ifKept?: string
  /** Why it was not taken, when nobody was at its screen to be told. */
  refused?: { message: string; theirs?: unknown }
}

/** What is told to whoever waits for a letter. */
interface Listener {
  kept: (touched: Touched, photo?: Schemas['Photo']) => void
  refused: (why: Refusal) => void
  /** The network failed once: it waits. */
  waits: () => void
  here: () => boolean
}

interface Boxes extends DBSchema {
  letters: { key: number; value: Letter }
}

let box: Promise<IDBPDatabase<Boxes> | undefined> | undefined
/** A browser that gives no database (a private window) keeps the letters as long as the tab lives. */
let without: Letter[] = []
let seqWithout = 0
const open = () =>
  (box ??= openDB<Boxes>('clearjar.outbox', 1, {
    upgrade: (db) => void db.createObjectStore('letters', { keyPath: 'seq', autoIncrement: true }),
  }).catch(() => undefined))

async function all(): Promise<Letter[]> {
  const db = await open()
  return db ? db.getAll('letters') : [...without]
}
async function lay(letter: Letter): Promise<void> {
  const db = await open()
  if (db) await db.put('letters', letter)
  else if (letter.seq === undefined) without.push({ ...letter, seq: ++seqWithout })
  else without = without.map((l) => (l.seq === letter.seq ? letter : l))
}
async function drop(letter: Letter): Promise<void> {
  const db = await open()
  if (db) await db.delete('letters', letter.seq ?? -1)
  else without = without.filter((l) => l.seq !== letter.seq)
}

/** Everything that has not arrived, oldest first, whatever tab it came from. */
export const letters = shallowRef<Letter[]>([])
const member = ref('')
/** Who is signed in here: letters of others stay until those are. */
export const sendsAs = (id: string): void => void (member.value = id)
const isMine = (l: Letter) => l.by === undefined || l.by === member.value
/** The network failed and has not come back yet. */
export const failing = ref(false)
export const waiting = computed(() => letters.value.filter((l) => !l.refused && isMine(l)))
/** What others noted in this browser and could not send. */
export const ofOthers = computed(() => letters.value.filter((l) => !l.refused && !isMine(l)))
export const refused = computed(() => letters.value.filter((l) => l.refused))

const listeners = new Map<string, Listener>()
const tabs = typeof BroadcastChannel === 'undefined' ? undefined : new BroadcastChannel('clearjar.outbox')
let changed: (touched: Touched) => void = () => undefined
/** What to do when facts arrived, from this tab or another. */
export const whenKept = (then: (touched: Touched) => void): void => void (changed = then)

async function look(): Promise<void> {
  letters.value = await all()
}
/** What one tab tells the others: that something was laid down, or what became of a letter. */
interface News {
  id?: string
  touched?: Touched
  photo?: Schemas['Photo']
  refused?: Pick<Refusal, 'message' | 'status' | 'fields' | 'theirs'>
}
const tell = (news: News) => tabs?.postMessage(news)
tabs?.addEventListener('message', (e: MessageEvent<News>) => void hear(e.data))
async function hear({ id, touched, photo, refused: why }: News): Promise<void> {
  await look()
  if (touched) changed(touched)
  const listener = id === undefined ? undefined : listeners.get(id)
  if (!id || !listener) return
  listeners.delete(id)
  if (touched) listener.kept(touched, photo)
  if (!why) return
  // Another tab sent it; the form is here, and so is whoever has to be told.
  const left = letters.value.find((l) => l.id === id)
  if (left && listener.here()) await discard(left)
  listener.refused(new Refusal(why.message, why.status, why.fields, why.theirs))
}

/** Lays a letter down and sends it. */
export async function post(letter: Omit<Letter, 'seq' | 'notedAt' | 'path'>, listener: Listener): Promise<void> {
  listeners.set(letter.id, listener)
  await lay({ ...letter, ...(member.value ? { by: member.value } : {}), notedAt: new Date().toISOString(), path: location.pathname + location.search })
  await look()
  tell({})
  void deliver()
}

let pause = 1000
let timer: ReturnType<typeof setTimeout> | undefined
let going = false
let more = false

/** Sends what waits, in order; one tab at a time. */
export async function deliver(): Promise<void> {
  if (going) {
    more = true
    return
  }
  going = true
  clearTimeout(timer)
  try {
    do {
      more = false
      // Only where the page is served safely are there locks; without them a fact sent twice is still once.
      const locks = navigator.locks as LockManager | undefined
      const arrived = await (locks ? locks.request('clearjar.outbox', () => run()) : run())
      failing.value = !arrived
      if (!arrived) {
        timer = setTimeout(() => void deliver(), pause)
        pause = Math.min(60_000, pause * 2)
        return
      }
      pause = 1000
    } while (more)
  } finally {
    going = false
  }
}

const most = 50
/** Statuses that say nothing of the fact: it is kept and sent again. */
const unheard = (status: number) => status === 0 || status === 401 || status === 408 || status === 429 || status === 499 || status >= 500

async function run(): Promise<boolean> {
  let alone = false
  for (;;) {
    const waits = (await all()).filter((l) => !l.refused && isMine(l))
    letters.value = await all()
    const first = waits[0]
    if (!first) return true
    try {
      if (first.kind === 'photo') {
        const photo = await sendPhoto(first.id, first.content as Blob)
        await kept(first, undefined, photo)
        continue
      }
      const until = waits.findIndex((l) => l.kind === 'photo')
      const batch = waits.slice(0, alone ? 1 : Math.min(most, until < 0 ? most : until))
      const facts = batch.map((l) => ({ kind: l.kind, content: l.content }))
      const receipts = await take(api.POST('/api/facts', { body: { facts } }))
      alone = false
      for (const [i, r] of receipts.entries()) {
        const letter = batch[i]
        if (!letter) continue
        if (r.outcome === 'kept' || r.outcome === 'same') await kept(letter, r.touched)
        else await turnedAway(letter, refusalOf(r.problem))
      }
    } catch (e) {
      const why = e instanceof Refusal ? e : new Refusal(String(e), 0)
      if (unheard(why.status)) {
        for (const l of waits) listeners.get(l.id)?.waits()
        return false
      }
      // The parcel as a whole was refused: one by one, to know which.
      if (!alone && first.kind !== 'photo') alone = true
      else await turnedAway(first, why)
    }
  }
}

const refusalOf = (p: Schemas['Problem'] | undefined): Refusal =>
  new Refusal(p?.detail ?? 'It was refused.', p?.status ?? 422, p?.fields ?? [], p?.theirs)

async function kept(letter: Letter, touched?: Touched, photo?: Schemas['Photo']): Promise<void> {
  await drop(letter)
  await look()
  const t = touched ?? { cuttings: [], vessels: [], places: [], mothers: [], stems: [], plans: [], numbers: false, care: false }
  changed(t)
  tell({ id: letter.id, touched: t, ...(photo ? { photo } : {}) })
  listeners.get(letter.id)?.kept(t, photo)
  listeners.delete(letter.id)
}

async function turnedAway(letter: Letter, why: Refusal): Promise<void> {
  const listener = listeners.get(letter.id)
  listeners.delete(letter.id)
  const told = listener?.here() ?? false
  if (told) await drop(letter)
  else await lay({ ...letter, refused: { message: why.message, ...(why.theirs === undefined ? {} : { theirs: why.theirs }) } })
  // What only takes it back means nothing without it.
  for (const l of await all()) {
    if (l.ifKept === letter.id) await drop(l)
  }
  await look()
  const { message, status, fields, theirs } = why
  tell({ id: letter.id, refused: { message, status, fields, theirs } })
  listener?.refused(why)
}

/** Lets go of a letter for good: the grower said so. */
export async function discard(letter: Letter): Promise<void> {
  await drop(letter)
  await look()
  tell({})
}
/** Sends one that was refused once more, as a new fact at the end of the line. */
export async function resend(letter: Letter): Promise<void> {
  const again = { ...letter }
  delete again.seq
  delete again.refused
  await drop(letter)
  await lay(again)
  await look()
  void deliver()
}

/** Photos on their way can be seen from here. */
const pictures = new Map<string, string>()
export const photoOnItsWay = (id: string): string | undefined => pictures.get(id)

/** Lays a photo down and sends it; before any look that names it, because that comes after. */
export async function postPhoto(file: File, listener: Omit<Listener, 'kept'> & { kept: (p: Schemas['Photo']) => void }) {
  const id = newId()
  pictures.set(id, URL.createObjectURL(file))
  await post({ id, kind: 'photo', content: file }, {
    ...listener,
    kept: (_, photo) => {
      URL.revokeObjectURL(pictures.get(id) ?? '')
      pictures.delete(id)
      if (photo) listener.kept(photo)
    },
  })
  return id
}

/** Looks for what an earlier visit left, and goes on sending. */
export async function start(): Promise<void> {
  await look()
  if (waiting.value.length) await deliver()
}
globalThis.addEventListener('online', () => {
  pause = 1000
  void deliver()
})
document.addEventListener('visibilitychange', () => {
  if (!document.hidden && waiting.value.length) void deliver()
})
