<script setup lang="ts">
import { computed, ref } from 'vue'

import { type Schemas } from '@/api/client'
import { useChooseNumber, useHandbook, usePlannerNumbers } from '@/api/queries'
import BasisNote from '@/kit/BasisNote.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { useInTurn } from '@/kit/inTurn'
import { count } from '@/kit/words'
import { inUnit, len, lengthUnit, toMm } from '@/kit/units'

/** Every number of the job: each can be given another value, and a chance be replaced by the grower's records. */
const { data: numbers } = usePlannerNumbers()
const { data: book } = useHandbook()
const choose = useChooseNumber()

type Row = Schemas['PlannerNumber']
const group = ref('')
const shown = computed(
  () =>
    numbers.value?.numbers.filter((r) =>
      group.value === 'changed' ? r.kind !== 'start' : r.number.key.startsWith(group.value || 'cutplan.'),
    ) ?? [],
)
const rows = useInTurn(shown, 8, 6)
const filters = computed(() => [
  { title: 'cutting: odds, rot, lengths', value: '' },
  { title: 'verdicts', value: 'readiness.' },
  { title: 'the model behind chances', value: 'expect.' },
  { title: 'what counts as rooted and grown on', value: 'life.' },
  { title: 'forecasts', value: 'growth.' },
  { title: 'potting up', value: 'potting.' },
  { title: 'the air of a box', value: 'climate.' },
  { title: 'measuring on photos', value: 'rootphoto.' },
  { title: 'those I changed', value: 'changed' },
  ...(book.value?.groups.map((g) => ({ title: `chances of ${g.name.toLowerCase()}`, value: `wake.${g.key}.` })) ?? []),
])
const typed = ref<Record<string, number>>({})
function set(r: Row, kind: Row['kind'], value?: number) {
  const mm = r.number.unit === 'mm' && value !== undefined ? toMm(value) : value
  choose.mutate({ key: r.number.key, kind, before: r, ...(mm === undefined ? {} : { value: mm }) })
}
const shownValue = (r: Row) => Math.round((r.number.unit === 'mm' ? inUnit(r.number.value) : r.number.value) * 1000) / 1000
const unitOf = (r: Row) => (r.number.unit === 'mm' ? lengthUnit.value : r.number.unit)
const startOf = (r: Row) => (r.number.unit === 'mm' ? len(r.start, 1) : String(r.start))
</script>

<template>
  <section class="panel">
    <div class="row">
      <h2>Numbers</h2>
      <label class="which push"
        >Which
        <select v-model="group">
          <option v-for="f in filters" :key="f.value" :value="f.value">{{ f.title }}</option>
        </select></label
      >
    </div>
    <p class="soft">
      Type another value, and everything is judged by it; or put your records in the place of a chance: nodes of cuttings that
      have grown on, or are lost. How much a starting value weighs against them is a number here too.
    </p>
    <p v-if="numbers?.waiting" class="soft" role="status">
      Your records are being counted anew: {{ count(numbers.waiting, 'closed cutting', 'closed cuttings') }} to go.
    </p>
    <RefusalNote :error="choose.error.value" />
    <div class="scroll" tabindex="0" role="region" aria-label="Numbers">
      <table>
        <thead>
          <tr>
            <th scope="col">Number</th>
            <th scope="col">Value</th>
            <th scope="col">Basis</th>
            <th scope="col">Yours</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r.number.key">
            <th scope="row">{{ r.number.label }}</th>
            <td>
              <input
                type="number"
                step="any"
                :aria-label="r.number.label"
                :value="typed[r.number.key] ?? shownValue(r)"
                @change="set(r, 'value', Number(($event.target as HTMLInputElement).value))"
              />
              <small>{{ unitOf(r) }}</small>
            </td>
            <td><BasisNote :basis="r.number.basis" /></td>
            <td>
              <div class="row">
                <v-btn
                  v-if="r.tried && (r.kind !== 'records' || Math.abs(r.by_records - r.number.value) > 1e-9)"
                  size="small"
                  variant="outlined"
                  @click="set(r, 'records')"
                  >Use mine: {{ r.won }} of {{ r.tried }} ({{ Math.round(r.by_records * 100) / 100 }})</v-btn
                >
                <v-btn v-if="r.kind !== 'start'" size="small" variant="text" @click="set(r, 'start')"
                  >Back to {{ startOf(r) }}</v-btn
                >
              </div>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.which select {
  min-height: var(--touch);
  max-width: 330px;
  border: 1px solid var(--ink2);
  border-radius: var(--corner);
  padding: 0 8px;
  background: var(--paper);
}
.scroll {
  overflow: auto;
  height: 460px;
}
table {
  width: 100%;
  min-width: 620px;
  border-collapse: collapse;
  font-size: var(--beside);
}
th,
td {
  text-align: left;
  padding: 5px 10px 5px 0;
  border-top: 1px solid var(--line);
  vertical-align: middle;
}
thead th {
  border-top: 0;
}
input {
  width: 88px;
  min-height: var(--touch);
  border: 1px solid var(--ink2);
  border-radius: var(--corner);
  padding: 0 8px;
  background: var(--paper);
  font-family: var(--mono);
}
small {
  color: var(--ink2);
  margin-left: 6px;
}
td.row {
  gap: 4px;
  min-height: var(--bar);
}
p {
  margin: 4px 0 8px;
}
</style>
