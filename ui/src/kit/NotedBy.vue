<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { me } from '@/api/me'

/** Who noted it, where it was somebody else. */
const { by } = defineProps<{ by?: Schemas['Noter'] | undefined }>()
</script>

<template>
  <span v-if="by && by.id !== me?.member_id" class="soft"> Noted by {{ by.name }}.</span>
</template>
