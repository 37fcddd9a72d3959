<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { useCorrectHousehold, useHousehold } from '@/api/queries'

import { longDate } from './dates'
import RefusalNote from './RefusalNote.vue'
import { lengthUnit, lengthUnits, temperatureUnit, temperatureUnits } from './units'

/** The grower's units, kept on this device; and where the household is, for its days and seasons. */
const open = defineModel<boolean>({ required: true })
const { data: household } = useHousehold()
const correct = useCorrectHousehold()
const zones = computed(() => [
  { title: `as the server: ${household.value?.zone_in_use ?? ''}`, value: '' },
  ...Intl.supportedValuesOf('timeZone').map((z) => ({ title: z.replaceAll('_', ' '), value: z })),
])
function change(to: Partial<Schemas['HouseholdWords']>) {
  const h = household.value
  if (!h) return
  const was = { time_zone: h.time_zone, southern: h.southern }
  correct.mutate({ was, becomes: { ...was, ...to } })
}
</script>

<template>
  <v-dialog v-model="open" aria-label="Units and place">
    <v-card class="roomy stack">
      <h2>Units</h2>
      <v-btn-toggle v-model="lengthUnit" mandatory color="secondary" aria-label="Lengths">
        <v-btn v-for="u in lengthUnits" :key="u.key" :value="u.key">{{ u.label }}</v-btn>
      </v-btn-toggle>
      <v-btn-toggle v-model="temperatureUnit" mandatory color="secondary" aria-label="Temperatures">
        <v-btn v-for="u in temperatureUnits" :key="u.key" :value="u.key">{{ u.label }}</v-btn>
      </v-btn-toggle>
      <p class="soft">Lengths and temperatures are shown and typed so everywhere. Files keep mm.</p>
      <template v-if="household">
        <h2>Days and seasons</h2>
        <v-autocomplete
          label="Time zone: when a day begins"
          :model-value="household.time_zone"
          :items="zones"
          :error-messages="correct.error.value?.about('time_zone')"
          @update:model-value="change({ time_zone: $event ?? '' })"
        />
        <v-btn-toggle
          :model-value="household.southern"
          mandatory
          color="secondary"
          aria-label="Half of the earth"
          @update:model-value="change({ southern: $event === true })"
        >
          <v-btn :value="false">north of the equator</v-btn>
          <v-btn :value="true">south of it</v-btn>
        </v-btn-toggle>
        <p class="soft">
          Today is {{ longDate(household.today) }}, in the {{ household.dark ? 'dark' : 'bright' }} half of the year. Plans,
          verdicts and forecasts go by it.
        </p>
        <RefusalNote :error="correct.error.value" />
      </template>
      <div class="row"><v-btn variant="outlined" @click="open = false">Close</v-btn></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
p {
  margin: 0;
}
</style>
