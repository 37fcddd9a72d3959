<script setup lang="ts">
import { computed } from 'vue'

import HangingStrand from './HangingStrand.vue'
import LeafPiece from './LeafPiece.vue'
import LyingPiece from './LyingPiece.vue'

import {
  budAt,
  crownHeight,
  drawnRoots,
  hasLeaf,
  leafBlade,
  leafLength,
  leafPattern,
  lies,
  nodeAt,
  rootPaint,
  side,
  stemLength,
  svgLine,
  type Piece,
  type Walls,
} from './geometry'

/** One piece to scale, its base at the origin. Goes inside an svg whose unit is the mm. */
const {
  piece,
  walls,
  clear = 0,
} = defineProps<{
  piece: Piece
  walls?: Walls | undefined
  /** How far above the base the medium ends: blades stand clear of it. */
  clear?: number
}>()

const length = computed(() => stemLength(piece))
const roots = computed(() => drawnRoots(piece, walls))
const leaf = computed(() => leafLength(piece))
const nodes = computed(() =>
  piece.nodes.map((node, i) => {
    const n = i + 1
    return {
      n,
      y: -nodeAt(piece, n),
      s: side(n),
      leaf: hasLeaf(piece, n),
      blade: Math.min(-nodeAt(piece, n) - leafLength(piece) * 0.36, -clear - 6),
      aerial: node.aerial_root,
      bud: budAt(piece, n),
    }
  }),
)
const paint = (colour: string | undefined) => rootPaint[colour ?? 'white'] ?? { fill: '#fffdf6', line: '#8f8463' }
const half = computed(() => piece.thicknessMm / 2)
const isLeaf = computed(() => piece.kind === 'leaf')
const isStem = computed(
  () => !isLeaf.value && !lies(piece) && !['crown', 'perched', 'half_buried', 'hanging'].includes(piece.pose ?? ''),
)
const tall = computed(() => crownHeight(piece))
</script>

<template>
  <g>
    <g class="roots" fill="none" stroke-linecap="round" stroke-linejoin="round">
      <template v-for="(r, i) in roots" :key="i">
        <path :d="svgLine(r.line)" :stroke="paint(r.root.colour).line" :stroke-width="r.root.order === 1 ? 2.5 : 1.5" />
        <path :d="svgLine(r.line)" :stroke="paint(r.root.colour).fill" :stroke-width="r.root.order === 1 ? 1.5 : 0.75" />
      </template>
    </g>
    <template v-if="isLeaf"><LeafPiece :piece="piece" /></template>
    <template v-else-if="lies(piece)"><LyingPiece :piece="piece" /></template>
    <g v-for="node in isStem ? nodes : []" :key="node.n">
      <template v-if="node.leaf">
        <path
          :d="`M0 ${node.y}C${node.s * 4} ${node.y - 8} ${node.s * (half + 6)} ${node.blade + leaf * 0.1} ${node.s * (half + 11)} ${node.blade}`"
          fill="none"
          stroke="var(--node)"
          :stroke-width="Math.max(1.6, piece.thicknessMm * 0.28)"
          stroke-linecap="round"
        />
        <g :transform="`translate(${node.s * (half + 11)},${node.blade}) rotate(${node.s > 0 ? -38 : -142})`">
          <path :d="leafBlade(leaf)" fill="var(--leaf)" stroke="var(--leaf-line)" stroke-width="0.8" />
          <path v-if="piece.patterned" :d="leafPattern(leaf)" fill="var(--cream)" />
          <path :d="`M0 0L${leaf * 0.94} 0`" stroke="var(--leaf-line)" stroke-width="0.7" opacity="0.6" />
        </g>
      </template>
      <path
        v-if="node.aerial"
        :d="`M${-node.s * half} ${node.y}q${-node.s * 5} 1 ${-node.s * 6} 9`"
        fill="none"
        stroke="#a5814f"
        stroke-width="2"
        stroke-linecap="round"
      />
    </g>
    <HangingStrand v-if="piece.pose === 'hanging'" :piece="piece" :clear="clear" />
    <g v-else-if="piece.pose === 'crown' || piece.pose === 'perched'">
      <path
        v-for="a in piece.kind === 'plantlet' || piece.kind === 'head' ? [-62, -24, 14, 55] : [-26, 0, 26]"
        :key="a"
        :transform="`rotate(${a}) scale(${tall / 90})`"
        d="M-3 0C-6 -40 -8 -70 -2 -90C6 -70 8 -40 4 0Z"
        fill="var(--leaf)"
        stroke="var(--leaf-line)"
      />
      <ellipse :rx="half * 1.2" :ry="half * 0.6" fill="var(--stem)" stroke="var(--stem-line)" stroke-width="0.9" />
    </g>
    <ellipse
      v-else-if="piece.pose === 'half_buried'"
      :cy="-length / 2"
      :rx="half"
      :ry="length / 2"
      fill="var(--mix)"
      stroke="var(--mix-dark)"
    />
    <rect
      v-else-if="isStem"
      :x="-half"
      :y="-length"
      :width="piece.thicknessMm"
      :height="length"
      :rx="piece.tip ? half : 1.2"
      fill="var(--stem)"
      stroke="var(--stem-line)"
      stroke-width="0.9"
    />
    <rect
      v-if="piece.rotMm > 0 && isStem"
      :x="-half"
      :y="-Math.min(piece.rotMm, length)"
      :width="piece.thicknessMm"
      :height="Math.min(piece.rotMm, length)"
      rx="1.2"
      fill="var(--rot)"
    />
    <g v-for="node in isStem ? nodes : []" :key="`n${node.n}`">
      <rect :x="-half - 1" :y="node.y - 1.3" :width="piece.thicknessMm + 2" height="2.6" rx="1.3" fill="var(--node)" />
      <path
        v-if="node.bud === 'swelling'"
        :d="`M${-node.s * half} ${node.y - 1}q${-node.s * 4} -2 ${-node.s * 1} -7q${node.s} 3 ${node.s} 7z`"
        fill="#a9c579"
        stroke="var(--stem-line)"
        stroke-width="0.6"
      />
      <path
        v-else-if="node.bud === 'shooting'"
        :d="`M${-node.s * half} ${node.y - 1}q${-node.s * 7} -4 ${-node.s * 6} -17q${node.s * 5} 7 ${node.s * 6} 16z`"
        fill="#a9c579"
        stroke="var(--stem-line)"
        stroke-width="0.6"
      />
      <g
        v-else-if="node.bud === 'leaf_open'"
        :transform="`translate(${-node.s * half},${node.y - 1}) rotate(${node.s > 0 ? -128 : -52})`"
      >
        <path d="M0 0h7" stroke="#8fb06a" stroke-width="1.8" />
        <path :d="leafBlade(20)" transform="translate(7,0)" fill="#8fb768" stroke="var(--stem-line)" stroke-width="0.6" />
      </g>
    </g>
  </g>
</template>
