<script setup lang="ts">
import type { Verdict } from '@/api/client'

/** Our own signs, from one idea: the jar and the pot. The word stands beside it wherever it is used. */
const { verdict, progress = 0.4, size = 30 } = defineProps<{ verdict: Verdict; progress?: number; size?: number }>()
const jar = 'M6 9h12v2c2 1 3 2 3 4v8a2.500 2.500 0 0 1-2.500 2.500h-13A2.500 2.500 0 0 1 3 23v-8c0-2 1-3 3-4z'
</script>

<template>
  <svg
    :width="size"
    :height="(size * 28) / 24"
    viewBox="0 0 24 28"
    fill="none"
    :stroke="`var(--${verdict})`"
    stroke-width="2"
    stroke-linecap="round"
    stroke-linejoin="round"
    aria-hidden="true"
  >
    <template v-if="verdict === 'wait'">
      <rect
        x="4"
        :y="25 - 13 * progress"
        width="16"
        :height="13 * progress"
        :fill="`var(--${verdict})`"
        stroke="none"
        opacity="0.45"
      />
      <path :d="jar" />
      <path d="M5.500 5.500h13" />
    </template>
    <template v-else-if="verdict === 'look'">
      <path :d="jar" />
      <path d="M7 6l11-4" />
      <path d="M12 14v4.500M12 21.800v.1" />
    </template>
    <template v-else-if="verdict === 'ready'">
      <path d="M5 12h14l-2 13H7z" :fill="`var(--${verdict})`" />
      <path d="M4 9h16" />
    </template>
    <template v-else-if="verdict === 'overdue'">
      <path d="M5 7h14l-1.500 9h-11z" :fill="`var(--${verdict})`" />
      <path d="M4 4.500h16M8 18.500c0 3-2 4-2 7M12 18.500v7.500M16 18.500c0 3 2 4 2 7" />
    </template>
    <template v-else-if="verdict === 'rescue'">
      <path d="M12 26V3M12 10c3.500 0 5-2 5-5M12 16c-3.500 0-5-2-5-5" />
      <path d="M3.500 24.500L20.500 13" stroke-width="3" />
    </template>
    <template v-else-if="verdict === 'growing_on'">
      <path d="M5 15h14l-2 10.500H7z" />
      <path d="M12 15V8c0-3 3-5 7-5 0 4-3 6.500-7 6.500" />
    </template>
    <template v-else-if="verdict === 'done'">
      <path d="M5 16h14l-2 9.500H7z" :fill="`var(--${verdict})`" />
      <path d="M12 16V7c0-3 3-4.500 7-4.500C19 6.500 16 9 12 9M12 12c-3.500 0-6.500-1.500-7-5 4 0 7 1.500 7 5" />
    </template>
    <path v-else :d="jar" stroke-dasharray="2.500 3.500" />
  </svg>
</template>
