<script setup lang="ts">
import { ref } from 'vue'

import type { Refusal, Schemas } from '@/api/client'
import { makeKey, revokeKey } from '@/api/queries'

import { bothDates } from './dates'
import RefusalNote from './RefusalNote.vue'

/** The keys of what is outside: made, told once, revoked. */
const { keys, what, placeId, nameLabel, makeLabel } = defineProps<{
  keys: Schemas['OutsideKey'][]
  what: Schemas['NewKey']['what']
  placeId?: string
  nameLabel: string
  makeLabel: string
}>()
const name = ref('')
const made = ref<Schemas['MadeKey']>()
const error = ref<Refusal>()
const busy = ref(false)
const ending = ref('')
async function act(work: () => Promise<unknown>) {
  busy.value = true
  error.value = undefined
  try {
    await work()
  } catch (e) {
    error.value = e as Refusal
  } finally {
    busy.value = false
  }
}
const make = () =>
  act(async () => {
    made.value = await makeKey({ what, name: name.value, ...(placeId ? { place_id: placeId } : {}) })
    name.value = ''
  })
const revoke = (id: string) =>
  act(async () => {
    await revokeKey(id)
    ending.value = ''
    if (made.value?.id === id) made.value = undefined
  })
const copied = ref(false)
async function copy(text: string) {
  await navigator.clipboard.writeText(text).catch(() => undefined)
  copied.value = true
}
</script>

<template>
  <div class="stack">
    <ul v-if="keys.length">
      <li v-for="k in keys" :key="k.id">
        <span>
          <strong>{{ k.name }}</strong>
          <span class="soft">
            made {{ bothDates(k.made_at) }}{{ k.ended_at ? `, revoked ${bothDates(k.ended_at)}` : ''
            }}<slot name="more" :of="k" />
          </span>
        </span>
        <template v-if="!k.ended_at">
          <v-btn v-if="ending !== k.id" size="small" variant="text" :aria-label="`Revoke ${k.name}`" @click="ending = k.id"
            >revoke</v-btn
          >
          <span v-else class="row">
            <span class="soft">For good: it opens nothing any more.</span>
            <v-btn size="small" color="primary" :loading="busy" @click="revoke(k.id)">Revoke it</v-btn>
            <v-btn size="small" variant="text" @click="ending = ''">leave it</v-btn>
          </span>
        </template>
      </li>
    </ul>
    <div v-if="made" class="caution stack" role="status">
      <span>This is said once. Copy it now; lost, it is revoked and made anew.</span>
      <slot name="secret" :made="made" :copy="copy" />
      <span v-if="copied">Copied.</span>
    </div>
    <form class="row" @submit.prevent="make">
      <v-text-field v-model="name" class="grow" :label="nameLabel" maxlength="100" :error-messages="error?.about('name')" />
      <v-btn type="submit" color="primary" variant="outlined" :loading="busy" :disabled="!name.trim()">{{ makeLabel }}</v-btn>
    </form>
    <RefusalNote :error="error?.about('name') ? undefined : error" />
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: 4px 12px;
  border-top: 1px solid var(--line);
  padding: 6px 0;
}
.grow {
  flex: 1 1 200px;
}
</style>
