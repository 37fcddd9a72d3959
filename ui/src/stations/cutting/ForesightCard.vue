<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear, scaleTime } from 'd3-scale'
import { line } from 'd3-shape'
import { computed, useTemplateRef } from 'vue'

import type { Schemas } from '@/api/client'
import { shortDate } from '@/kit/dates'

/** What is to be expected of a piece that roots: when it is ready, when it is best potted. By a model, and said so. */
const { foreseen, school } = defineProps<{ foreseen: Schemas['Foreseen']; school: string }>()

const high = 232
/** Drawn as wide as it is shown, so that its words are as large as all others. */
const box = useTemplateRef('box')
const { width } = useElementSize(box)
const wide = computed(() => Math.max(280, Math.round(width.value || 520)))
const dayMs = 86_400_000
const today = computed(() => new Date(new Date(foreseen.best_on).getTime() - foreseen.best_day.day * dayMs))
const end = computed(() => new Date(today.value.getTime() + (foreseen.best_day.curve.length - 1) * dayMs))
const x = computed(() => scaleTime([today.value, end.value], [20, wide.value - 12]))
const y = scaleLinear([0, 1], [140, 14])
const curve = computed(
  () =>
    line<number>(
      (_, i) => x.value(new Date(today.value.getTime() + i * dayMs)),
      (v) => y(Math.max(0, v)),
    )(foreseen.best_day.curve) ?? '',
)
const at = (iso: string | Date | undefined) => Math.min(wide.value - 12, Math.max(20, x.value(iso ? new Date(iso) : end.value)))
const best = computed(() => ({ x: at(foreseen.best_on), y: y(foreseen.best_day.curve[foreseen.best_day.day] ?? 0) }))
const ticks = computed(() => x.value.ticks(wide.value < 420 ? 4 : 7))
/** The part of the strip that lies in the coming weeks; what is past is cut off at today. */
const strip = computed(() => {
  const { first, middle, last } = foreseen
  if (!first && !middle) return undefined
  return { from: at(first), middle: middle ? at(middle) : undefined, to: at(last), openEnd: !last || new Date(last) > end.value }
})
const inTen = (p: number) => (p < 0.05 ? 'fewer than 1 in 20' : p > 0.95 ? 'more than 19 in 20' : `${Math.round(p * 20)} in 20`)
const ready = computed(() => {
  const { first, middle, last, p_ready } = foreseen
  if (p_ready >= 0.95) return ''
  if (!middle) return 'More likely than not it is not ready within 400 days of setting.'
  const by = new Date(middle) <= today.value ? 'perhaps by now' : `about ${shortDate(middle)}`
  return `Ready ${by}; 8 in 10 between ${first ? shortDate(first) : 'now'} and ${last ? shortDate(last) : 'later than 400 days'}.`
})
const waits = computed(() => (foreseen.best_day.curve[foreseen.best_day.day] ?? 0) - (foreseen.best_day.curve[0] ?? 0))
const potting = computed(() => {
  const { from, to, day } = foreseen.best_day
  if (from === 0 && waits.value < 0.01)
    return `Potting today is as good as later${to < 60 ? `, until ${shortDate(foreseen.good_to)}` : ''}.`
  return `Best potted about ${shortDate(foreseen.best_on)}${day >= 60 ? ' or later' : ''}; as good from ${shortDate(foreseen.good_from)} to ${to >= 60 ? 'later' : shortDate(foreseen.good_to)}.`
})
const percent = (v: number | undefined) => `${Math.round(100 * Math.max(0, v ?? 0))} in 100`
</script>

<template>
  <section ref="box" class="foresight" aria-label="What to expect">
    <h2>{{ foreseen.words }}</h2>
    <p v-if="ready">{{ ready }}</p>
    <p>{{ potting }}</p>
    <svg
      :viewBox="`0 0 ${wide} ${high}`"
      role="img"
      :aria-label="`Worth of potting on each of the coming days: ${percent(foreseen.best_day.curve[0])} today, ${percent(foreseen.best_day.curve[foreseen.best_day.day])} on ${shortDate(foreseen.best_on)}`"
    >
      <rect
        :x="at(foreseen.good_from)"
        y="14"
        :width="Math.max(3, at(foreseen.good_to) - at(foreseen.good_from))"
        height="126"
        class="good"
      />
      <text x="20" y="10" class="small">of 100 grow on, potted that day</text>
      <g v-for="v in [0.25, 0.5, 0.75, 1]" :key="v">
        <line x1="20" :x2="wide - 12" :y1="y(v)" :y2="y(v)" class="grid" />
        <text x="24" :y="y(v) + 12" class="small">{{ Math.round(100 * v) }}</text>
      </g>
      <path :d="curve" class="curve" />
      <circle :cx="best.x" :cy="best.y" r="5" class="best" />
      <text x="20" y="160" class="small">ready under {{ school }}</text>
      <template v-if="strip">
        <line :x1="strip.from" :x2="strip.to" y1="178" y2="178" class="strip" :class="{ open: strip.openEnd }" />
        <rect v-if="strip.middle !== undefined" :x="strip.middle - 2" y="168" width="4" height="20" class="middle" />
      </template>
      <line x1="20" x2="20" y1="14" y2="200" class="today" />
      <line x1="20" :x2="wide - 12" y1="200" y2="200" class="axis" />
      <g v-for="t in ticks" :key="t.getTime()">
        <line :x1="x(t)" :x2="x(t)" y1="197" y2="204" class="axis" />
        <text :x="x(t)" y="219" class="small" text-anchor="middle">
          {{ t.getDate() }} {{ t.toLocaleDateString('en-GB', { month: 'short' }) }}
        </text>
      </g>
    </svg>
    <dl>
      <div>
        <dt>Potted today</dt>
        <dd>{{ percent(foreseen.best_day.curve[0]) }}</dd>
      </div>
      <div>
        <dt>Potted {{ shortDate(foreseen.best_on) }}</dt>
        <dd>{{ percent(foreseen.best_day.curve[foreseen.best_day.day]) }}</dd>
      </div>
      <div v-if="foreseen.never > 0.005">
        <dt>Never roots</dt>
        <dd>{{ inTen(foreseen.never) }}</dd>
      </div>
      <div v-if="foreseen.lacks > 0.02">
        <dt>Roots, but never all that is wanted</dt>
        <dd>{{ inTen(foreseen.lacks) }}</dd>
      </div>
      <div v-if="foreseen.p_rot > 0.02">
        <dt>Rotten by now, unseen</dt>
        <dd>{{ inTen(foreseen.p_rot) }}</dd>
      </div>
    </dl>
    <p class="soft">
      By a model of cuttings like this one, with starting values of the group; nothing of it is published. What you see at the
      piece comes first.
    </p>
  </section>
</template>

<style scoped>
.foresight {
  display: grid;
  gap: 6px;
}
h2,
p {
  margin: 0;
}
svg {
  width: 100%;
  height: auto;
}
.good {
  fill: var(--ready);
  opacity: 0.16;
}
.grid {
  stroke: var(--line);
  stroke-width: 0.7;
}
.curve {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.2;
}
.best {
  fill: var(--ready);
}
.strip {
  stroke: var(--wait);
  stroke-width: 7;
  stroke-linecap: round;
}
.open {
  stroke-linecap: butt;
}
.middle {
  fill: var(--ink);
}
.today {
  stroke: var(--terra);
  stroke-dasharray: 3 3;
}
.axis {
  stroke: var(--wood);
}
.small {
  font-size: 13px;
  fill: var(--ink2);
}
dl {
  margin: 0;
}
dl div {
  display: flex;
  justify-content: space-between;
  border-top: 1px solid var(--line);
  padding: 5px 0;
}
dd {
  margin: 0;
  font-weight: 650;
}
</style>
