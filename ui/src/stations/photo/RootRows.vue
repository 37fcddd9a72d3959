<script setup lang="ts">
import { rootColours } from '@/kit/words'

import type { DraftRoot, LookDraft, Lengths } from './lookDraft'

/** One line a root: node, order, colour, length. */
const { draft, lengths, nodes } = defineProps<{ draft: LookDraft; lengths: Lengths; nodes: number; scaleReady: boolean }>()
const chosen = defineModel<string | undefined>('chosen')
const measured = (r: DraftRoot) => (r.typedMm === null ? (r.known ?? lengths.get(r.key)) : undefined)
</script>

<template>
  <ul v-if="draft.roots.length">
    <li
      v-for="(r, i) in draft.roots"
      :key="r.key"
      :class="{ on: chosen === r.key }"
      @focusin="chosen = r.key"
      @mouseenter="chosen = r.key"
    >
      <span class="code">{{ i + 1 }}</span>
      <label
        >node
        <select v-model.number="r.node">
          <option v-for="n in nodes" :key="n" :value="n">{{ n }}</option>
        </select></label
      >
      <label
        ><span class="sr">order</span
        ><select v-model.number="r.order">
          <option :value="1">root</option>
          <option :value="2">side</option>
        </select></label
      >
      <label
        ><span class="sr">colour</span
        ><select v-model="r.colour">
          <option value="">colour?</option>
          <option v-for="c in rootColours" :key="c" :value="c">{{ c }}</option>
        </select></label
      >
      <label v-if="r.typedMm !== null"
        ><input v-model.number="r.typedMm" type="number" min="0.5" step="0.5" aria-label="length in mm" /> mm</label
      >
      <output v-else-if="measured(r)" class="code"
        >{{ measured(r)?.length_mm.toFixed(1) }} mm
        <small>({{ Math.round(measured(r)?.low_mm ?? 0) }} to {{ Math.round(measured(r)?.high_mm ?? 0) }})</small></output
      >
      <span v-else class="soft">{{ scaleReady ? 'measuring' : 'needs the scale' }}</span>
      <button type="button" class="drop" :aria-label="`Delete root ${i + 1}`" @click="draft.roots.splice(i, 1)">delete</button>
    </li>
  </ul>
  <p v-else class="soft">None noted.</p>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0;
  max-height: 340px;
  overflow: auto;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 9px;
  align-items: center;
  padding: 4px 6px;
  border-top: 1px solid var(--line);
  font-size: 15px;
}
li.on {
  background: var(--warm);
}
select,
input {
  border: 1px solid var(--ink2);
  border-radius: 8px;
  min-height: 38px;
  padding: 0 5px;
  background: var(--paper);
  color: var(--ink);
}
input {
  width: 74px;
}
small {
  color: var(--ink2);
  font-weight: 400;
}
.drop {
  margin-left: auto;
  text-decoration: underline;
  color: var(--rescue);
  min-height: 38px;
  padding: 0 6px;
}
@media (max-width: 700px) {
  select,
  input,
  .drop {
    min-height: 44px;
  }
}
p {
  margin: 0;
}
</style>
