<script setup lang="ts">
import { reactive } from 'vue'

import { inUnit, len, lengthUnit, lenNumber, toMm } from '@/kit/units'
import { rootColours } from '@/kit/words'

import type { DraftRoot, LookDraft, Lengths } from './lookDraft'

/** One line a root: node, order, colour, length. */
const { draft, lengths, lowest, nodes } = defineProps<{
  draft: LookDraft
  lengths: Lengths
  lowest: number
  nodes: number
  scaleReady: boolean
}>()
const emit = defineEmits<{ given: [root: DraftRoot] }>()
const chosen = defineModel<string | undefined>('chosen')
const measured = (r: DraftRoot) => (r.typed ? undefined : (r.known ?? lengths.get(r.key)))
/** What is being typed stays as it was typed until the field is left. */
const texts = reactive<Record<string, string>>({})
/** Typed in the grower's own unit; an empty field is no length. */
function type(r: DraftRoot, text: string) {
  texts[r.key] = text
  const v = Number(text.replace(',', '.'))
  r.typedMm = text.trim() === '' || !Number.isFinite(v) || v <= 0 ? null : Math.round(toMm(v) * 10) / 10
}
const left = (r: DraftRoot) => Reflect.deleteProperty(texts, r.key)
const typedText = (r: DraftRoot) => (r.typedMm === null ? '' : String(Number(inUnit(r.typedMm).toFixed(2))))
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
        <select v-model.number="r.node" @change="emit('given', r)">
          <option v-for="n in nodes - lowest + 1" :key="n" :value="n + lowest - 1">{{ n + lowest - 1 }}</option>
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
      <label v-if="r.typed"
        ><input
          :value="texts[r.key] ?? typedText(r)"
          inputmode="decimal"
          :placeholder="'how long?'"
          :aria-label="`length in ${lengthUnit}`"
          @input="type(r, ($event.target as HTMLInputElement).value)"
          @blur="left(r)"
        />
        {{ lengthUnit }}</label
      >
      <label v-if="r.typed"
        ><span class="sr">measured with</span
        ><select :value="r.with ?? 'ruler'" @change="r.with = ($event.target as HTMLSelectElement).value as 'ruler'">
          <option value="ruler">by ruler</option>
          <option value="eye">by eye</option>
        </select></label
      >
      <output v-else-if="measured(r)" class="code"
        >{{ len(measured(r)?.length_mm ?? 0, 1) }}
        <small>({{ lenNumber(measured(r)?.low_mm ?? 0) }} to {{ lenNumber(measured(r)?.high_mm ?? 0) }})</small></output
      >
      <span v-else class="soft">{{ scaleReady ? 'measuring' : 'needs the scale' }}</span>
      <small v-for="word in r.says ?? []" :key="word" class="says">{{ word }}</small>
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
  font-size: var(--beside);
}
li.on {
  background: var(--warm);
}
select,
input {
  border: 1px solid var(--ink2);
  border-radius: var(--corner);
  min-height: 38px;
  padding: 0 5px;
  background: var(--paper);
  color: var(--ink);
}
input {
  width: 92px;
}
small {
  color: var(--ink2);
  font-weight: 400;
}
.says {
  flex-basis: 100%;
  order: 2;
  color: var(--rescue);
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
    min-height: var(--touch);
  }
}
p {
  margin: 0;
}
</style>
