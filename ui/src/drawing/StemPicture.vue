<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'

import type { Stem } from '@/api/client'
import LyingLeaf from '@/drawing/LyingLeaf.vue'
import { shortDate } from '@/kit/dates'
import { len } from '@/kit/units'
import { count } from '@/kit/words'

/** A mapped stem lying on its side, base left, tip right, to scale; taken nodes are pale. */
const {
  stem,
  standing = Infinity,
  endMm,
  height = 120,
  knives = [],
  gone = [],
} = defineProps<{
  stem: Stem
  /** How many nodes stand, and where the stem ends now; left out, all of it stands. */
  standing?: number
  endMm?: number
  height?: number
  patterned?: boolean
  knives?: number[]
  /** What was taken when: the date is written over the pieces that left. */
  gone?: { on: string; nodes: { from_mm: number; to_mm: number }[] }[]
}>()

const marks = computed(() => {
  let at = 0
  return stem.nodes.map((node, i) => ({ n: i + 1, at: (at += node.below_mm), node, gone: i + 1 > standing }))
})
const length = computed(() => Math.max(60, (marks.value.at(-1)?.at ?? 0) + stem.beyond_mm))
const goneFrom = computed(() => (standing < stem.nodes.length ? (endMm ?? length.value) : length.value))
const spans = computed(() =>
  gone
    .filter((g) => g.nodes.length)
    .map((g) => ({
      on: shortDate(g.on),
      from: Math.min(...g.nodes.map((n) => n.from_mm)),
      to: Math.min(length.value, Math.max(...g.nodes.map((n) => n.to_mm))),
    })),
)
const box = useTemplateRef('box')
const { width: shown } = useElementSize(box)
const top = computed(() => leaf.value + 30)
/** Text keeps its size when the drawing shrinks. */
const text = computed(() => {
  const scale = Math.min(shown.value / (length.value + 12), height / (top.value + 44))
  return scale > 0 ? 13 / scale : 13
})
const leaf = computed(() => Math.min(52, Math.max(30, stem.thickness_mm * 5)))
</script>

<template>
  <svg
    ref="box"
    width="100%"
    :height="height"
    :viewBox="`-6 ${-top} ${length + 12} ${top + (spans.length ? 28 + text * 1.3 : 28)}`"
    preserveAspectRatio="xMidYMid meet"
    role="img"
    :aria-label="`Stem of ${count(stem.nodes.length, 'node', 'nodes')}, ${len(length)}`"
  >
    <g v-for="m in marks" :key="m.n" :opacity="m.gone ? 0.28 : 1">
      <LyingLeaf
        v-if="m.node.leaf"
        :transform="`translate(${m.at},0)`"
        :node="m.n"
        :length="leaf"
        :petiole="18"
        :patterned="patterned"
      />
      <path
        v-if="m.node.aerial_root"
        :d="`M${m.at} ${stem.thickness_mm / 2}q-1 6 3 11`"
        fill="none"
        stroke="#a5814f"
        stroke-width="2"
      />
    </g>
    <rect
      x="0"
      :y="-stem.thickness_mm / 2"
      :width="Math.max(0, goneFrom)"
      :height="stem.thickness_mm"
      rx="2"
      fill="var(--stem)"
      stroke="var(--stem-line)"
      stroke-width="0.8"
    />
    <rect
      v-if="goneFrom < length"
      :x="goneFrom"
      :y="-stem.thickness_mm / 2"
      :width="length - goneFrom"
      :height="stem.thickness_mm"
      rx="2"
      fill="none"
      stroke="var(--stem-line)"
      stroke-dasharray="4 4"
    />
    <rect
      v-for="m in marks"
      :key="`n${m.n}`"
      :x="m.at - 1.4"
      :y="-stem.thickness_mm / 2 - 1"
      width="2.8"
      :height="stem.thickness_mm + 2"
      rx="1.4"
      fill="var(--node)"
      :opacity="m.gone ? 0.3 : 1"
    />
    <g v-for="g in spans" :key="`g${g.from}`">
      <path :d="`M${g.from} 18v5H${g.to}v-5`" fill="none" stroke="var(--wood)" />
      <text :x="(g.from + g.to) / 2" :y="23 + text" text-anchor="middle" :font-size="text" fill="var(--ink2)">
        {{ (g.to - g.from) / text > 8 ? `taken ${g.on}` : g.on }}
      </text>
    </g>
    <path
      v-for="k in knives"
      :key="`k${k}`"
      :d="`M${k} ${-stem.thickness_mm / 2 - 14}v${stem.thickness_mm + 24}`"
      stroke="var(--terra)"
      stroke-width="3"
      stroke-linecap="round"
    />
  </svg>
</template>
