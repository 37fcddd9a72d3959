<script setup lang="ts">
import { computed } from 'vue'

import type { Cutting, Vessel } from '@/api/client'
import PieceDrawing from '@/drawing/PieceDrawing.vue'
import VesselDrawing from '@/drawing/VesselDrawing.vue'
import { placedIn, reach } from '@/stations/shelf/placing'

/** One vessel with what stands in it, to scale, as large as its place allows; its cover and its water as they are. */
const {
  vessel,
  cuttings,
  cover,
  seen = [],
  most = 250,
  keep,
} = defineProps<{
  vessel: Vessel
  cuttings: Cutting[]
  cover?: Vessel['cover']
  seen?: string[]
  /** The most it may be high, in pixels. */
  most?: number
  /** Between which heights its water is kept when the pieces stand on its floor: then they are drawn so, mm. */
  keep?: { least_mm: number; most_mm: number } | undefined
}>()
const emit = defineEmits<{ piece: [id: string] }>()
const shown = computed(() => ({ ...vessel, ...(cover ? { cover } : {}) }))
const placed = computed(() => placedIn(shown.value, cuttings, keep !== undefined))
const height = computed(() => reach(shown.value, cuttings, keep !== undefined) + 4)
const width = computed(() => Math.max(vessel.width_mm + 60, 150))
const uncovered = computed(() => cuttings.length > 0 && cuttings.every((c) => c.uncovered))
</script>

<template>
  <svg
    :viewBox="`${-width / 2} ${-height} ${width} ${height + 4}`"
    :style="{ maxHeight: `${most}px` }"
    role="img"
    :aria-label="`${vessel.name}, to scale: ${cuttings.map((c) => c.code).join(', ') || 'empty'}`"
  >
    <VesselDrawing :vessel="shown" :uncovered="uncovered" :seen="seen">
      <g
        v-for="p in placed"
        :key="p.cutting.id"
        :transform="`translate(${p.x},${-p.up})`"
        class="piece"
        @click="emit('piece', p.cutting.id)"
      >
        <PieceDrawing :piece="p.piece" :walls="p.walls" :clear="p.clear" />
      </g>
    </VesselDrawing>
    <g v-if="keep && keep.most_mm >= keep.least_mm" stroke="var(--ready)" fill="none" stroke-width="1.4">
      <path :d="`M${vessel.width_mm / 2 + 9} ${-vessel.floor_mm - keep.least_mm}h-5V${-vessel.floor_mm - keep.most_mm}h5`" />
    </g>
    <path :d="`M${-width / 2} 0H${width / 2}`" stroke="var(--wood)" stroke-width="2.4" />
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
}
.piece {
  cursor: pointer;
}
</style>
