<script setup lang="ts">
import { ref } from 'vue'

import { deliver, discard, refused, resend, waiting, type Letter } from '@/api/outbox'

import { bothDates, longDate } from './dates'
import { factWord } from './words'

/** What was noted and has not arrived: what it says, and what can be done about it. */
const open = defineModel<boolean>({ required: true })
const sure = ref<number>()

interface Line {
  name: string
  value: string
}
/** What a fact says, line by line: nothing of it is hidden when it was refused. */
function lines(content: unknown, under = ''): Line[] {
  if (content instanceof Blob) return [{ name: 'photo', value: `${Math.round(content.size / 1024)} KB` }]
  if (typeof content !== 'object' || content === null) return [{ name: under, value: plainly(content) }]
  return Object.entries(content)
    .filter(([k, v]) => !/(^|_)id$|^path$/.test(k) && v !== '' && v !== null)
    .flatMap(([k, v]) => lines(v, [under === 'seen' ? '' : under, k.replaceAll('_', ' ')].filter(Boolean).join(' ')))
}
const instant = /^\d{4}-\d\d-\d\dT[\d:.]+(Z|[+-]\d\d:\d\d)$/
function plainly(v: unknown): string {
  if (typeof v === 'boolean') return v ? 'yes' : 'no'
  return typeof v === 'string' && instant.test(v) ? bothDates(v) : String(v)
}
const when = (l: Letter) => `${longDate(l.notedAt)}, ${l.notedAt.slice(11, 16)} UTC`

async function again(l: Letter) {
  if (!l.draft) return resend(l)
  localStorage.setItem(l.draft.key, l.draft.value)
  await discard(l)
  location.assign(l.path)
}
async function throwAway(l: Letter) {
  if (sure.value !== l.seq) {
    sure.value = l.seq
    return
  }
  sure.value = undefined
  await discard(l)
}
</script>

<template>
  <v-dialog v-model="open" aria-label="Not sent yet">
    <v-card class="roomy stack">
      <h2>{{ refused.length ? 'Refused, and not sent yet' : 'Not sent yet' }}</h2>
      <p v-if="waiting.length" class="soft">
        Kept in this browser, in the order it was noted; it goes out by itself as soon as Clear Jar answers, also after a reload.
        <v-btn size="small" variant="outlined" @click="deliver()">Try now</v-btn>
      </p>
      <ol>
        <li v-for="l in [...refused, ...waiting]" :key="l.seq">
          <b>{{ factWord[l.kind] }}</b> <span class="soft">{{ when(l) }}</span>
          <p v-if="l.refused" class="refusal" role="alert">{{ l.refused.message }}</p>
          <details>
            <summary>What it says</summary>
            <dl>
              <template v-for="(line, i) in lines(l.content)" :key="i">
                <dt>{{ line.name }}</dt>
                <dd>{{ line.value }}</dd>
              </template>
            </dl>
            <template v-if="l.refused?.theirs">
              <p>What stands instead:</p>
              <dl>
                <template v-for="(line, i) in lines(l.refused.theirs)" :key="i">
                  <dt>{{ line.name }}</dt>
                  <dd>{{ line.value }}</dd>
                </template>
              </dl>
            </template>
          </details>
          <div class="row">
            <v-btn v-if="l.refused" size="small" color="primary" @click="again(l)">{{
              l.draft ? 'Open it again' : 'Send it again'
            }}</v-btn>
            <v-btn size="small" variant="outlined" @click="throwAway(l)">{{
              sure === l.seq ? 'Yes, throw it away for good' : 'Throw it away'
            }}</v-btn>
          </div>
        </li>
      </ol>
      <div class="row"><v-btn variant="text" @click="open = false">Close</v-btn></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
ol {
  margin: 0;
  padding: 0;
  list-style: none;
  display: grid;
  gap: 14px;
}
li {
  border-top: 1px solid var(--line);
  padding-top: 10px;
}
p {
  margin: 4px 0;
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 2px 12px;
  margin: 4px 0;
  font-size: var(--beside);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
</style>
