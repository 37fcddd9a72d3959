<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear, scaleTime } from 'd3-scale'
import { line } from 'd3-shape'
import { computed, useTemplateRef } from 'vue'

import type { Schemas } from '@/api/client'
import { shortDate } from '@/kit/dates'

/** What is to be expected of a piece that roots: when it is ready, when it is best potted. By a model, and said so. */
const { foreseen, school } = defineProps<{ foreseen: Schemas['Foreseen']; school: string }>()

/** Drawn as wide as it is shown, so that its words are as large as all others. */
const box = useTemplateRef('box')
const { width } = useElementSize(box)
const wide = computed(() => Math.max(280, Math.round(width.value || 520)))
const dayMs = 86_400_000
const best = computed(() => foreseen.best_day)
const curveHigh = computed(() => (best.value ? 126 : 0))
const today = computed(() => new Date(foreseen.today))
const ahead = 60
const end = computed(() => new Date(today.value.getTime() + ahead * dayMs))
const x = computed(() => scaleTime([today.value, end.value], [20, wide.value - 12]))
const y = scaleLinear([0, 1], [140, 14])
const on = (days: number) => new Date(today.value.getTime() + days * dayMs).toISOString()
const curve = computed(
  () =>
    line<number>(
      (_, i) => x.value(new Date(today.value.getTime() + i * dayMs)),
      (v) => y(Math.max(0, v)),
    )(best.value?.curve ?? []) ?? '',
)
const at = (iso: string | undefined) => Math.min(wide.value - 12, Math.max(20, x.value(iso ? new Date(iso) : end.value)))
const ticks = computed(() => x.value.ticks(wide.value < 420 ? 4 : 7))
const strip = computed(() => {
  const { first, middle, last } = foreseen
  if (!first && !middle) return undefined
  const beyond = middle ? new Date(middle) > end.value : true
  return {
    from: at(first),
    middle: middle && !beyond ? at(middle) : undefined,
    to: at(last),
    beyond,
    later: first ? new Date(first) > end.value : true,
  }
})
const stripY = computed(() => 52 + curveHigh.value)
const inTen = (p: number) => (p < 0.05 ? 'fewer than 1 in 20' : p > 0.95 ? 'more than 19 in 20' : `${Math.round(p * 20)} in 20`)
const ready = computed(() => {
  const { first, middle, last, p_ready } = foreseen
  if (p_ready >= 0.95) return ''
  if (!middle) return 'More likely than not it is not ready within 400 days of setting.'
  const past = (iso?: string) => !iso || new Date(iso) <= today.value
  const by = past(middle) ? 'perhaps by now' : `about ${shortDate(middle)}`
  const never = foreseen.never + foreseen.lacks * (1 - foreseen.never)
  const may = never > 0.05 ? ` It may never be: ${inTen(never)}.` : ''
  if (last && past(last)) return `Ready by now, if it ever is.${may}`
  return `Ready ${by}; 8 in 10 between ${past(first) ? 'now' : shortDate(first ?? '')} and ${last ? shortDate(last) : 'later than 400 days'}.${may}`
})
const worth = (day: number) => best.value?.curve[Math.min(day, ahead)] ?? 0
const waits = computed(() => worth(best.value?.day ?? 0) - worth(0))
const pulls: Record<string, string> = {
  dark_season: 'the dark half of the year',
  rot: 'rot, which takes some each week',
  overgrowth: 'roots that grow too long for the pot',
}
const why = computed(() => {
  const all = (best.value?.why ?? []).map((p) => pulls[p] ?? p)
  return all.length ? ` Before it is likely ready, because of ${all.join(', and ')}.` : ''
})
const potting = computed(() => {
  const b = best.value
  if (!b) return 'It is not potted under this school: it stays in its mix and is uncovered.'
  if (b.from === 0 && waits.value < 0.01)
    return `Potting today is as good as later${b.to < ahead ? `, until ${shortDate(on(b.to))}` : ''}.${why.value}`
  return `Best potted about ${shortDate(on(b.day))}${b.day >= ahead ? ' or later' : ''}; as good between ${shortDate(on(b.from))} and ${b.to >= ahead ? 'later' : shortDate(on(b.to))}.${why.value}`
})
const percent = (v: number) => `${Math.round(100 * Math.max(0, v))} in 100`
const rows = computed(() => {
  const b = best.value
  if (!b) return []
  const out = [{ what: 'Potted today', day: 0 }]
  if (b.day > 0) out.push({ what: `Potted ${shortDate(on(b.day))}`, day: b.day })
  if (b.day < 45) out.push({ what: `Potted ${shortDate(on(ahead))}`, day: ahead })
  return out
})
</script>

<template>
  <section ref="box" class="foresight" aria-label="What to expect">
    <p v-if="ready">{{ ready }}</p>
    <p>{{ potting }}</p>
    <svg
      :viewBox="`0 0 ${wide} ${stripY + 76}`"
      role="img"
      :aria-label="
        best
          ? `Worth of potting on each of the coming days: ${percent(worth(0))} today, ${percent(worth(best.day))} on ${shortDate(on(best.day))}`
          : 'When it is ready'
      "
    >
      <template v-if="best">
        <rect :x="at(on(best.from))" y="14" :width="Math.max(3, at(on(best.to)) - at(on(best.from)))" height="126" class="good" />
        <text x="20" y="10" class="small">of 100 grow on, potted that day</text>
        <g v-for="v in [0.25, 0.5, 0.75, 1]" :key="v">
          <line x1="20" :x2="wide - 12" :y1="y(v)" :y2="y(v)" class="grid" />
          <text x="24" :y="y(v) + 12" class="small">{{ Math.round(100 * v) }}</text>
        </g>
        <path :d="curve" class="curve" />
        <circle :cx="at(on(best.day))" :cy="y(worth(best.day))" r="5" class="best" />
      </template>
      <text x="24" :y="stripY - 18" class="small">
        ready under {{ school }}
        <template v-if="strip?.later">: after {{ shortDate(end.toISOString()) }}</template>
      </text>
      <template v-if="strip && !strip.later">
        <line :x1="strip.from" :x2="strip.to" :y1="stripY" :y2="stripY" class="strip" />
        <rect v-if="strip.middle !== undefined" :x="strip.middle - 2" :y="stripY - 10" width="4" height="20" class="middle" />
      </template>
      <line x1="20" x2="20" y1="14" :y2="stripY + 22" class="today" />
      <line x1="20" :x2="wide - 12" :y1="stripY + 22" :y2="stripY + 22" class="axis" />
      <g v-for="t in ticks" :key="t.getTime()">
        <line :x1="x(t)" :x2="x(t)" :y1="stripY + 19" :y2="stripY + 26" class="axis" />
        <text :x="x(t)" :y="stripY + 41" class="small" text-anchor="middle">
          {{ t.getDate() }} {{ t.toLocaleDateString('en-GB', { month: 'short' }) }}
        </text>
      </g>
      <template v-for="d in foreseen.dark" :key="d.from">
        <line :x1="at(d.from)" :x2="at(d.to)" :y1="stripY + 54" :y2="stripY + 54" class="dark" />
        <text v-if="at(d.to) - at(d.from) > 70" :x="at(d.from)" :y="stripY + 72" class="small">dark weeks</text>
      </template>
    </svg>
    <dl>
      <div v-for="r in rows" :key="r.what">
        <dt>{{ r.what }}</dt>
        <dd :class="{ top: best && r.day === best.day }">{{ percent(worth(r.day)) }}</dd>
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
      By a model of cuttings like this one; nothing of it is published. What you see at the piece comes first.
      <router-link to="/expecting">How it is worked out</router-link>
    </p>
  </section>
</template>

<style scoped>
.foresight {
  display: grid;
  gap: 6px;
}
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
.dark {
  stroke: var(--wood);
  stroke-width: 6;
  opacity: 0.5;
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
dd.top {
  color: var(--ready);
}
</style>
