<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { inUnit, lengthUnit, lengthUnits, toMm } from './units'

/** A length typed in the grower's own unit; what it holds is mm. */
const { label, min = 0 } = defineProps<{ label: string; min?: number; errorMessages?: string | undefined; hint?: string }>()
const model = defineModel<number | null>({ required: true })
const emit = defineEmits<{ changed: [mm: number] }>()

const places = { mm: 1, cm: 2, in: 3 } as const
const show = (mm: number | null) => (mm === null ? '' : String(Number(inUnit(mm).toFixed(places[lengthUnit.value]))))
const text = ref(show(model.value))
watch([model, lengthUnit], () => {
  if (Number(text.value) !== Number(show(model.value)) || text.value === '') text.value = show(model.value)
})
const unit = computed(() => lengthUnits.find((u) => u.key === lengthUnit.value)?.label ?? '')
function typed(value: string | null) {
  text.value = value ?? ''
  const v = Number(text.value.replace(',', '.'))
  model.value = text.value.trim() === '' || !Number.isFinite(v) ? null : Math.round(toMm(v) * 100) / 100
}
function done() {
  if (model.value !== null) emit('changed', model.value)
}
</script>

<template>
  <v-text-field
    :model-value="text"
    inputmode="decimal"
    :label="`${label}, ${unit}`"
    :min="min"
    :error-messages="errorMessages ?? []"
    :hint="hint ?? ''"
    @update:model-value="typed"
    @change="done"
  />
</template>
