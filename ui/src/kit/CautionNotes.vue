<script setup lang="ts">
import { computed } from 'vue'

import { useHandbook } from '@/api/queries'

/** The cautions of these hazards, in the handbook's words, where the work meets them. */
const { hazards } = defineProps<{ hazards: string[] }>()
const { data: book } = useHandbook()
const texts = computed(() => book.value?.cautions.filter((c) => hazards.includes(c.key)) ?? [])
</script>

<template>
  <p v-for="c in texts" :key="c.key" class="caution">{{ c.text }}</p>
</template>

<style scoped>
p {
  margin: 0;
}
</style>
