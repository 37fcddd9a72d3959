<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed, useTemplateRef } from 'vue'

import type { Schemas } from '@/api/client'
import { percent } from '@/kit/words'

/** From fewer and safer to more and riskier: the best plan for each number of pieces; slide along. */
const { choices, now, counts } = defineProps<{ choices: Schemas['Choice'][]; now: number; counts: number[] }>()
const emit = defineEmits<{ choose: [choice: Schemas['Choice']] }>()

const box = useTemplateRef('box')
const { width } = useElementSize(box)
/** Drawn in the pixels there are, so that its text keeps its size. */
const w = computed(() => Math.min(700, Math.max(250, width.value)))
const h = 150
const ground = h - 30
const x = computed(() => scaleLinear([choices[0]?.pieces ?? 1, Math.max(2, choices.at(-1)?.pieces ?? 2)], [44, w.value - 44]))
const y = computed(() => scaleLinear([0, Math.max(1, ...choices.map((c) => c.expected)) * 1.2], [ground, 14]))
const lose = scaleLinear([0, 1], [0, ground - 14])
const path = computed(
  () =>
    line<Schemas['Choice']>(
      (c) => x.value(c.pieces),
      (c) => y.value(c.expected),
    )(choices) ?? '',
)
const at = computed(() => choices.findIndex((c) => c.pieces === now))
const here = computed(() => choices[at.value])
const plants = (n: number) => `${n} ${n === 1 ? 'plant' : 'plants'}`
const says = (c: Schemas['Choice']) =>
  `${c.pieces} ${c.pieces === 1 ? 'piece' : 'pieces'}: ${c.expected.toFixed(1)} plants expected, each ${percent(c.surest)}, ${percent(c.lose_all)} to lose all. Best at: ${c.best.join(', ')}`
const most = computed(() => Math.max(...counts))
</script>

<template>
  <section v-if="choices.length > 1" class="panel" aria-label="Fewer and safer, or more and riskier">
    <h2>Fewer and safer, or more and riskier</h2>
    <p ref="box">
      <b>{{ here ? says(here) : `${now === 1 ? '1 piece' : `${now} pieces`} of your own` }}.</b>
      <span class="soft">
        Line: plants expected of the best plan for each number of pieces; bars: chance to lose all. Slide along.</span
      >
    </p>
    <svg :width="w" :height="h" aria-hidden="true">
      <path :d="`M24 ${ground}H${w - 20}`" stroke="var(--wood)" />
      <rect
        v-for="c in choices"
        :key="`b${c.pieces}`"
        :x="x(c.pieces) - 6"
        :y="ground - lose(c.lose_all)"
        width="12"
        :height="lose(c.lose_all)"
        fill="var(--rescue)"
        opacity="0.35"
      />
      <path :d="path" fill="none" stroke="var(--ink)" stroke-width="1.6" />
      <g v-for="c in choices" :key="c.pieces" class="point" @click="emit('choose', c)">
        <rect :x="x(c.pieces) - 22" y="0" width="44" :height="h" fill="transparent" />
        <circle
          :cx="x(c.pieces)"
          :cy="y(c.expected)"
          :r="c.pieces === now ? 8 : 5"
          :fill="c.pieces === now ? 'var(--terra)' : 'var(--card)'"
          stroke="var(--ink)"
          stroke-width="1.6"
        />
        <text :x="x(c.pieces)" :y="h - 10" text-anchor="middle" font-size="14" fill="var(--ink2)">{{ c.pieces }}</text>
      </g>
    </svg>
    <input
      class="slide"
      type="range"
      aria-label="Number of pieces"
      :min="0"
      :max="choices.length - 1"
      :value="at < 0 ? 0 : at"
      :aria-valuetext="here ? says(here) : 'your own knives'"
      @input="emit('choose', choices[Number(($event.target as HTMLInputElement).value)]!)"
    />
    <h3>How many plants, as the knives lie now</h3>
    <ul class="counts" aria-label="Chance of each number of plants">
      <li v-for="(p, n) in counts" :key="n" :aria-label="`${plants(n)}: ${percent(p)}`">
        <span class="bar" :style="{ height: `${(46 * p) / Math.max(0.01, most)}px` }" />
        <b>{{ n }}</b><small>{{ percent(p) }}</small>
      </li>
    </ul>
  </section>
</template>

<style scoped>
svg {
  display: block;
}
h2 {
  margin-bottom: 6px;
}
.point {
  cursor: pointer;
}
p {
  margin: 2px 0 4px;
  font-size: var(--beside);
}
.slide {
  width: calc(100% - 24px);
  max-width: 676px;
  margin: 0 12px;
  height: 44px;
  accent-color: var(--terra);
}
.counts {
  list-style: none;
  padding: 6px 0 0;
  margin: 0;
  display: flex;
  gap: 6px;
  align-items: end;
  overflow-x: auto;
}
.counts li {
  display: grid;
  justify-items: center;
  min-width: 52px;
}
.bar {
  width: 26px;
  background: var(--ready);
  border-radius: 4px 4px 0 0;
  min-height: 1px;
}
small {
  color: var(--ink2);
  white-space: nowrap;
}
</style>
