<script setup lang="ts">
import { seeded } from './geometry'

/** Each medium as a pattern under its key, once for the whole page. */
const random = seeded('patterns')
const strands = Array.from({ length: 46 }, () => {
  const x = random() * 24
  const y = random() * 16
  return `M${x.toFixed(1)} ${y.toFixed(1)}q${(random() * 5 - 2.5).toFixed(1)} ${(-1 - random() * 2).toFixed(1)} ${(random() * 6 - 3).toFixed(1)} ${(random() * 2 - 1).toFixed(1)}`
}).join('')
const grains = Array.from({ length: 30 }, () => ({ x: random() * 20, y: random() * 20, r: 0.8 + random() * 1.5 }))
const crumbs = Array.from({ length: 26 }, () => ({
  x: random() * 20,
  y: random() * 20,
  r: 0.5 + random() * 1.3,
  white: random() > 0.7,
}))
</script>

<template>
  <svg width="0" height="0" style="position: absolute" aria-hidden="true">
    <defs>
      <pattern id="water" width="20" height="20" patternUnits="userSpaceOnUse">
        <rect width="20" height="20" fill="var(--water)" />
      </pattern>
      <pattern id="moss" width="24" height="16" patternUnits="userSpaceOnUse">
        <rect width="24" height="16" fill="var(--moss)" />
        <path :d="strands" fill="none" stroke="var(--moss-dark)" stroke-width="0.9" stroke-linecap="round" />
      </pattern>
      <pattern id="perlite" width="20" height="20" patternUnits="userSpaceOnUse">
        <rect width="20" height="20" fill="var(--perlite)" />
        <circle
          v-for="(g, i) in grains"
          :key="i"
          :cx="g.x"
          :cy="g.y"
          :r="g.r"
          fill="none"
          stroke="var(--perlite-dark)"
          stroke-width="0.6"
        />
      </pattern>
      <pattern id="mix" width="20" height="20" patternUnits="userSpaceOnUse">
        <rect width="20" height="20" fill="var(--mix)" />
        <circle
          v-for="(c, i) in crumbs"
          :key="i"
          :cx="c.x"
          :cy="c.y"
          :r="c.r"
          :fill="c.white ? 'var(--perlite)' : 'var(--mix-dark)'"
        />
      </pattern>
      <pattern id="cloudy" width="20" height="20" patternUnits="userSpaceOnUse">
        <rect width="20" height="20" fill="var(--dry)" opacity="0.45" />
        <circle
          v-for="(g, i) in grains.slice(0, 12)"
          :key="i"
          :cx="g.x"
          :cy="g.y"
          :r="g.r * 1.8"
          fill="var(--dry)"
          opacity="0.5"
        />
      </pattern>
    </defs>
  </svg>
</template>
