<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'

import type { CuttingPage, Schemas } from '@/api/client'
import { useCorrectDate, useCorrectOutcome, withdraw, type DatedKind } from '@/api/queries'
import DateField from '@/kit/DateField.vue'
import { instantOf, shortDate, todayField } from '@/kit/dates'
import { did } from '@/kit/lastAct'
import NotedBy from '@/kit/NotedBy.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { said } from '@/kit/units'

import EndForm from './EndForm.vue'

/** What happened, newest first: each can be put right or taken back, and what it said before stays to be seen. */
const { page } = defineProps<{ page: CuttingPage }>()
type Event = Schemas['Event']
const router = useRouter()
const events = computed(() => [...page.history].reverse())
const open = ref<Event>()
const on = ref('')
const kind = ref<DatedKind>('cut')
const date = useCorrectDate(() => kind.value)
const outcome = useCorrectOutcome()
const failure = ref<Error>()
const busy = ref(false)

function change(e: Event) {
  failure.value = undefined
  if (e.kind === 'look') {
    void router.push({ name: 'look', params: { id: page.cutting.id }, query: { look: e.about } })
    return
  }
  if (e.kind !== 'outcome') kind.value = e.kind === 'parted' ? 'cut' : e.kind
  on.value = todayField(new Date(e.on))
  open.value = e
}
/** A look that is taken back cannot be had back by a tap, so it is asked first. */
function ask(e: Event) {
  failure.value = undefined
  open.value = e
}
async function saveDate() {
  if (!open.value) return
  busy.value = true
  try {
    await date.mutateAsync({
      about: open.value.about,
      was: { on: open.value.on },
      becomes: { on: instantOf(on.value) || on.value },
    })
    open.value = undefined
  } catch (e) {
    failure.value = e as Error
  } finally {
    busy.value = false
  }
}
async function saveOutcome(becomes: Schemas['OutcomeWords']) {
  const o = page.outcome
  if (!o) return
  const was: Schemas['OutcomeWords'] = {
    kind: o.kind,
    on: o.on,
    ...(o.why ? { why: o.why } : {}),
    ...(o.note ? { note: o.note } : {}),
  }
  try {
    await outcome.mutateAsync({ about: o.id, was, becomes })
    open.value = undefined
  } catch (e) {
    failure.value = e as Error
  }
}
async function takeBack(e: Event) {
  busy.value = true
  failure.value = undefined
  try {
    if (e.kind === 'cut') return
    // Taken back from its own page, a plant that was parted is not there any more.
    const parent = e.kind === 'parted' && e.about === page.cutting.cut_id ? page.parent : undefined
    if (parent) await router.push({ name: 'cutting', params: { id: parent.id } })
    await withdraw(e.kind, e.about)
    did(undefined)
    open.value = undefined
  } catch (err) {
    failure.value = err as Error
  } finally {
    busy.value = false
  }
}
const takesBack: Record<string, string> = {
  set: 'Take this move back',
  look: 'Take this look back',
  potted: 'Take the potting back',
  outcome: 'Reopen the record',
  given: 'It was not given away',
  cut_back: 'It was not cut back',
  parted: 'Take the parting back',
}
</script>

<template>
  <h3>What happened</h3>
  <ol class="history" aria-label="What happened">
    <li v-for="e in events" :key="e.about">
      <span
        ><b>{{ shortDate(e.on) }}</b> {{ said(e.text) }}<NotedBy :by="e.by" />
        <small v-for="w in e.was" :key="w" class="was">{{ said(w) }}</small></span
      >
      <button type="button" :aria-label="`Change: ${e.text}`" @click="change(e)">change</button>
      <button v-if="e.kind === 'look'" type="button" :disabled="busy" :aria-label="`Take back: ${e.text}`" @click="ask(e)">
        take back
      </button>
    </li>
  </ol>
  <RefusalNote v-if="!open" :error="failure ?? date.error.value ?? outcome.error.value" />
  <v-dialog :model-value="open !== undefined" aria-label="Put it right" @update:model-value="open = undefined">
    <v-card v-if="open" class="roomy stack">
      <h2>Put it right</h2>
      <p>{{ said(open.text) }}</p>
      <template v-if="open.kind === 'outcome' && page.outcome">
        <EndForm
          :kind="page.outcome.kind"
          :given="page.outcome"
          :busy="outcome.isPending.value"
          save="Save"
          @save="saveOutcome"
          @drop="open = undefined"
        />
      </template>
      <template v-else-if="open.kind === 'look'">
        <p class="soft">It counts no longer for the verdict. To change a part of it, leave it and choose “change”.</p>
        <div class="row"><v-btn variant="text" @click="open = undefined">Leave it</v-btn></div>
      </template>
      <template v-else>
        <DateField v-model="on" label="It was on" />
        <p class="soft">What it said before stays in the record and is shown beside it.</p>
        <div class="row">
          <v-btn color="primary" :loading="busy" @click="saveDate">Save the day</v-btn>
          <v-btn variant="text" @click="open = undefined">Leave it</v-btn>
        </div>
      </template>
      <div v-if="takesBack[open.kind]" class="row back">
        <v-btn variant="outlined" :disabled="busy" @click="takeBack(open)">{{ takesBack[open.kind] }}</v-btn>
      </div>
      <RefusalNote :error="failure ?? date.error.value ?? outcome.error.value" />
    </v-card>
  </v-dialog>
</template>

<style scoped>
.history {
  list-style: none;
  padding: 0;
  margin: 0;
  font-size: 14.5px;
  display: grid;
  color: var(--ink2);
}
.history li {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.history li > span {
  flex: 1;
  padding: 4px 0;
}
.history b {
  color: var(--ink);
  font-weight: 600;
}
.was {
  display: block;
  font-size: 13px;
  border-left: 2px solid var(--line);
  padding-left: 8px;
}
button:not(.v-btn) {
  text-decoration: underline;
  font-size: var(--smallest);
  min-height: 28px;
}
@media (max-width: 700px) {
  button:not(.v-btn) {
    min-height: var(--touch);
    padding: 0 6px;
  }
}
p {
  margin: 0;
}
.back {
  border-top: 1px solid var(--line);
  padding-top: 10px;
}
</style>
