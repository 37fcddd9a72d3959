<script setup lang="ts">
import { mdiCalendarOutline } from '@mdi/js'
import { computed, ref, watch } from 'vue'

import { agoField, readDay, shortDate, todayField } from './dates'

/** The one way to give a day: typed as one says it, picked, or one of the usual three. Holds yyyy-mm-dd. */
const { label } = defineProps<{ label: string; errorMessages?: string | undefined }>()
const model = defineModel<string>({ required: true })

const show = (field: string) => (field ? shortDate(`${field}T12:00:00`) : '')
const text = ref(show(model.value))
const wrong = ref('')
const picking = ref(false)
watch(model, (field) => (text.value = show(field)))

function typed() {
  const field = readDay(text.value)
  if (!field) {
    wrong.value = 'Not a day: write it like 27 Nov, 27.11.2026 or 3 days ago'
    return
  }
  wrong.value = ''
  model.value = field
  text.value = show(field)
}
function pick(d: unknown) {
  if (d instanceof Date) choose(todayField(d))
}
function choose(field: string) {
  wrong.value = ''
  model.value = field
  text.value = show(field)
  picking.value = false
}
const usual = computed(() => [
  { label: 'today', field: agoField(0) },
  { label: 'yesterday', field: agoField(1) },
  { label: '3 days ago', field: agoField(3) },
])
const picked = computed(() => new Date(`${model.value}T12:00:00`))
</script>

<template>
  <div class="day">
    <v-text-field
      v-model="text"
      :label="label"
      :error-messages="wrong || errorMessages || []"
      autocomplete="off"
      @change="typed"
      @keydown.enter.prevent="typed"
    >
      <template #append-inner>
        <v-menu v-model="picking" :close-on-content-click="false">
          <template #activator="{ props }">
            <button type="button" class="open" v-bind="props" :aria-label="`${label}: pick a day`">
              <svg viewBox="0 0 24 24" width="22" height="22" aria-hidden="true">
                <path :d="mdiCalendarOutline" fill="currentColor" />
              </svg>
            </button>
          </template>
          <v-date-picker :model-value="picked" hide-header show-adjacent-months :max="new Date()" @update:model-value="pick" />
        </v-menu>
      </template>
    </v-text-field>
    <span class="usual" role="group" :aria-label="`${label}: usual days`">
      <button v-for="u in usual" :key="u.label" type="button" :aria-pressed="model === u.field" @click="choose(u.field)">
        {{ u.label }}
      </button>
    </span>
  </div>
</template>

<style scoped>
.day {
  display: grid;
  gap: 4px;
  min-width: 186px;
  max-width: 250px;
}
.open {
  width: 36px;
  height: 44px;
  display: grid;
  place-items: center;
  color: var(--ink2);
}
.usual {
  display: flex;
  gap: 4px;
}
.usual button {
  font-size: var(--smallest);
  color: var(--ink2);
  border: 1px solid var(--line);
  border-radius: var(--chip-corner);
  padding: 0 9px;
  min-height: 30px;
  white-space: nowrap;
}
.usual button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
  border-color: var(--ink);
}
@media (max-width: 700px) {
  .day {
    max-width: none;
  }
  .usual button {
    min-height: var(--touch);
    padding: 0 13px;
    font-size: 14.5px;
  }
}
</style>
