<script setup lang="ts">
/** A whole number or a length, typed or stepped by thumb. */
import { computed } from 'vue'

import { inUnit, lengthUnit, toMm } from './units'

const {
  label,
  min,
  max,
  step = 1,
  unit,
} = defineProps<{ label: string; min: number; max: number; step?: number; unit?: string }>()
const model = defineModel<number>({ required: true })
/** A length is stepped in mm and shown, and typed, in the grower's own unit. */
const isLength = computed(() => unit === 'mm')
const shown = computed(() => (isLength.value ? Number(inUnit(model.value).toFixed(2)) : model.value))
const unitShown = computed(() => (isLength.value ? lengthUnit.value : unit))
function set(v: number) {
  if (Number.isFinite(v)) model.value = Math.min(max, Math.max(min, v))
}
const type = (v: number) => set(isLength.value ? Math.round(toMm(v) * 10) / 10 : v)
</script>

<template>
  <div class="count">
    <span class="what">{{ label }}</span>
    <button type="button" :aria-label="`${label}: less`" :disabled="model <= min" @click="set(model - step)">&minus;</button>
    <input
      :aria-label="label"
      type="number"
      :value="shown"
      step="any"
      @change="type(Number(($event.target as HTMLInputElement).value))"
    />
    <button type="button" :aria-label="`${label}: more`" :disabled="model >= max" @click="set(model + step)">+</button>
    <span v-if="unit" class="soft">{{ unitShown }}</span>
  </div>
</template>

<style scoped>
.count {
  display: flex;
  align-items: center;
  gap: 6px;
}
.what {
  flex: 1;
  min-width: 130px;
}
button {
  width: 44px;
  height: 44px;
  border: 1px solid var(--line);
  border-radius: var(--corner);
  font-size: 20px;
}
button:disabled {
  opacity: 0.4;
}
input {
  width: 64px;
  height: 44px;
  text-align: center;
  border: 1px solid var(--ink2);
  border-radius: var(--corner);
  background: var(--paper);
  font-weight: 650;
}
</style>
