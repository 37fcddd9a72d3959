<script setup lang="ts">
import { ref } from 'vue'

import { bringFile, type Schemas } from '@/api/client'
import { queryClient } from '@/api/queries'
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
        <div v-if="report" role="status" class="stack">
          <p>
            <b>{{ report.says }}</b>
            <span v-if="report.names.length" class="code"
              >{{ report.names.join(', ')
              }}{{ report.kept > report.names.length ? ` and ${report.kept - report.names.length} more` : '' }}</span
            >
          </p>
          <table v-if="report.bad.length">
            <caption class="sr">
              Bad rows
            </caption>
            <tfoot v-if="report.bad_count > report.bad.length">
              <tr>
                <td colspan="3">The first {{ report.bad.length }} of {{ report.bad_count }} bad rows.</td>
              </tr>
            </tfoot>
            <thead>
              <tr>
                <th scope="col">Row</th>
                <th scope="col">Field</th>
                <th scope="col">What is wrong</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(b, i) in report.bad" :key="i">
                <td class="code">{{ b.line }}</td>
                <td>{{ b.field }}</td>
                <td>{{ b.reason }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
    </div>
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
.pick {
  display: grid;
  gap: 6px;
}
.pick input {
  min-height: var(--touch);
}
.pick input::file-selector-button {
  font: 600 15px var(--text);
  min-height: 40px;
  margin-right: 10px;
  border: 1px solid var(--ink2);
  border-radius: var(--card-corner);
  padding: 0 14px;
  background: var(--card);
  color: var(--ink);
}
table {
  border-collapse: collapse;
  font-size: var(--beside);
}
th,
td {
  text-align: left;
  padding: 4px 12px 4px 0;
  border-top: 1px solid var(--line);
}
p {
  margin: 0;
}
@media (max-width: 800px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
