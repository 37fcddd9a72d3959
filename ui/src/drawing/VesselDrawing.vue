<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'

import VesselCover from './VesselCover.vue'

/**
 * A vessel to scale, seen from the front, standing on the origin: x from the middle,
 * y up into negative. The slot draws what stands in it, between its back and its glass.
 */
type Shape = Pick<
  Schemas['VesselView'],
  'shape' | 'medium' | 'width_mm' | 'height_mm' | 'wall_mm' | 'fill_mm' | 'floor_mm' | 'taper'
> &
  Partial<Pick<Schemas['VesselView'], 'cover' | 'cover_usual' | 'clear'>>
const {
  vessel,
  uncovered,
  seen = [],
} = defineProps<{
  vessel: Shape
  /** What stands in it is kept with nothing over it. */
  uncovered?: boolean
  /** What was seen last and not yet seen to: it is drawn as it is. */
  seen?: string[]
}>()

/** What stands in it is drawn by the pattern of its medium, see PatternDefs. */
const fill = computed(() => `url(#${vessel.medium})`)
const w = computed(() => vessel.width_mm / 2)
const outer = computed(() => w.value + Math.max(0.8, vessel.wall_mm))
const h = computed(() => vessel.height_mm)
const floor = computed(() => vessel.floor_mm)
const fillTop = computed(() => -Math.min(vessel.fill_mm + floor.value, h.value))
/** Half width at a height above the floor, for vessels that taper. */
const halfAt = (up: number) => w.value * (vessel.taper + ((1 - vessel.taper) * up) / h.value)
const body = computed(() => {
  const up = -fillTop.value
  return `M${-halfAt(0)} ${-floor.value}L${-halfAt(up)} ${fillTop.value}H${halfAt(up)}L${halfAt(0)} ${-floor.value}Z`
})
const cover = computed(() => vessel.cover ?? (uncovered ? 'off' : (vessel.cover_usual ?? 'off')))
const has = (sign: string) => seen.includes(sign)
const glassy = computed(() => ['jar', 'box', 'cup', 'bag', 'bottle', 'saucer'].includes(vessel.shape))
/** Drops on the wall above the medium. */
const drops = computed(() => {
  const out: { x: number; y: number }[] = []
  const room = h.value + fillTop.value
  for (let i = 0; i < 14; i++)
    out.push({
      x: -w.value + 4 + ((i * 37) % Math.max(1, vessel.width_mm - 8)),
      y: fillTop.value - 6 - ((i * 23) % Math.max(1, room - 10)),
    })
  return out
})
</script>

<template>
  <g>
    <rect
      v-if="vessel.shape === 'jar' || vessel.shape === 'box'"
      :x="-outer"
      :y="-h"
      :width="outer * 2"
      :height="h"
      rx="4"
      fill="var(--glass-fill)"
    />
    <path
      v-if="vessel.shape === 'jar'"
      :d="`M${-w} ${fillTop}H${w}V${-floor - 3}a3 3 0 0 1 -3 3H${-w + 3}a3 3 0 0 1 -3 -3Z`"
      :fill="fill"
      opacity="0.85"
    />
    <path v-else :d="body" :fill="fill" />
    <ellipse
      v-if="vessel.clear"
      :cx="0"
      :cy="fillTop"
      :rx="halfAt(-fillTop)"
      ry="2.2"
      fill="none"
      stroke="var(--water-line)"
      stroke-width="0.9"
    />
    <path
      v-if="has('dry')"
      :d="`M${-halfAt(-fillTop)} ${fillTop + 2}H${halfAt(-fillTop)}`"
      stroke="var(--dry)"
      stroke-width="5"
    />
    <path
      v-if="has('pooled')"
      :d="`M${-halfAt(0) + 1} ${-floor - 4}H${halfAt(0) - 1}`"
      stroke="var(--water-line)"
      stroke-width="7"
      opacity="0.6"
    />
    <slot />
    <path v-if="has('cloudy') || has('smells')" :d="body" fill="url(#cloudy)" opacity="0.75" />
    <g v-if="has('mould')" fill="var(--card)" stroke="var(--ink2)" stroke-width="0.4">
      <circle v-for="i in 5" :key="i" :cx="-w * 0.7 + i * w * 0.24" :cy="fillTop - 1.5 - (i % 2)" :r="2 + (i % 3)" />
    </g>
    <g v-if="has('condensation')" fill="var(--water-line)">
      <ellipse v-for="(d, i) in drops" :key="i" :cx="d.x" :cy="d.y" rx="0.9" ry="1.8" />
    </g>

    <g v-if="glassy" fill="none" stroke="var(--glass)" stroke-width="1.5">
      <template v-if="vessel.shape === 'jar'">
        <path :d="`M${-outer} ${-h}V-5a5 5 0 0 0 5 5H${outer - 5}a5 5 0 0 0 5 -5V${-h}`" />
        <ellipse :cx="0" :cy="-h" :rx="outer" ry="3" />
        <path :d="`M${-outer + 5} ${-h * 0.86}V${-h * 0.5}`" opacity="0.7" />
      </template>
      <path v-else-if="vessel.shape === 'box'" :d="`M${-outer} ${-h}V-3a3 3 0 0 0 3 3H${outer - 3}a3 3 0 0 0 3 -3V${-h}`" />
      <path
        v-else-if="vessel.shape === 'bottle'"
        :d="`M${-outer} ${-h * 0.5}V-6a6 6 0 0 0 6 6H${outer - 6}a6 6 0 0 0 6 -6V${-h * 0.5}`"
      />
      <path
        v-else-if="vessel.shape === 'bag'"
        :d="`M${-w} ${-h}Q${-w - 4} ${-h * 0.4} ${-halfAt(0)} 0H${halfAt(0)}Q${w + 4} ${-h * 0.4} ${w} ${-h}`"
      />
      <template v-else>
        <path :d="`M${-w} ${-h}L${-halfAt(0)} 0H${halfAt(0)}L${w} ${-h}`" />
        <path :d="`M${-w - 2} ${-h}H${w + 2}`" stroke-width="2" />
      </template>
    </g>
    <g v-else fill="none" stroke="var(--pot)" stroke-width="2.4">
      <path :d="`M${-w} ${-h}L${-halfAt(0)} 0H${halfAt(0)}L${w} ${-h}Z`" />
      <g v-if="vessel.shape === 'basket'" stroke-width="0.9">
        <path v-for="i in 6" :key="i" :d="`M${-w + (i * w * 2) / 7} ${-h}L${-halfAt(0) + (i * halfAt(0) * 2) / 7} 0`" />
        <path v-for="i in 3" :key="`h${i}`" :d="`M${-halfAt((h * i) / 4)} ${(-h * i) / 4}H${halfAt((h * i) / 4)}`" />
      </g>
    </g>
    <VesselCover
      :shape="vessel.shape"
      :cover="cover"
      :half="vessel.shape === 'box' || vessel.shape === 'jar' ? outer : w"
      :height="h"
    />
  </g>
</template>
