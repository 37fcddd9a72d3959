<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'

import type { Cutting, Vessel } from '@/api/client'
import { along, baseHeight, drawnRoots, nodeAt, rises, stemLength, lies, type Walls } from '@/drawing/geometry'
import PieceDrawing from '@/drawing/PieceDrawing.vue'
import { pieceOf } from '@/drawing/pieceOf'
import PotDrawing from '@/drawing/PotDrawing.vue'
import VesselDrawing from '@/drawing/VesselDrawing.vue'
import { len, lenNumber } from '@/kit/units'
import { budWord, count } from '@/kit/words'

/** The cutting large and to scale, its numbers beside what they measure. */
const { cutting, vessel } = defineProps<{ cutting: Cutting; vessel?: Vessel | undefined }>()
const piece = computed(() => pieceOf(cutting))
const inner = computed(() => (cutting.pot ? cutting.pot.top_mm * 0.8 : (vessel?.width_mm ?? 80)))
const floor = computed(() => vessel?.floor_mm ?? 2)
const up = computed(() =>
  cutting.pot
    ? Math.max(12, baseHeight(piece.value, cutting.pot.depth_mm - 12))
    : vessel
      ? baseHeight(piece.value, vessel.fill_mm) + floor.value
      : 4,
)
/** Above the base, where water or mix ends. */
const clear = computed(() => {
  const surface = cutting.pot ? cutting.pot.depth_mm - 8 : vessel ? vessel.fill_mm + floor.value : 0
  return Math.max(0, surface - up.value)
})
const walls = computed<Walls | undefined>(() => {
  if (!vessel && !cutting.pot) return undefined
  // A wide box is drawn as the part of it around this piece.
  const half = Math.min(inner.value, 110) / 2 - 3
  return { left: -half, right: half, floor: up.value - floor.value - 2 }
})
const shape = computed(() => (vessel ? { ...vessel, width_mm: Math.min(vessel.width_mm, 112) } : undefined))
const labelled = computed(() =>
  drawnRoots(piece.value, walls.value)
    .filter((r) => r.root.order === 1)
    .sort((a, b) => b.root.length_mm - a.root.length_mm)
    .slice(0, 4),
)
const holder = computed<Record<string, unknown>>(() =>
  cutting.pot ? { pot: cutting.pot, cut: true } : shape.value ? { vessel: shape.value, uncovered: cutting.uncovered } : {},
)
const width = computed(() =>
  Math.max(120, (shape.value?.width_mm ?? cutting.pot?.top_mm ?? 70) + 58, lies(piece.value) ? stemLength(piece.value) + 70 : 0),
)
const box = useTemplateRef('box')
const { width: shownWidth, height: shownHeight } = useElementSize(box)
/** mm a pixel, as the drawing is shown: text keeps its size when the drawing shrinks. */
const mmPerPx = computed(() => {
  const scale = Math.min(shownWidth.value / width.value, shownHeight.value / (height.value + 8))
  return scale > 0 ? 1 / scale : 0.36
})
const height = computed(
  () => Math.max(shape.value?.height_mm ?? 0, cutting.pot?.depth_mm ?? 0, up.value + rises(piece.value, clear.value)) + 10,
)
const marks = computed(() => Array.from({ length: Math.floor(height.value / 10) }, (_, i) => i * 10))
const nameOf = (n: number) => {
  const bud = budOf(n)
  return (lies(piece.value) ? `${n}` : `node ${n}`) + (bud ? `, ${budWord[bud] ?? ''}` : '')
}
const budOf = (n: number) => cutting.seen.buds.find((b) => b.node === n)?.bud
const named = computed(() => piece.value.pose === 'upright' || lies(piece.value))
const lowest = computed(() => piece.value.lowest ?? 1)
</script>

<template>
  <svg
    ref="box"
    :viewBox="`${-width / 2} ${-height} ${width} ${height + 8}`"
    role="img"
    :style="{ '--len': `${13.5 * mmPerPx}px`, '--small': `${12.5 * mmPerPx}px`, '--halo': `${3 * mmPerPx}px` }"
    :aria-label="`${cutting.code} to scale: ${count(cutting.seen.roots.length, 'root', 'roots')}, longest ${len(cutting.longest_mm)}`"
  >
    <component :is="cutting.pot ? PotDrawing : shape ? VesselDrawing : 'g'" v-bind="holder">
      <g :transform="`translate(0,${-up})`">
        <PieceDrawing :piece="piece" :walls="walls" :clear="clear" />
      </g>
    </component>
    <!-- Over the glass and the pot, so that no number is hidden by them. -->
    <g :transform="`translate(0,${-up})`">
      <text
        v-for="(r, i) in labelled"
        :key="i"
        :x="r.tip.x + (r.tip.x > 0 ? 3 : -3)"
        :y="r.tip.y + 2"
        :text-anchor="r.tip.x > 0 ? 'start' : 'end'"
        class="len"
      >
        {{ lenNumber(r.root.length_mm) }}
      </text>
      <text
        v-for="(_, i) in named ? piece.nodes : []"
        :key="`n${i}`"
        :x="along(piece, nodeAt(piece, i + 1)).x + (lies(piece) ? 0 : piece.thicknessMm / 2 + 5)"
        :y="along(piece, nodeAt(piece, i + 1)).y + (lies(piece) ? piece.thicknessMm / 2 + 14 * mmPerPx : 4 * mmPerPx)"
        :text-anchor="lies(piece) ? 'middle' : 'start'"
        class="node"
      >
        {{ nameOf(lowest + i) }}
      </text>
    </g>
    <g aria-hidden="true">
      <path v-for="m in marks" :key="m" :d="`M${width / 2 - (m % 50 ? 5 : 9)} ${-m}h9`" stroke="var(--wood)" stroke-width="0.7" />
      <text
        v-for="m in marks.filter((v) => v % 50 === 0)"
        :key="`t${m}`"
        :x="width / 2 - 11"
        :y="-m + 2"
        text-anchor="end"
        class="node"
      >
        {{ lenNumber(m) }}
      </text>
      <path :d="`M${-width / 2} 0H${width / 2}`" stroke="var(--wood)" stroke-width="2" />
    </g>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  max-height: 560px;
}
.len {
  font: 650 var(--len) var(--mono) !important;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: var(--halo);
}
.node {
  font-size: var(--small);
  fill: var(--ink2);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: var(--halo);
}
</style>
