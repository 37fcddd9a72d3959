<script setup lang="ts">
import { ref } from 'vue'

import { bringFile, type Schemas } from '@/api/client'
import { queryClient, useKeys } from '@/api/queries'
import ImportReport from '@/kit/ImportReport.vue'
import OutsideKeys from '@/kit/OutsideKeys.vue'
import RefusalNote from '@/kit/RefusalNote.vue'

/** Stem maps and plans, out and in, as open files. */
const kinds = [
  { key: 'stems', title: 'Stem maps', tells: 'every stem with its nodes, mm and what each node bears' },
  { key: 'plans', title: 'Cut plans', tells: 'every plan you prepared: its wishes, knives and pieces' },
] as const
const what = ref<'stems' | 'plans'>('stems')
const file = ref<File>()
const report = ref<Schemas['ImportReport']>()
const error = ref<Error>()
const busy = ref(false)
const far = ref('')

const { data: keys } = useKeys('calendar')
const address = (secret: string) => `${location.origin}/api/calendar/${secret}.ics`

function pick(e: Event) {
  file.value = (e.target as HTMLInputElement).files?.[0]
  report.value = undefined
  error.value = undefined
}
async function bring(keepGood: boolean) {
  if (!file.value) return
  busy.value = true
  error.value = undefined
  far.value = ''
  report.value = undefined
  try {
    const all = await bringFile(what.value, file.value, keepGood, (done, of) => (far.value = `${done} of ${of} kept so far`))
    // What was told on the way gives place to the whole.
    far.value = ''
    report.value = all
    await queryClient.invalidateQueries()
  } catch (e) {
    error.value = e as Error
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div class="page stack">
    <h1>In and out</h1>
    <p class="soft">
      Open files: JSON that says its format and version, and CSV for a spreadsheet. Lengths in mm, nodes from the base up. The
      command line does the same: <code>clearjar export</code> and <code>clearjar import</code>.
    </p>
    <div class="two">
      <section class="panel stack" aria-label="Out">
        <h2>Out</h2>
        <div v-for="k in kinds" :key="k.key" class="row">
          <span class="what"
            ><b>{{ k.title }}</b
            ><small>{{ k.tells }}</small></span
          >
          <v-btn variant="outlined" :href="`/api/export/${k.key}?format=json`" download>JSON</v-btn>
          <v-btn variant="outlined" :href="`/api/export/${k.key}?format=csv`" download>CSV</v-btn>
        </div>
      </section>
      <section class="panel stack" aria-label="In">
        <h2>In</h2>
        <v-btn-toggle v-model="what" mandatory color="secondary" aria-label="What the file holds">
          <v-btn v-for="k in kinds" :key="k.key" :value="k.key">{{ k.title }}</v-btn>
        </v-btn-toggle>
        <label class="pick"
          >A file, .json or .csv
          <input type="file" accept=".json,.csv,application/json,text/csv" data-testid="import-file" @change="pick" />
        </label>
        <div class="row">
          <v-btn color="primary" :disabled="!file" :loading="busy" @click="bring(false)">Read it</v-btn>
          <v-btn v-if="report?.bad.length && report.kept === 0 && report.read > 0" variant="outlined" @click="bring(true)"
            >Keep the good ones</v-btn
          >
        </div>
        <p class="soft">Every row is checked. With a bad row nothing is kept, unless you ask for the good ones.</p>
        <p v-if="busy && far" role="status">{{ far }}</p>
        <RefusalNote :error="error" />
        <ImportReport v-if="report" :report="report" />
      </section>
    </div>
    <section id="calendar" class="panel stack" aria-label="Calendar">
      <h2>Rounds in your calendar</h2>
      <p class="soft">
        A calendar program reads what is due over the next four weeks from an address of its own: one event for each day with a
        round. Whoever has the address can read it, so it can be revoked. Clear Jar answers on this machine only.
      </p>
      <OutsideKeys :keys="keys ?? []" what="calendar" name-label="What it is for, such as phone" make-label="Make an address">
        <template #secret="{ made, copy }">
          <code>{{ address(made.secret) }}</code>
          <span class="row"
            ><v-btn size="small" variant="outlined" @click="copy(address(made.secret))">Copy the address</v-btn></span
          >
        </template>
      </OutsideKeys>
      <p class="soft">The hour of the round is one of <router-link to="/numbers">the numbers</router-link>.</p>
    </section>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.3fr);
  gap: 16px;
  align-items: start;
}
.what {
  flex: 1;
}
small {
  display: block;
  color: var(--ink2);
}
p {
  margin: 0;
}
code {
  font-family: var(--mono);
  font-size: 13.5px;
  overflow-wrap: anywhere;
}
@media (max-width: 800px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
