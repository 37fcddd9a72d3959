<script setup lang="ts">
import { computed, defineAsyncComponent, ref, watch } from 'vue'

import { failing, ofOthers, refused, waiting } from '@/api/outbox'

import { useOpened } from './opened'
import { count } from './words'

/** How much was noted and has not arrived. */
const OutboxDialog = defineAsyncComponent(() => import('./OutboxDialog.vue'))
const open = ref(false)
const opened = useOpened(() => open.value)
const says = computed(() =>
  refused.value.length
    ? `${count(refused.value.length, 'note was', 'notes were')} refused`
    : waiting.value.length && failing.value
      ? `${waiting.value.length} not sent yet`
      : ofOthers.value.length
        ? `${count(ofOthers.value.length, 'note', 'notes')} of another member`
        : '',
)
watch(says, (s) => {
  if (!s) open.value = false
})
</script>

<template>
  <span v-if="says" role="status">
    <button class="waits" :class="{ refused: refused.length }" type="button" @click="open = true">
      {{ says }}
    </button>
  </span>
  <OutboxDialog v-if="opened" v-model="open" />
</template>

<style scoped>
.waits {
  min-height: var(--touch);
  padding: 0 14px;
  border-radius: 22px;
  background: var(--look-wash, var(--card));
  border: 2px solid var(--look);
  font-weight: 600;
  white-space: nowrap;
}
.waits.refused {
  border-color: var(--rescue);
}
</style>
