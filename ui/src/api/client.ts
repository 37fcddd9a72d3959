import createClient from 'openapi-fetch'
import { v7 } from 'uuid'

import type { components, paths } from './contract.gen'

export type Schemas = components['schemas']
export type Cutting = Schemas['ShelfCutting']
export type CuttingPage = Schemas['CuttingPage']
export type Vessel = Schemas['VesselView']
export type Mother = Schemas['Mother']
export type MappedStem = Schemas['MappedStem']
export type Stem = Schemas['Stem']
export type StemNode = Schemas['Node']
export type Plan = Schemas['Plan']
export type Root = Schemas['Root']
export type Look = Schemas['Look']
export type Verdict = Schemas['Judgement']['verdict']
export type Handbook = Schemas['Handbook']
export type Basis = Schemas['Basis']

export const api = createClient<paths>({ baseUrl: '/' })

/** Whom this page was drawn for, told with everything it sends: nothing is noted under another's name. */
let member = ''
export const writesAs = (id: string): void => void (member = id)
const asMember = (): Record<string, string> => (member ? { 'Clear-Jar-Member': member } : {})
let shut: () => void = () => undefined
/** What to do when the server says that nobody, or somebody else, is signed in. */
export const whenShutOut = (then: () => void): void => void (shut = then)
const heed = (status: number): void => {
  if (status === 401) shut()
}
api.use({
  onRequest({ request }) {
    for (const [name, value] of Object.entries(asMember())) request.headers.set(name, value)
    return request
  },
  onResponse({ response }) {
    heed(response.status)
  },
})

/** A fact's id, made where the fact was made. */
export const newId = (): string => v7()

/** What went wrong, in words for the grower, with the fields it is about. */
export class Refusal extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly fields: { field: string; reason: string }[] = [],
    readonly theirs?: unknown,
  ) {
    super(message)
  }

  /** The reason given for one field, if any. */
  about(field: string): string | undefined {
    return this.fields.find((f) => f.field === field)?.reason
  }
}

export const unreachable = 'Clear Jar does not answer, so nothing was saved. What you typed is still here: try again in a moment.'

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** Gives the data of a call, or throws a Refusal. */
export async function take<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await call
  } catch {
    throw new Refusal(unreachable, 0)
  }
  if (answer.data !== undefined && answer.response.ok) return answer.data
  throw refusal(answer.error, answer.response.status)
}

function refusal(error: unknown, status: number): Refusal {
  if (typeof error === 'object' && error !== null && 'detail' in error && typeof error.detail === 'string') {
    const fields = 'fields' in error && Array.isArray(error.fields) ? (error.fields as { field: string; reason: string }[]) : []
    return new Refusal(error.detail, status, fields, 'theirs' in error ? error.theirs : undefined)
  }
  return new Refusal(unreachable, status)
}

/** Sends a file's bytes as they are. */
async function sendBytes(path: string, file: Blob, signal?: AbortSignal): Promise<unknown> {
  let response: Response
  try {
    response = await fetch(path, {
      method: 'POST',
      body: file,
      headers: { 'Content-Type': 'application/octet-stream', ...asMember() },
      signal: signal ?? null,
    })
  } catch (e) {
    if (signal?.aborted) throw e
    throw new Refusal(unreachable, 0)
  }
  heed(response.status)
  const body: unknown = await response.json().catch(() => undefined)
  if (!response.ok) throw refusal(body, response.status)
  return body
}

export const sendPhoto = async (id: string, file: Blob, signal?: AbortSignal): Promise<Schemas['Photo']> =>
  (await sendBytes(`/api/photos?id=${id}`, file, signal)) as Schemas['Photo']

interface ImportLine {
  done?: number
  of?: number
  report?: Schemas['ImportReport']
  problem?: unknown
}

/** Reads the roots of an RSML file; nothing is kept. */
export const readRoots = async (file: Blob): Promise<Root[]> => ((await sendBytes('/api/rsml', file)) as Schemas['RootsRead']).roots

/** Reads a file of stem maps or plans into the collection; says how far it has come as it goes. */
export async function bringFile(
  what: 'stems' | 'plans',
  file: File,
  keepGood: boolean,
  progress: (done: number, of: number) => void,
): Promise<Schemas['ImportReport']> {
  const format = file.name.toLowerCase().endsWith('.csv') ? 'csv' : 'json'
  let response: Response
  try {
    response = await fetch(`/api/import/${what}/progress?format=${format}&keep_good=${keepGood}`, {
      method: 'POST',
      body: file,
      headers: { 'Content-Type': 'application/octet-stream', ...asMember() },
    })
  } catch {
    throw new Refusal(unreachable, 0)
  }
  heed(response.status)
  if (!response.ok || !response.body) throw refusal(await response.json().catch(() => undefined), response.status)
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader()
  let rest = ''
  for (;;) {
    const { value, done } = await reader.read()
    if (done) throw new Refusal('The answer broke off. Read the file again: what was kept already is left as it is.', 0)
    const lines = (rest + value).split('\n')
    rest = lines.pop() ?? ''
    for (const text of lines.filter(Boolean)) {
      const line = JSON.parse(text) as ImportLine
      if (line.problem) {
        const status = (line.problem as { status?: number }).status
        throw refusal(line.problem, status ?? 0)
      }
      if (line.report) return line.report
      progress(line.done ?? 0, line.of ?? 0)
    }
  }
}

/** A vessel in the words that are put right. */
export function wordsOf(v: Vessel, place: string): Schemas['VesselWords'] {
  const { name, kind, medium, parts, width_mm, depth_mm, height_mm, wall_mm, fill_mm, holds } = v
  return { name, place, kind, medium, parts, width_mm, depth_mm, height_mm, wall_mm, fill_mm, holds }
}

/** Reads a file of readings into a sensor. */
export async function bringReadings(sensor: string, file: File, keepGood: boolean): Promise<Schemas['ImportReport']> {
  let response: Response
  try {
    response = await fetch(`/api/import/readings?sensor=${sensor}&keep_good=${keepGood}`, {
      method: 'POST',
      body: file,
      headers: { 'Content-Type': 'application/octet-stream', ...asMember() },
    })
  } catch {
    throw new Refusal(unreachable, 0)
  }
  heed(response.status)
  const answer: unknown = await response.json().catch(() => undefined)
  if (!response.ok) throw refusal(answer, response.status)
  return answer as Schemas['ImportReport']
}

/** A photo for the screen; turn is how it is turned, as it says itself, where it may have been turned. */
export const photoUrl = (id: string, size: 320 | 1600, turn?: number): string =>
  `/api/photos/${id}?size=${size}${turn === undefined ? '' : `&turn=${turn}`}`
