<script setup lang="ts">
import { computed } from 'vue'

import { leafBlade, nodeAt, stemLength, type Piece } from './geometry'

/** A strand whose bared lower end is in the medium: up to the rim, over it, and down outside, its pairs of leaves along it. */
const { piece, clear } = defineProps<{ piece: Piece; clear: number }>()
const up = computed(() => Math.max(24, clear + 22))
const arch = 26
/** The place of what is so many mm along it. */
function place(mm: number): { x: number; y: number } {
  if (mm <= up.value) return { x: 0, y: -mm }
  const bend = (Math.PI * arch) / 2
  const over = mm - up.value
  if (over <= bend * 2) {
    const a = over / arch
    return { x: arch * (1 - Math.cos(a)), y: -up.value - arch * Math.sin(a) * 0.6 }
  }
  return { x: 2 * arch, y: -up.value + (over - bend * 2) }
}
const length = computed(() => stemLength(piece))
const line = computed(() => {
  let d = ''
  for (let mm = 0; mm <= length.value; mm += 3) {
    const p = place(mm)
    d += `${mm ? 'L' : 'M'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`
  }
  return d
})
const pairs = computed(() =>
  piece.nodes.map((node, i) => ({ n: i + 1, ...place(nodeAt(piece, i + 1)), leaf: node.leaf && i + 1 > piece.setNodes })),
)
</script>

<template>
  <g>
    <path :d="line" fill="none" stroke="var(--stem-line)" :stroke-width="Math.max(2, piece.thicknessMm)" stroke-linecap="round" />
    <path
      :d="line"
      fill="none"
      stroke="var(--stem)"
      :stroke-width="Math.max(1.2, piece.thicknessMm - 1)"
      stroke-linecap="round"
    />
    <g v-for="p in pairs" :key="p.n" :transform="`translate(${p.x},${p.y})`">
      <circle r="2" fill="var(--node)" />
      <template v-if="p.leaf">
        <path
          v-for="turn in [-30, 210]"
          :key="turn"
          :transform="`rotate(${turn})`"
          :d="leafBlade(14)"
          fill="var(--leaf)"
          stroke="var(--leaf-line)"
          stroke-width="0.6"
        />
      </template>
    </g>
  </g>
</template>
