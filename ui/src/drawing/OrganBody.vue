<script setup lang="ts">
import { computed } from 'vue'

/** The body of one part on the bench, by organ: a length of stem, a share of a clump, of a tuber, of a leaf. */
const { organ, x, y, w, t, slant, first, last, points } = defineProps<{
  organ: string
  x: number
  y: number
  w: number
  t: number
  stays: boolean
  slant: boolean
  first: boolean
  last: boolean
  /** Where its growing points are. */
  points: number[]
}>()

const stem = computed(() => {
  const cut = slant ? Math.min(w / 2, t * 0.7) : 0
  return `M${x + cut} ${y - t / 2}H${x + w}V${y + t / 2}H${x}Z`
})
/** Half as wide at the ends of the organ, so that it reads as one body cut apart. */
const body = computed(() => {
  const h = organ === 'leaf' ? Math.max(t * 1.6, 46) : Math.max(t * 1.2, 40)
  const a = first ? h * 0.25 : h / 2
  const b = last ? h * 0.12 : h / 2
  return `M${x} ${y - a}C${x + w * 0.35} ${y - h / 2} ${x + w * 0.65} ${y - h / 2} ${x + w} ${y - b}V${y + b}C${x + w * 0.65} ${y + h / 2} ${x + w * 0.35} ${y + h / 2} ${x} ${y + a}Z`
})
</script>

<template>
  <g v-if="organ === 'clump' || organ === 'pups'">
    <g v-for="at in points" :key="at" :transform="`translate(${at},${y - t / 2})`">
      <path
        d="M-3 0C-6 -40 -26 -60 -32 -72C-14 -66 -4 -40 0 -8C4 -44 2 -70 -2 -92C10 -72 10 -40 6 -6C12 -36 24 -54 36 -60C28 -44 14 -24 8 0Z"
        fill="var(--leaf)"
        stroke="var(--leaf-line)"
      />
    </g>
    <rect
      :x="x"
      :y="y - t / 2"
      :width="w"
      :height="t"
      rx="6"
      :fill="stays ? 'var(--dry)' : 'var(--stem)'"
      stroke="var(--stem-line)"
    />
  </g>
  <path v-else-if="organ === 'tuber'" :d="body" :fill="stays ? 'var(--dry)' : 'var(--mix)'" stroke="var(--mix-dark)" />
  <g v-else-if="organ === 'leaf'">
    <path :d="body" :fill="stays ? 'var(--dry)' : 'var(--leaf)'" stroke="var(--leaf-line)" />
    <path :d="`M${x} ${y}h${w}`" stroke="var(--leaf-line)" stroke-width="2" opacity="0.6" />
  </g>
  <path v-else :d="stem" :fill="stays ? 'var(--dry)' : 'var(--stem)'" stroke="var(--stem-line)" stroke-linejoin="round" />
</template>
