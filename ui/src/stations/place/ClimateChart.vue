<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear, scaleTime } from 'd3-scale'
import { area, line } from 'd3-shape'
import { computed, useTemplateRef } from 'vue'

import type { Schemas } from '@/api/client'
import { inDegrees, temperatureUnit } from '@/kit/units'

/** Temperature, humidity and deficit over the same days, one above the other; the wanted band behind, gaps as gaps. */
type Stretch = Schemas['Stretch']
const { climate, band } = defineProps<{ climate: Schemas['PlaceClimate']; band: Schemas['Band'] }>()
const box = useTemplateRef('box')
const { width } = useElementSize(box)
const w = computed(() => Math.max(280, width.value))
const one = 118
const pad = { left: 44, right: 10, top: 20, bottom: 8 }
const foot = 22
const step = computed(() => climate.step_minutes * 60_000)
const x = computed(() => scaleTime([new Date(climate.since), new Date(climate.until)], [pad.left, w.value - pad.right]))
const at = (s: Stretch) => new Date(new Date(s.from).getTime() + step.value / 2)
/** Runs without a gap of more than a step. */
const runs = computed(() => {
  const out: Stretch[][] = []
  for (const s of climate.stretches) {
    const last = out.at(-1)?.at(-1)
    if (last && new Date(s.from).getTime() - new Date(last.from).getTime() <= step.value * 1.6) out.at(-1)?.push(s)
    else out.push([s])
  }
  return out
})
const charts = computed(() => {
  const make = (
    key: 'temp' | 'humidity' | 'deficit',
    label: string,
    of: (v: number) => number,
    low: number | undefined,
    high: number | undefined,
    least: number,
    most: number,
    i: number,
  ) => {
    const values = climate.stretches.flatMap((s) => [of(s[key].min), of(s[key].max)])
    const y = scaleLinear(
      [Math.min(least, low ?? least, ...values), Math.max(most, high ?? most, ...values)],
      [(i + 1) * one - pad.bottom, i * one + pad.top],
    ).nice(4)
    return {
      key,
      label,
      y,
      top: i * one,
      wanted: low !== undefined && high !== undefined ? { y: y(high), height: Math.max(1, y(low) - y(high)) } : undefined,
      lines: runs.value.map(
        (r) =>
          line<Stretch>(
            (s) => x.value(at(s)),
            (s) => y(of(s[key].mean)),
          )(r) ?? '',
      ),
      areas: runs.value.map(
        (r) =>
          area<Stretch>()
            .x((s) => x.value(at(s)))
            .y0((s) => y(of(s[key].min)))
            .y1((s) => y(of(s[key].max)))(r) ?? '',
      ),
    }
  }
  return [
    make(
      'temp',
      `temperature, °${temperatureUnit.value}`,
      inDegrees,
      inDegrees(band.temp_low),
      inDegrees(band.temp_high),
      inDegrees(18),
      inDegrees(28),
      0,
    ),
    make('humidity', 'humidity, %', (v) => v, undefined, undefined, 40, 100, 1),
    make('deficit', 'deficit, kPa', (v) => Math.max(0, v), band.deficit_low, band.deficit_high, 0, 1, 2),
  ]
})
const height = one * 3 + foot
const tick = (d: Date) =>
  d.getHours() === 0 || climate.step_minutes >= 180
    ? d.toLocaleDateString('en-GB', { weekday: climate.step_minutes < 180 ? 'short' : undefined, day: 'numeric', month: 'short' })
    : d.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
const ticks = computed(() => x.value.ticks(Math.max(3, Math.floor(w.value / 110))))
</script>

<template>
  <figure ref="box">
    <svg :width="w" :height="height" role="img" :aria-label="climate.says.join(' ')">
      <g v-for="c in charts" :key="c.key">
        <rect
          v-if="c.wanted"
          :x="pad.left"
          :y="c.wanted.y"
          :width="w - pad.left - pad.right"
          :height="c.wanted.height"
          fill="var(--ready)"
          opacity="0.16"
        />
        <g v-for="v in c.y.ticks(4)" :key="v">
          <path :d="`M${pad.left} ${c.y(v)}H${w - pad.right}`" stroke="var(--line)" />
          <text :x="pad.left - 7" :y="c.y(v) + 4" text-anchor="end" font-size="12.5" fill="var(--ink2)">{{ v }}</text>
        </g>
        <path v-for="(d, i) in c.areas" :key="`a${i}`" :d="d" fill="var(--glass)" opacity="0.35" />
        <path
          v-for="(d, i) in c.lines"
          :key="`l${i}`"
          :d="d"
          fill="none"
          stroke="var(--ink)"
          stroke-width="1.6"
          stroke-linecap="round"
        />
        <text :x="pad.left" :y="c.top + 13" font-size="13" font-weight="600" fill="var(--ink)">
          {{ c.label }}
          <tspan v-if="c.wanted" fill="var(--ready)" font-weight="400">wanted: the green band</tspan>
        </text>
      </g>
      <text
        v-for="d in ticks"
        :key="d.getTime()"
        :x="x(d)"
        :y="height - 6"
        text-anchor="middle"
        font-size="12.5"
        fill="var(--ink2)"
      >
        {{ tick(d) }}
      </text>
    </svg>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  overflow: hidden;
}
svg {
  display: block;
}
</style>
