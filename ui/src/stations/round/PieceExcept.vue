<script setup lang="ts">
import type { Except } from './walk'

/** What is odd about one piece, one tap each; a second tap takes it back. */
const { code } = defineProps<{ code: string }>()
const model = defineModel<Except>({ required: true })
const stems = ['wrinkled', 'soft'] as const
const leaves = ['yellowing', 'drooping', 'dropped'] as const
function stem(s: (typeof stems)[number]) {
  const { stem: had, ...rest } = model.value
  model.value = had === s ? rest : { ...rest, stem: s }
}
function leaf(l: (typeof leaves)[number]) {
  const { leaf: had, ...rest } = model.value
  model.value = had === l ? rest : { ...rest, leaf: l }
}
</script>

<template>
  <div class="odd" role="group" :aria-label="`What is odd about ${code}`">
    <span class="code">{{ code }}</span>
    <button v-for="s in stems" :key="s" type="button" :aria-pressed="model.stem === s" @click="stem(s)">{{ s }}</button>
    <button v-for="l in leaves" :key="l" type="button" :aria-pressed="model.leaf === l" @click="leaf(l)">leaf {{ l }}</button>
  </div>
</template>

<style scoped>
.odd {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  margin-top: 6px;
  padding: 8px;
  background: var(--warm);
  border-radius: var(--corner);
}
button {
  min-height: var(--touch);
  padding: 4px 11px;
  border: 1px solid var(--line);
  border-radius: var(--chip-corner);
  background: var(--card);
  font-size: var(--small);
}
button[aria-pressed='true'] {
  background: var(--rescue);
  color: var(--paper);
  border-color: var(--rescue);
}
</style>
