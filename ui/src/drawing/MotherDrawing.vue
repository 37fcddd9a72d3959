<script setup lang="ts">
import { computed } from 'vue'

import type { Mother } from '@/api/client'

import { leafBlade, leafPattern } from './geometry'
import { leafOf, plantBox, plantOf, potDepth, potHalf } from './motherPlant'

/** A mother in her pot, to scale, as she stands today; what was taken is a pale outline. */
const {
  mother,
  height = 230,
  ghosts = true,
} = defineProps<{
  mother: Mother
  height?: number
  ghosts?: boolean
  /** Pixels a mm; left out, the plant fills its height. */ scale?: number
}>()
const stems = computed(() => plantOf(mother))
const box = computed(() => plantBox(stems.value, ghosts))
const half = computed(() => potHalf(stems.value))
const standing = computed(() => stems.value.reduce((n, s) => n + s.nodes.filter((m) => !m.gone).length, 0))
const pair = (p: { x: number; y: number }[]) => p.map((q) => `${q.x.toFixed(1)} ${q.y.toFixed(1)}`).join('L')
</script>

<template>
  <svg
    :viewBox="`${box.x} ${box.y} ${box.w} ${box.h}`"
    :height="scale ? box.h * scale : height"
    :width="scale ? box.w * scale : '100%'"
    preserveAspectRatio="xMidYMax meet"
    role="img"
    :aria-label="`${mother.name}: ${stems.length} mapped, ${standing} nodes standing`"
  >
    <g v-for="s in stems" :key="s.id">
      <path
        v-if="ghosts && s.ghost.length"
        :d="`M${pair(s.ghost)}`"
        fill="none"
        stroke="var(--stem-line)"
        :stroke-width="1.4"
        stroke-dasharray="5 5"
        opacity="0.55"
      />
      <path
        :d="`M${pair(s.line)}`"
        fill="none"
        stroke="var(--stem-line)"
        :stroke-width="s.thickness + 1.6"
        :stroke-linecap="s.tip ? 'round' : 'butt'"
      />
      <path
        :d="`M${pair(s.line)}`"
        fill="none"
        stroke="var(--stem)"
        :stroke-width="s.thickness"
        :stroke-linecap="s.tip ? 'round' : 'butt'"
      />
      <g v-for="n in s.nodes" :key="n.n">
        <g v-if="!n.gone" :transform="`translate(${n.x},${n.y}) rotate(${s.lean})`">
          <template v-if="n.leaf">
            <path
              :d="`M0 0q${n.side * 10} -2 ${n.side * (s.thickness / 2 + 16)} -15`"
              fill="none"
              stroke="var(--node)"
              :stroke-width="Math.max(2, s.thickness * 0.28)"
            />
            <g :transform="`translate(${n.side * (s.thickness / 2 + 16)},-15) rotate(${n.side > 0 ? -22 : -158})`">
              <path :d="leafBlade(leafOf(s))" fill="var(--leaf)" stroke="var(--leaf-line)" />
              <path v-if="n.patterned" :d="leafPattern(leafOf(s))" fill="var(--cream)" />
            </g>
          </template>
          <path
            v-if="n.aerial"
            :d="`M${-n.side * (s.thickness / 2)} 0q${-n.side * 6} 2 ${-n.side * 7} 12`"
            fill="none"
            stroke="#a5814f"
            stroke-width="2.4"
          />
          <rect :x="-s.thickness / 2 - 1.5" y="-1.6" :width="s.thickness + 3" height="3.2" rx="1.6" fill="var(--node)" />
        </g>
      </g>
    </g>
    <path :d="`M${-half + 6} 0H${half - 6}l-10 ${potDepth}H${-half + 16}z`" fill="var(--pot)" stroke="var(--mix-dark)" />
    <path :d="`M${-half} -8H${half}v14H${-half}z`" fill="var(--pot-rim)" stroke="var(--mix-dark)" />
  </svg>
</template>
