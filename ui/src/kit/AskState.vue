<script setup lang="ts">
/** Stands in while something is being fetched, and says so when it cannot be. */
const { pending, error, what } = defineProps<{ pending: boolean; error: Error | null; what: string }>()
defineEmits<{ retry: [] }>()
</script>

<template>
  <div v-if="error" class="refusal" role="alert">
    {{ error.message }}
    <v-btn class="beside" size="small" variant="outlined" @click="$emit('retry')">Try again</v-btn>
  </div>
  <p v-else-if="pending" class="soft" role="status">Fetching {{ what }}</p>
</template>
