<script setup lang="ts">
import { computed } from 'vue'

import { budAt, leafBlade, leafPattern, leafPieceLength, stalkLean, type Piece } from './geometry'

/** A leaf piece by its pose: set by its stalk, lying on top, or standing with its cut end in the medium. */
const { piece } = defineProps<{ piece: Piece }>()
const length = computed(() => leafPieceLength(piece))
const stalk = 25
const turn = computed(() => {
  if (piece.pose === 'on_top') return `translate(${-length.value / 2},-1) rotate(-4)`
  if (piece.pose === 'stalk') return `translate(${Math.sin(stalkLean) * stalk},${-Math.cos(stalkLean) * stalk}) rotate(-38)`
  return 'rotate(-90)'
})
/** Plantlets beside the base: as many as were counted; one where only a shoot was noted. */
const size = computed(() => ({ dormant: 0, swelling: 5, shooting: 10, leaf_open: 18 })[budAt(piece, 1)] ?? 0)
const young = computed(() => {
  const counted = (piece.young ?? []).reduce((sum, y) => sum + y.count, 0)
  const n = counted || (size.value ? 1 : 0)
  const mm = Math.max(size.value, counted ? 11 : 0)
  return Array.from({ length: n }, (_, i) => ({ x: (i % 2 ? 1 : -1) * (5 + 6 * Math.floor(i / 2)), mm: mm * (1 - 0.05 * i) }))
})
const at = computed(() => (piece.pose === 'on_top' ? { x: -length.value / 2, y: -2 } : { x: -2, y: -9 }))
</script>

<template>
  <g>
    <path
      v-if="piece.pose === 'stalk'"
      :d="`M0 0L${Math.sin(stalkLean) * stalk} ${-Math.cos(stalkLean) * stalk}`"
      stroke="var(--node)"
      stroke-width="3.4"
      stroke-linecap="round"
    />
    <g :transform="turn">
      <path :d="leafBlade(length)" fill="var(--leaf)" stroke="var(--leaf-line)" stroke-width="0.9" />
      <path v-if="piece.patterned" :d="leafPattern(length)" fill="var(--cream)" />
      <path :d="`M0 0L${length * 0.94} 0`" stroke="var(--leaf-line)" stroke-width="0.8" opacity="0.6" />
      <ellipse
        v-if="piece.pose === 'on_top'"
        cx="1"
        cy="0"
        rx="5"
        ry="3.4"
        fill="var(--cream)"
        stroke="var(--leaf-line)"
        stroke-width="0.6"
      />
    </g>
    <g v-for="(y, i) in young" :key="i" :transform="`translate(${at.x + y.x},${at.y})`">
      <path
        v-for="a in [-35, 0, 35]"
        :key="a"
        :transform="`rotate(${a - 90})`"
        :d="leafBlade(y.mm)"
        fill="#8fb768"
        stroke="var(--stem-line)"
        stroke-width="0.6"
      />
    </g>
  </g>
</template>
