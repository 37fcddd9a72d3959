<script setup lang="ts">
import { computed } from 'vue'

import { Waiting } from '@/api/facts'

/** Says what happened, what was kept and what to do; announced when it appears. */
const { error } = defineProps<{ error: Error | null | undefined }>()
const text = computed(() => error?.message ?? '')
</script>

<template>
  <div v-if="text" :class="error instanceof Waiting ? 'caution' : 'refusal'" role="alert">
    <span>{{ text }}</span>
    <slot />
  </div>
</template>
