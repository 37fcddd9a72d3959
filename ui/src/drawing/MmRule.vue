<script setup lang="ts">
import { computed } from 'vue'

import { lengthUnit, lenNumber } from '@/kit/units'

/** A rule along x from the origin: a mark every 10 mm, a number where there is room for one. */
const { length, scale = 1 } = defineProps<{ length: number; scale?: number }>()
const every = computed(() => [50, 100, 200, 500].find((e) => e * scale >= 34) ?? 1000)
const small = computed(() => {
  let d = ''
  for (let x = 0; x <= length; x += 10) d += `M${(x * scale).toFixed(1)} 0v${x % 50 ? 4 : 8}`
  return d
})
const numbers = computed(() => Array.from({ length: Math.floor(length / every.value) + 1 }, (_, i) => i * every.value))
</script>

<template>
  <g aria-hidden="true">
    <path :d="`M0 0H${length * scale}`" stroke="var(--wood)" stroke-width="2" />
    <path :d="small" stroke="var(--wood)" stroke-width="1" />
    <text v-for="n in numbers" :key="n" :x="n * scale" y="21" text-anchor="middle" font-size="12" fill="var(--wood-ink)">
      {{ lenNumber(n) }}<template v-if="n === 0"> {{ lengthUnit }}</template>
    </text>
  </g>
</template>
