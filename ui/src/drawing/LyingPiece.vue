<script setup lang="ts">
import { computed } from 'vue'

import { along, budAt, hasLeaf, leafBlade, leafLength, leafPattern, nodeAt, side, stemLength, type Piece } from './geometry'

/** A rhizome or runner piece along the surface, its buds and leaves up; the origin is its middle. */
const { piece } = defineProps<{ piece: Piece }>()
const length = computed(() => stemLength(piece))
const half = computed(() => piece.thicknessMm / 2)
const leaf = computed(() => leafLength(piece))
const nodes = computed(() =>
  piece.nodes.map((node, i) => ({
    n: i + 1,
    x: along(piece, nodeAt(piece, i + 1)).x,
    s: side(i + 1),
    leaf: hasLeaf(piece, i + 1),
    aerial: node.aerial_root,
    bud: budAt(piece, i + 1),
  })),
)
const shoot: Record<string, number> = { swelling: 6, shooting: 16, leaf_open: 12 }
</script>

<template>
  <g>
    <g v-for="n in nodes" :key="n.n">
      <template v-if="n.leaf">
        <path
          :d="`M${n.x} ${-half}C${n.x} ${-half - 12} ${n.x + n.s * 4} ${-half - 16} ${n.x + n.s * 6} ${-half - 22}`"
          fill="none"
          stroke="var(--node)"
          :stroke-width="Math.max(1.6, piece.thicknessMm * 0.24)"
        />
        <g :transform="`translate(${n.x + n.s * 6},${-half - 22}) rotate(${n.s > 0 ? -52 : -128})`">
          <path :d="leafBlade(leaf)" fill="var(--leaf)" stroke="var(--leaf-line)" stroke-width="0.8" />
          <path v-if="piece.patterned" :d="leafPattern(leaf)" fill="var(--cream)" />
        </g>
      </template>
      <path
        v-if="n.aerial"
        :d="`M${n.x + 3} ${half}q-3 5 1 10`"
        fill="none"
        stroke="#a5814f"
        stroke-width="2"
        stroke-linecap="round"
      />
    </g>
    <rect
      :x="-length / 2"
      :y="-half"
      :width="length"
      :height="piece.thicknessMm"
      rx="1.4"
      fill="var(--stem)"
      stroke="var(--stem-line)"
      stroke-width="0.9"
    />
    <rect
      v-if="piece.rotMm > 0"
      :x="-length / 2"
      :y="-half"
      :width="Math.min(piece.rotMm, length)"
      :height="piece.thicknessMm"
      rx="1.2"
      fill="var(--rot)"
    />
    <g v-for="n in nodes" :key="`n${n.n}`">
      <rect :x="n.x - 1.3" :y="-half - 1" width="2.6" :height="piece.thicknessMm + 2" rx="1.3" fill="var(--node)" />
      <path
        v-if="shoot[n.bud]"
        :d="`M${n.x - 2.4} ${-half}q0 ${-(shoot[n.bud] ?? 0)} 2.4 ${-(shoot[n.bud] ?? 0)}q2.4 0 2.4 ${shoot[n.bud]}z`"
        fill="#a9c579"
        stroke="var(--stem-line)"
        stroke-width="0.6"
      />
      <path
        v-if="n.bud === 'leaf_open'"
        :transform="`translate(${n.x},${-half - 11}) rotate(-80)`"
        :d="leafBlade(20)"
        fill="#8fb768"
        stroke="var(--stem-line)"
        stroke-width="0.6"
      />
    </g>
  </g>
</template>
