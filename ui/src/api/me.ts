import { useStorage } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'

import { api, Refusal, take, whenShutOut, writesAs, type Schemas } from './client'
import { deliver, sendsAs } from './outbox'

export type Me = Schemas['Me']
type WhoAmI = Schemas['WhoAmI']

/** Where this browser stands at the door; undefined until it is known. */
export const who = shallowRef<WhoAmI>()
/** The server could not be asked: what was known last goes on, so that nothing stops where the network does. */
const last = useStorage<Me | null>('clearjar.me', null, undefined, { serializer: { read: (v) => JSON.parse(v) as Me | null, write: JSON.stringify } })
/** Whom this tab was drawn for: what it sends is noted under this name, or not at all. */
export const me = shallowRef<Me>()
/** The log-in ended while the tab was open, or somebody else signed in beside it. */
export const shutOut = ref(false)
export const signedIn = computed(() => me.value !== undefined)
export const may = (right: Schemas['Role']['rights'][number]): boolean => me.value?.rights.includes(right) ?? false

/** Takes what is known of whom this tab is drawn for. */
export function drawFor(m: Me): void {
  me.value = m
  last.value = m
  writesAs(m.member_id)
  sendsAs(m.member_id)
}

/** Takes what the server said of who is here. */
export function entered(said: WhoAmI): void {
  who.value = said
  if (said.state !== 'signed_in') asked = true
  if (said.state !== 'signed_in' || !said.me) {
    shutOut.value = me.value !== undefined
    return
  }
  // Somebody else, in a tab that was drawn for another: drawn anew, so that nothing of the one is left under the other's name.
  if (me.value && me.value.member_id !== said.me.member_id) {
    location.assign('/')
    return
  }
  const came = who.value !== undefined && me.value === undefined && asked
  drawFor(said.me)
  shutOut.value = false
  // What was fetched ahead for this page was refused: the browser would take it for the answer.
  if (came && document.querySelector('link[rel=preload][href^="/api/"]:not([href="/api/me"])')) location.reload()
  else void deliver()
}
/** The door was asked, and nobody was signed in. */
let asked = false

/** Asks who is signed in. */
export async function askWho(): Promise<void> {
  try {
    const said = await take(api.GET('/api/me'))
    if (me.value && said.me && said.me.member_id !== me.value.member_id) {
      who.value = said
      shutOut.value = true
      return
    }
    entered(said)
  } catch (e) {
    if (e instanceof Refusal && last.value && !me.value) drawFor(last.value)
    who.value ??= { state: 'signed_out', demo: false, passkeys: false }
  }
}
whenShutOut(() => {
  if (me.value) void askWho()
})

/** Signs out here: what was remembered of who was here goes too. */
export async function signOut(): Promise<void> {
  await take(api.POST('/api/sign-out'))
  last.value = null
  location.assign('/')
}

/** What this device is called in the list of devices, as far as the browser tells. */
export function deviceName(): string {
  const ua = navigator.userAgent
  const find = (names: [RegExp, string][]) => names.find(([what]) => what.test(ua))?.[1]
  const system = find([
    [/Android/, 'Android'],
    [/iPhone|iPad/, 'iPhone or iPad'],
    [/Windows/, 'Windows'],
    [/Mac OS X/, 'Mac'],
    [/Linux/, 'Linux'],
  ])
  const phone = /Mobi|Android|iPhone/.test(ua) ? 'Phone' : 'Desktop'
  return system ? `${phone}, ${system}` : phone
}
