<script setup lang="ts">
import { computed } from 'vue'

import { domeRise } from './geometry'

/**
 * What covers a vessel, as it stands: shut, with holes, ajar, off by day (drawn beside, thin), or off (not drawn). half is
 * half the width at the rim, height that of the rim above the shelf, mm.
 */
const { shape, cover, half, height } = defineProps<{ shape: string; cover: string; half: number; height: number }>()
const lidded = computed(() => ['jar', 'box', 'cup'].includes(shape))
const domed = computed(() => shape === 'pot' || shape === 'saucer')
const rise = computed(() => domeRise(shape, half * 2))
/** Ajar it is lifted at its right side; by day it leans at the foot. */
const put = computed(() => {
  if (cover === 'ajar') return `rotate(${domed.value ? 7 : -9} ${domed.value ? half : -half} ${-height})`
  if (cover === 'by_day') return lidded.value ? `translate(${half + 7} ${-4}) rotate(78 0 0)` : `translate(0 0)`
  return undefined
})
const dash = computed(() => (cover === 'by_day' ? '3 3' : undefined))
const holes = computed(() => [-0.45, 0, 0.45].map((f) => f * half))
const top = computed(() => -height * 0.5)
</script>

<template>
  <g v-if="cover !== 'off'" fill="none" stroke="var(--glass)" stroke-width="1.3">
    <g v-if="lidded" :transform="put">
      <template v-if="cover === 'by_day'">
        <rect
          :x="-height * 0.4"
          y="-2.5"
          :width="height * 0.8"
          height="5"
          rx="1.5"
          fill="var(--glass-fill)"
          :stroke-dasharray="dash"
        />
      </template>
      <template v-else>
        <rect :x="-half - 3" :y="-height - 5" :width="half * 2 + 6" height="5" rx="1.5" fill="var(--glass-fill)" />
        <g v-if="cover === 'vented'" fill="var(--paper)" stroke-width="0.9">
          <circle v-for="x in holes" :key="x" :cx="x" :cy="-height - 2.5" r="1.7" />
        </g>
      </template>
    </g>
    <g v-else-if="domed" :transform="put">
      <path
        :d="`M${-half + 3} ${-height}V${-height - rise * 0.5}a${half - 3} ${rise * 0.5} 0 0 1 ${2 * (half - 3)} 0V${-height}`"
        fill="var(--glass-fill)"
        :stroke-dasharray="dash"
      />
      <g v-if="cover === 'vented'" fill="var(--paper)" stroke-width="0.9">
        <circle v-for="x in holes" :key="x" :cx="x" :cy="-height - rise * 0.82" r="1.7" />
      </g>
    </g>
    <g v-else-if="shape === 'bottle'" :stroke-dasharray="dash">
      <path
        :d="`M${-half} ${top}V${-height * 0.8}Q${-half} ${-height * 0.92} ${-half * 0.22} ${-height * 0.95}V${-height}H${half * 0.22}V${-height * 0.95}Q${half} ${-height * 0.92} ${half} ${-height * 0.8}V${top}`"
        fill="var(--glass-fill)"
        :transform="cover === 'ajar' ? `rotate(4 ${half} ${top})` : undefined"
      />
      <rect
        v-if="cover === 'on'"
        :x="-half * 0.26"
        :y="-height - 9"
        :width="half * 0.52"
        height="10"
        rx="2"
        fill="var(--pot)"
        stroke="var(--pot)"
      />
    </g>
    <g v-else-if="shape === 'bag'">
      <path v-if="cover === 'on' || cover === 'vented'" :d="`M${-half} ${-height}H${half}`" stroke-width="3" />
      <path v-else :d="`M${-half} ${-height}q${half} ${cover === 'ajar' ? 7 : 16} ${half * 2} 0`" :stroke-dasharray="dash" />
      <g v-if="cover === 'vented'" fill="var(--paper)" stroke-width="0.9">
        <circle v-for="x in holes" :key="x" :cx="x" :cy="-height + 9" r="1.7" />
      </g>
    </g>
  </g>
</template>
