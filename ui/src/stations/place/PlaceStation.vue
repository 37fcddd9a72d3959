<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'

import { bringReadings, type Refusal, type Schemas } from '@/api/client'
import { queryClient, useClimate } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import { bothDates } from '@/kit/dates'
import ImportReport from '@/kit/ImportReport.vue'
import OutsideKeys from '@/kit/OutsideKeys.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { said } from '@/kit/units'

import ClimateChart from './ClimateChart.vue'

/** The air of one shelf: how it was, what the pieces there want, and the sensors that say so. */
const route = useRoute()
const id = computed(() => String(route.params['id']))
const days = ref(3)
const spans = [
  { days: 1, label: 'a day' },
  { days: 3, label: '3 days' },
  { days: 8, label: '8 days' },
  { days: 30, label: '30 days' },
  { days: 365, label: 'a year' },
]
const stage = ref<Schemas['PlaceClimate']['stage']>()
const { data: climate, isPending, error, refetch } = useClimate(id, days, stage)
const band = computed(() => climate.value?.bands.find((b) => b.stage === climate.value?.stage))
const sensors = computed(() => climate.value?.sensors ?? [])
const lastOf = (key: string) => sensors.value.find((s) => s.id === key)

const sensor = ref<string>()
const file = ref<File>()
const report = ref<Schemas['ImportReport']>()
const refused = ref<Refusal>()
const busy = ref(false)
async function bring(keepGood: boolean) {
  const to = sensor.value ?? sensors.value[0]?.id
  if (!file.value || !to) return
  busy.value = true
  refused.value = undefined
  report.value = undefined
  try {
    report.value = await bringReadings(to, file.value, keepGood)
    await queryClient.invalidateQueries({ queryKey: ['climate'] })
  } catch (e) {
    refused.value = e as Refusal
  } finally {
    busy.value = false
  }
}
const origin = location.origin
</script>

<template>
  <div class="page stack">
    <AskState :pending="isPending" :error="error" what="the air here" @retry="refetch()" />
    <template v-if="climate && band">
      <h1>The air of {{ climate.place.name }}</h1>
      <div class="row" role="group" aria-label="How long back">
        <button
          v-for="s in spans"
          :key="s.days"
          type="button"
          class="choice"
          :aria-pressed="days === s.days"
          @click="days = s.days"
        >
          {{ s.label }}
        </button>
        <span class="gap"></span>
        <span class="row" role="group" aria-label="Held against pieces that are">
          <button
            v-for="b in climate.bands"
            :key="b.stage"
            type="button"
            class="choice"
            :aria-pressed="climate.stage === b.stage"
            @click="stage = b.stage"
          >
            {{ b.label }}
          </button>
        </span>
      </div>
      <section class="panel stack" aria-label="How it was">
        <p v-if="climate.last" class="now">
          <strong>{{ said(`${climate.last.temp_c.toFixed(1)} °C`) }}, {{ Math.round(climate.last.humidity_pct) }} %</strong>
          <span class="soft"
            >deficit {{ Math.max(0, climate.judged?.deficit_kpa ?? 0).toFixed(2) }} kPa<template v-if="climate.judged?.has_dew"
              >, dew point {{ said(`${climate.judged.dew_c.toFixed(1)} °C`) }}</template
            >, read {{ bothDates(climate.last.at) }} at
            {{ new Date(climate.last.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }) }}</span
          >
        </p>
        <p v-for="s in climate.says" :key="s">{{ said(s) }}</p>
        <ClimateChart v-if="climate.stretches.length" :climate="climate" :band="band" />
        <p v-if="climate.stretches.length" class="soft">
          The deficit is what the air still takes up: pieces without roots lose water to it and cannot drink. Saturation by FAO
          Irrigation and Drainage Paper 56, equation 11; the bands are
          <router-link to="/numbers">numbers you may change</router-link>.
        </p>
      </section>
      <section class="panel stack" aria-label="Sensors">
        <h2>Sensors here</h2>
        <p v-if="!sensors.length" class="soft">
          None yet. A hygrometer that can post over HTTP gets a key of its own; one that cannot, a file. Without one, the round
          goes by what you see.
        </p>
        <OutsideKeys
          :keys="sensors"
          what="sensor"
          :place-id="id"
          name-label="Name of the sensor"
          make-label="Make a key for a sensor"
        >
          <template #more="{ of }">
            <template v-if="lastOf(of.id)?.last"
              >, read last {{ bothDates(lastOf(of.id)?.last?.at ?? '')
              }}{{ lastOf(of.id)?.silent && !of.ended_at ? ': silent' : '' }}</template
            >
            <template v-else>, has said nothing lately</template>
          </template>
          <template #secret="{ made, copy }">
            <code>{{ made.secret }}</code>
            <span class="row"><v-btn size="small" variant="outlined" @click="copy(made.secret)">Copy the key</v-btn></span>
            <span
              >It posts to <code>{{ origin }}/api/readings</code>, with <code>Authorization: Bearer</code> and the key, JSON such
              as <code>{"readings":[{"at":"2026-05-01T10:00:00Z","temp_c":23.4,"humidity_pct":88}]}</code>. To try it without one:
              <code>CLEARJAR_SENSOR_KEY=… clearjar sensor-sim</code>.</span
            >
          </template>
        </OutsideKeys>
      </section>
      <section v-if="sensors.length" class="panel stack" aria-label="A file of readings">
        <h2>A file of readings</h2>
        <p class="soft">CSV with the columns at, temp_c and humidity_pct. A file that is read twice is kept once.</p>
        <div class="row">
          <v-select
            v-if="sensors.length > 1"
            :model-value="sensor ?? sensors[0]?.id ?? null"
            label="Of which sensor"
            :items="sensors.map((s) => ({ title: s.name, value: s.id }))"
            @update:model-value="sensor = $event ?? undefined"
          />
          <label class="pick"
            >A file, .csv
            <input
              type="file"
              accept=".csv,text/csv"
              @change="
                (e) => {
                  file = (e.target as HTMLInputElement).files?.[0]
                  report = undefined
                }
              "
          /></label>
          <v-btn color="primary" variant="outlined" :disabled="!file" :loading="busy" @click="bring(false)">Read it</v-btn>
          <v-btn variant="text" :href="`/api/places/${id}/readings`" download>Write one</v-btn>
          <v-btn v-if="report?.bad.length && report.kept === 0 && report.read > 0" variant="outlined" @click="bring(true)"
            >Keep the good ones</v-btn
          >
        </div>
        <RefusalNote :error="refused" />
        <ImportReport v-if="report" :report="report" />
      </section>
    </template>
  </div>
</template>

<style scoped>
p {
  margin: 0;
}
.now strong {
  font: 600 26px var(--head);
  margin-right: 12px;
}
.gap {
  width: 20px;
}
code {
  font-family: var(--mono);
  font-size: 13.5px;
  overflow-wrap: anywhere;
}
</style>
