<script setup lang="ts">
import { ref } from 'vue'

import { type Refusal, type Schemas } from '@/api/client'
import { useHandbook, withdraw } from '@/api/queries'
import { bothDates } from '@/kit/dates'
import NotedBy from '@/kit/NotedBy.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { capital } from '@/kit/words'

/** What was done with a vessel, newest first; each can be taken back. */
type Event = Schemas['VesselEvent']
const { events, covers, earlier } = defineProps<{ events: Event[]; covers: Schemas['CoverWord'][]; earlier: boolean }>()
const { data: book } = useHandbook()
const failure = ref<Refusal>()
const busy = ref('')

function says(e: Event): string {
  if (e.kind === 'moved') return `Carried to ${e.place ?? ''}.`
  if (e.kind === 'emptied') return `Emptied. ${e.note ?? ''}`
  if (e.kind === 'broken') return `Broke. ${e.note ?? ''}`
  if (e.put_off) return `Put off: ${e.put_off}.`
  const parts = [
    ...(e.well ? ['all well'] : []),
    ...e.seen.map((s) => book.value?.signs.find((r) => r.sign === s)?.label ?? s),
    ...e.acts.map((a) => book.value?.acts.find((r) => r.act === a)?.done ?? a),
    ...(e.cover ? [covers.find((w) => w.state === e.cover)?.label ?? e.cover] : []),
    ...(e.note ? [e.note] : []),
  ]
  const text = parts.join(', ')
  return `${capital(text)}.`
}
const withdrawalOf = (e: Event) => (e.kind === 'care' ? 'care' : e.kind === 'moved' ? 'moved' : 'emptied')
async function takeBack(e: Event) {
  busy.value = e.id
  failure.value = undefined
  try {
    await withdraw(withdrawalOf(e), e.id)
  } catch (why) {
    failure.value = why as Refusal
  } finally {
    busy.value = ''
  }
}
</script>

<template>
  <section>
    <h2>What was done</h2>
    <RefusalNote :error="failure" />
    <p v-if="!events.length" class="soft">Nothing was noted yet. The round notes it here.</p>
    <ol>
      <li v-for="e in events" :key="e.id">
        <span class="soft">{{ bothDates(e.at) }}</span>
        <span>{{ says(e) }}<NotedBy :by="e.by" /></span>
        <button type="button" :disabled="busy === e.id" :aria-label="`Take back: ${says(e)}`" @click="takeBack(e)">
          take back
        </button>
      </li>
    </ol>
    <p v-if="earlier" class="soft">There is more of it: the newest 200 are shown.</p>
  </section>
</template>

<style scoped>
ol {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  display: grid;
  grid-template-columns: 190px 1fr auto;
  gap: 10px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 4px 0;
}
button {
  min-height: var(--touch);
  text-decoration: underline;
  color: var(--ink2);
  font-size: var(--small);
}
@media (max-width: 700px) {
  li {
    grid-template-columns: 1fr auto;
  }
  li > :first-child {
    grid-column: 1 / -1;
    margin-bottom: -8px;
  }
}
</style>
