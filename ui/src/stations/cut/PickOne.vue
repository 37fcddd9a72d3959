<script setup lang="ts" generic="T extends string">
/** A choice of one among few, each with what speaks for it. */
const { options } = defineProps<{ options: { key: T; label: string; why?: string }[]; legend: string }>()
const model = defineModel<T>({ required: true })
const name = `pick-${Math.random().toString(36).slice(2)}`
</script>

<template>
  <fieldset>
    <legend class="sr">{{ legend }}</legend>
    <label v-for="o in options" :key="o.key" :class="{ on: o.key === model }">
      <input v-model="model" type="radio" :name="name" :value="o.key" />
      <span
        ><b>{{ o.label }}</b
        ><small v-if="o.why">{{ o.why }}</small></span
      >
    </label>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  display: grid;
  gap: 4px;
}
label {
  display: flex;
  gap: 10px;
  align-items: start;
  padding: 8px 10px;
  min-height: var(--touch);
  border-radius: var(--corner);
  cursor: pointer;
}
label.on {
  background: var(--warm);
}
input {
  accent-color: var(--terra);
  width: 18px;
  height: 18px;
  flex: none;
  margin-top: 2px;
}
small {
  display: block;
  color: var(--ink2);
  font-size: var(--smallest);
}
</style>
