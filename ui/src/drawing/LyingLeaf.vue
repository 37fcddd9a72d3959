<script setup lang="ts">
import { leafBlade, leafPattern, side } from './geometry'

/** A leaf standing up from a stem that lies on its side, its petiole starting at the origin. */
const {
  node,
  length,
  petiole = 25,
} = defineProps<{
  node: number
  length: number
  petiole?: number
  patterned?: boolean
  /** To be stripped: drawn as an outline. */
  strip?: boolean
  /** The blade is cut by a third to a half. */
  halve?: boolean
}>()
</script>

<template>
  <g :opacity="strip ? 0.3 : 1">
    <path
      :d="`M0 0q2 ${-petiole * 0.56} ${petiole * 0.36 * side(node)} ${-petiole}`"
      fill="none"
      stroke="var(--node)"
      :stroke-width="petiole * 0.12"
    />
    <g :transform="`translate(${petiole * 0.36 * side(node)},${-petiole}) rotate(${side(node) > 0 ? -64 : -116})`">
      <g :class="{ halve }">
        <path :d="leafBlade(length)" fill="var(--leaf)" stroke="var(--leaf-line)" :stroke-dasharray="strip ? '4 3' : undefined" />
        <path v-if="patterned" :d="leafPattern(length)" fill="var(--cream)" />
      </g>
      <path v-if="halve" :d="`M${length * 0.6} ${-length * 0.3}v${length * 0.6}`" stroke="var(--terra)" stroke-dasharray="3 3" />
    </g>
  </g>
</template>

<style scoped>
.halve {
  clip-path: inset(0 40% 0 0);
}
</style>
