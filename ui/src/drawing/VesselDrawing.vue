<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'

/**
 * A vessel to scale, seen from the front, standing on the origin: x from the middle,
 * y up into negative. The slot draws what stands in it, between its back and its glass.
 */
type Shape = Pick<
  Schemas['VesselView'],
  'shape' | 'medium' | 'width_mm' | 'height_mm' | 'wall_mm' | 'fill_mm' | 'floor_mm' | 'taper'
>
const { vessel, uncovered } = defineProps<{
  vessel: Shape
  /** What stands in it is kept with nothing over it. */
  uncovered?: boolean
}>()

/** What stands in it is drawn by the pattern of its medium, see PatternDefs. */
const fill = computed(() => `url(#${vessel.medium})`)
const w = computed(() => vessel.width_mm / 2)
const outer = computed(() => w.value + Math.max(0.8, vessel.wall_mm))
const h = computed(() => vessel.height_mm)
const floor = computed(() => vessel.floor_mm)
const fillTop = computed(() => -Math.min(vessel.fill_mm + floor.value, h.value))
const taper = computed(() => vessel.taper)
/** Half width at a height above the floor, for vessels that taper. */
const halfAt = (up: number) => w.value * (taper.value + ((1 - taper.value) * up) / h.value)
const body = computed(() => {
  const up = -fillTop.value
  return `M${-halfAt(0)} ${-floor.value}L${-halfAt(up)} ${fillTop.value}H${halfAt(up)}L${halfAt(0)} ${-floor.value}Z`
})
</script>

<template>
  <g>
    <template v-if="vessel.shape === 'jar'">
      <rect :x="-outer" :y="-h" :width="outer * 2" :height="h" rx="5" fill="var(--glass-fill)" />
      <path :d="`M${-w} ${fillTop}H${w}V${-floor - 3}a3 3 0 0 1 -3 3H${-w + 3}a3 3 0 0 1 -3 -3Z`" :fill="fill" opacity="0.85" />
      <ellipse :cx="0" :cy="fillTop" :rx="w" ry="2.2" fill="none" stroke="var(--water-line)" stroke-width="0.9" />
      <slot />
      <g fill="none" stroke="var(--glass)" stroke-width="1.5">
        <path :d="`M${-outer} ${-h}V-5a5 5 0 0 0 5 5H${outer - 5}a5 5 0 0 0 5 -5V${-h}`" />
        <ellipse :cx="0" :cy="-h" :rx="outer" ry="3" />
        <path :d="`M${-outer + 5} ${-h * 0.86}V${-h * 0.5}`" opacity="0.7" />
      </g>
    </template>

    <template v-else-if="vessel.shape === 'box'">
      <rect :x="-outer" :y="-h" :width="outer * 2" :height="h" rx="3" fill="var(--glass-fill)" />
      <rect :x="-w" :y="fillTop" :width="w * 2" :height="-fillTop - floor" :fill="fill" />
      <slot />
      <g fill="none" stroke="var(--glass)" stroke-width="1.5">
        <path :d="`M${-outer} ${-h}V-3a3 3 0 0 0 3 3H${outer - 3}a3 3 0 0 0 3 -3V${-h}`" />
        <rect :x="-outer - 3" :y="-h - 5" :width="outer * 2 + 6" height="5" rx="1.5" fill="var(--glass-fill)" />
      </g>
    </template>

    <template v-else-if="vessel.shape === 'cup'">
      <path :d="body" :fill="fill" />
      <slot />
      <g fill="none" stroke="var(--glass)" stroke-width="1.5">
        <path :d="`M${-w} ${-h}L${-halfAt(0)} 0H${halfAt(0)}L${w} ${-h}`" />
        <path :d="`M${-w - 2} ${-h}H${w + 2}`" stroke-width="2.2" />
      </g>
    </template>

    <template v-else>
      <path :d="body" :fill="fill" />
      <slot />
      <path :d="`M${-w} ${-h}L${-halfAt(0)} 0H${halfAt(0)}L${w} ${-h}Z`" fill="none" stroke="var(--pot)" stroke-width="2.4" />
      <path
        v-if="!uncovered"
        :d="`M${-w + 3} ${-h}V${-h - w * 0.9}a${w - 3} ${w - 3} 0 0 1 ${2 * (w - 3)} 0V${-h}`"
        fill="var(--glass-fill)"
        stroke="var(--glass)"
        stroke-width="1.3"
      />
    </template>
  </g>
</template>
