<script setup lang="ts">
import { computed } from 'vue'

import type { Cutting, Vessel } from '@/api/client'
import { baseHeight, drawnRoots, nodeAt, rises, type Walls } from '@/drawing/geometry'
import PieceDrawing from '@/drawing/PieceDrawing.vue'
import { pieceOf } from '@/drawing/pieceOf'
import PotDrawing from '@/drawing/PotDrawing.vue'
import VesselDrawing from '@/drawing/VesselDrawing.vue'
import { budWord } from '@/kit/words'

/** The cutting large and to scale, its numbers beside what they measure. */
const { cutting, vessel } = defineProps<{ cutting: Cutting; vessel?: Vessel | undefined }>()
const piece = computed(() => pieceOf(cutting))
const inner = computed(() => (cutting.pot ? cutting.pot.top_mm * 0.8 : (vessel?.width_mm ?? 80)))
const floor = computed(() => (vessel?.kind === 'jar' ? 6 : 2))
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
  cutting.pot ? { pot: cutting.pot, cut: true } : shape.value ? { vessel: shape.value } : {},
)
const width = computed(() => Math.max(120, (shape.value?.width_mm ?? cutting.pot?.top_mm ?? 70) + 58))
const height = computed(
  () => Math.max(shape.value?.height_mm ?? 0, cutting.pot?.depth_mm ?? 0, up.value + rises(piece.value, clear.value)) + 10,
)
const marks = computed(() => Array.from({ length: Math.floor(height.value / 10) }, (_, i) => i * 10))
const budOf = (n: number) => cutting.seen.buds.find((b) => b.node === n)?.bud
</script>

<template>
  <svg
    :viewBox="`${-width / 2} ${-height} ${width} ${height + 8}`"
    role="img"
    :aria-label="`${cutting.code} to scale: ${cutting.seen.roots.length} roots, longest ${Math.round(cutting.longest_mm)} mm`"
  >
    <component :is="cutting.pot ? PotDrawing : shape ? VesselDrawing : 'g'" v-bind="holder">
      <g :transform="`translate(0,${-up})`">
        <PieceDrawing :piece="piece" :walls="walls" :clear="clear" />
        <text
          v-for="(r, i) in labelled"
          :key="i"
          :x="r.tip.x + (r.tip.x > 0 ? 3 : -3)"
          :y="r.tip.y + 2"
          :text-anchor="r.tip.x > 0 ? 'start' : 'end'"
          class="len"
        >
          {{ Math.round(r.root.length_mm) }}
        </text>
        <text
          v-for="(_, i) in piece.nodes"
          :key="`n${i}`"
          :x="piece.thicknessMm / 2 + 5"
          :y="-nodeAt(piece, i + 1) + 2"
          class="node"
        >
          node {{ i + 1 }}
          <tspan v-if="budOf(i + 1)">, {{ budWord[budOf(i + 1) ?? ''] }}</tspan>
        </text>
      </g>
    </component>
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
        {{ m }}
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
  font: 650 6.6px var(--mono) !important;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 2px;
}
.node {
  font-size: 5.4px;
  fill: var(--ink2);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 1.4px;
}
</style>
