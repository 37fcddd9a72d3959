<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** Fit to cut today: a stem with the knife beside it, its answer in words. Shape, word and colour. */
const { fit } = defineProps<{ fit: Schemas['Fitness'] }>()
const colour = { yes: 'var(--ready)', care: 'var(--look)', wait: 'var(--wait)' } as const
</script>

<template>
  <span class="fit" :style="{ color: colour[fit.answer] }">
    <svg
      width="26"
      height="26"
      viewBox="0 0 26 26"
      fill="none"
      stroke="currentColor"
      stroke-width="2"
      stroke-linecap="round"
      aria-hidden="true"
    >
      <path v-if="fit.answer === 'wait'" d="M13 24V6M13 16q-7 0-8-6M13 12q6 0 7-6" stroke-dasharray="3 3" />
      <template v-else>
        <path d="M10 24V4M10 18q-5 0-7-5M10 11q4 0 5-4" />
        <path d="M14 17l9-9M20 5l4 4" />
        <path v-if="fit.answer === 'care'" d="M20 17v3M20 24v.01" />
      </template>
    </svg>
    <b>{{ fit.short }}</b>
  </span>
</template>

<style scoped>
.fit {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
</style>
