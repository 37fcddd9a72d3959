<script setup lang="ts">
/** A whole number or a length, typed or stepped by thumb. */
const { label, min, max, step = 1 } = defineProps<{ label: string; min: number; max: number; step?: number; unit?: string }>()
const model = defineModel<number>({ required: true })
function set(v: number) {
  if (Number.isFinite(v)) model.value = Math.min(max, Math.max(min, v))
}
</script>

<template>
  <div class="count">
    <span class="what">{{ label }}</span>
    <button type="button" :aria-label="`${label}: less`" :disabled="model <= min" @click="set(model - step)">&minus;</button>
    <input
      :aria-label="label"
      type="number"
      :value="model"
      :min="min"
      :max="max"
      @change="set(Number(($event.target as HTMLInputElement).value))"
    />
    <button type="button" :aria-label="`${label}: more`" :disabled="model >= max" @click="set(model + step)">+</button>
    <span v-if="unit" class="soft">{{ unit }}</span>
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
  border-radius: 8px;
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
  border-radius: 8px;
  background: var(--paper);
  font-weight: 650;
}
</style>
