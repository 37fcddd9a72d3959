<script setup lang="ts">
import { lengthUnit, lengthUnits, temperatureUnit, temperatureUnits } from './units'

/** The grower's units, everywhere at once; kept on this device. */
const open = defineModel<boolean>({ required: true })
</script>

<template>
  <v-dialog v-model="open" aria-label="Units">
    <v-card class="pa-5 stack">
      <h2>Units</h2>
      <v-btn-toggle v-model="lengthUnit" mandatory color="secondary" aria-label="Lengths">
        <v-btn v-for="u in lengthUnits" :key="u.key" :value="u.key">{{ u.label }}</v-btn>
      </v-btn-toggle>
      <v-btn-toggle v-model="temperatureUnit" mandatory color="secondary" aria-label="Temperatures">
        <v-btn v-for="u in temperatureUnits" :key="u.key" :value="u.key">{{ u.label }}</v-btn>
      </v-btn-toggle>
      <p class="soft">Lengths and temperatures are shown and typed so everywhere. Files keep mm.</p>
      <div class="row"><v-btn variant="outlined" @click="open = false">Close</v-btn></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
p {
  margin: 0;
}
</style>
