<script setup lang="ts">
import type { Refusal } from '@/api/client'

/** Of many at once: those that were refused, and why; those that wait to be sent. The others are kept. */
const { refused, waits } = defineProps<{ refused: { name: string; why: Refusal }[]; waits: number }>()
</script>

<template>
  <p v-for="r in refused" :key="r.name" class="refusal" role="alert">
    <strong>{{ r.name }}</strong>: {{ r.why.message }}
  </p>
  <p v-if="waits" class="caution" role="alert">Not sent yet: {{ waits }} wait in this browser and go out by themselves.</p>
</template>

<style scoped>
p {
  margin: 0;
}
</style>
