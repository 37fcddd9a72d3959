<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { percent } from '@/kit/words'

/** From fewer and safer to more and riskier: the best plan for each number of pieces, to choose from. */
const { choices, now } = defineProps<{ choices: Schemas['Choice'][]; now: number }>()
defineEmits<{ choose: [knives: number[]] }>()

const w = 560
const h = 150
const x = computed(() => scaleLinear([1, Math.max(2, choices.length)], [34, w - 34]))
const y = computed(() => scaleLinear([0, Math.max(1, ...choices.map((c) => c.expected)) * 1.12], [h - 26, 12]))
const path = computed(
  () =>
    line<Schemas['Choice']>(
      (c) => x.value(c.pieces),
      (c) => y.value(c.expected),
    )(choices) ?? '',
)
</script>

<template>
  <section v-if="choices.length > 1" class="panel" aria-label="Fewer and safer, or more and riskier">
    <h2>Fewer and safer, or more and riskier</h2>
    <p class="soft">
      Plants expected from the best plan for each number of pieces; single nodes allowed. Choose a point to lay its knives.
    </p>
    <svg :viewBox="`0 0 ${w} ${h}`" aria-hidden="true">
      <path :d="`M20 ${h - 26}H${w - 20}`" stroke="var(--line)" />
      <path :d="path" fill="none" stroke="var(--ink)" stroke-width="2" />
      <g v-for="c in choices" :key="c.pieces" class="point" @click="$emit('choose', c.knives_mm)">
        <rect :x="x(c.pieces) - 22" y="0" width="44" :height="h" fill="transparent" />
        <circle
          :cx="x(c.pieces)"
          :cy="y(c.expected)"
          :r="c.pieces === now ? 8 : 5"
          :fill="c.pieces === now ? 'var(--terra)' : 'var(--card)'"
          stroke="var(--ink)"
          stroke-width="2"
        />
        <text :x="x(c.pieces)" :y="h - 8" text-anchor="middle" font-size="14" fill="var(--ink2)">{{ c.pieces }}</text>
      </g>
    </svg>
    <div class="row" role="group" aria-label="Number of pieces">
      <button
        v-for="c in choices"
        :key="c.pieces"
        type="button"
        :aria-pressed="c.pieces === now"
        @click="$emit('choose', c.knives_mm)"
      >
        <b>{{ c.pieces }}</b> {{ c.pieces === 1 ? 'piece' : 'pieces' }}: {{ c.expected.toFixed(1) }} plants
        <small>lose all: {{ percent(c.lose_all) }}</small>
      </button>
    </div>
  </section>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 640px;
  display: block;
}
.point {
  cursor: pointer;
}
p {
  margin: 2px 0 6px;
}
button {
  border: 1px solid var(--line);
  border-radius: 10px;
  padding: 4px 12px;
  min-height: 44px;
  text-align: left;
}
button[aria-pressed='true'] {
  border: 2px solid var(--terra);
}
small {
  display: block;
  color: var(--ink2);
}
</style>
