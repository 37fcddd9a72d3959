<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'
import { computed, useTemplateRef } from 'vue'

import type { Schemas } from '@/api/client'
import { len, lengthUnit, lenNumber } from '@/kit/units'

/** The longest root over time, the length the school wants, and the forecast with its band. */
const { points, judgement, wanted, today, potted } = defineProps<{
  points: Schemas['LongestAt'][]
  judgement: Schemas['Judgement']
  wanted: Schemas['Number']
  today: number
  potted: boolean
}>()
const box = useTemplateRef('box')
const { width } = useElementSize(box)
const h = 210
const pad = { left: 40, right: 14, top: 16, bottom: 30 }
const f = computed(() => (judgement.verdict === 'wait' ? judgement.forecast : undefined))
const last = computed(() => points.at(-1)?.day ?? 0)
const farthest = computed(() =>
  Math.max(today, last.value, f.value?.band?.at(-1)?.day ?? 0, f.value ? f.value.reach_day + 4 : 0, 10),
)
const x = computed(() => scaleLinear([0, farthest.value], [pad.left, Math.max(260, width.value) - pad.right]))
const y = computed(() =>
  scaleLinear([0, Math.max(wanted.value * 1.15, ...points.map((p) => p.high_mm), 12)], [h - pad.bottom, pad.top]).nice(),
)
const path = computed(
  () =>
    line<Schemas['LongestAt']>(
      (p) => x.value(p.day),
      (p) => y.value(p.mm),
    )(points) ?? '',
)
const ceiling = computed(() => y.value.domain()[1] ?? 0)
const band = computed(() =>
  f.value?.band.length
    ? (area<Schemas['BandPoint']>()
        .x((b) => x.value(b.day))
        .y0((b) => y.value(Math.min(b.low_mm, ceiling.value)))
        .y1((b) => y.value(Math.min(b.high_mm, ceiling.value)))(f.value.band) ?? '')
    : '',
)
const ahead = computed(() =>
  f.value?.band.length
    ? (line<Schemas['BandPoint']>()
        .x((b) => x.value(b.day))
        .y((b) => y.value(Math.min(b.mid_mm, ceiling.value)))(f.value.band) ?? '')
    : '',
)
const summary = computed(
  () => `Longest root: ${points.map((p) => `day ${Math.round(p.day)}, ${len(p.mm)}`).join('; ')}. Wanted: ${len(wanted.value)}.`,
)
</script>

<template>
  <figure ref="box">
    <h3>Longest root, {{ lengthUnit }}</h3>
    <svg :width="Math.max(260, width)" :height="h" role="img" :aria-label="summary">
      <g v-for="v in y.ticks(4)" :key="v">
        <path :d="`M${pad.left} ${y(v)}H${x(farthest)}`" stroke="var(--line)" />
        <text :x="pad.left - 7" :y="y(v) + 4" text-anchor="end" font-size="12.5" fill="var(--ink2)">{{ lenNumber(v) }}</text>
      </g>
      <text v-for="d in x.ticks(6)" :key="`d${d}`" :x="x(d)" :y="h - 10" text-anchor="middle" font-size="12.5" fill="var(--ink2)">
        {{ d === 0 ? 'set' : `day ${d}` }}
      </text>
      <path v-if="band" :d="band" fill="var(--wait)" opacity="0.22" />
      <path v-if="ahead" :d="ahead" stroke="var(--wait)" stroke-dasharray="4 4" fill="none" />
      <path
        :d="`M${pad.left} ${y(wanted.value)}H${x(farthest)}`"
        stroke="var(--ready)"
        stroke-width="1.6"
        stroke-dasharray="7 4"
      />
      <text :x="pad.left + 6" :y="y(wanted.value) - 6" font-size="13" fill="var(--ready)">{{ len(wanted.value) }} wanted</text>
      <path v-if="!potted" :d="`M${x(today)} ${pad.top}V${h - pad.bottom}`" stroke="var(--terra)" stroke-width="1.2" />
      <path :d="path" fill="none" stroke="var(--ink)" stroke-width="2" />
      <g v-for="p in points" :key="p.on">
        <path :d="`M${x(p.day)} ${y(p.low_mm)}V${y(p.high_mm)}`" stroke="var(--ink)" />
        <circle :cx="x(p.day)" :cy="y(p.mm)" r="4" fill="var(--paper)" stroke="var(--ink)" stroke-width="1.8" />
      </g>
    </svg>
    <figcaption v-if="f" class="soft">About {{ len(f.rate_mm_a_day, 1) }} a day: {{ f.basis }}.</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  min-width: 0;
}
figcaption {
  font-size: var(--small);
}
</style>
