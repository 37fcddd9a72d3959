<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'

/** A pot to scale on the origin; with `cut` its mix and the roots in it show. */
const { pot } = defineProps<{ pot: Schemas['Pot']; cut?: boolean }>()
const t = computed(() => pot.top_mm / 2)
const b = computed(() => pot.bottom_mm / 2)
const h = computed(() => pot.depth_mm)
</script>

<template>
  <g>
    <template v-if="cut">
      <path :d="`M${-b} -2L${-t + 1} ${-h + 10}H${t - 1}L${b} -2Z`" fill="url(#mix)" />
      <slot />
      <path :d="`M${-t} ${-h}L${-b} 0H${b}L${t} ${-h}`" fill="none" stroke="var(--pot)" stroke-width="3" />
    </template>
    <template v-else>
      <slot />
      <path :d="`M${-t} ${-h}L${-b} 0H${b}L${t} ${-h}Z`" fill="var(--pot)" />
      <rect :x="-t - 3" :y="-h - 2" :width="t * 2 + 6" :height="Math.max(8, h * 0.12)" rx="1.5" fill="var(--pot-rim)" />
    </template>
  </g>
</template>
