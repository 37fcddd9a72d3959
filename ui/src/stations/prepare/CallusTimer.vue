<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'

/** How long a cut face still dries. It counts from the tick that is on record, so a reload changes nothing. */
const { step, now } = defineProps<{ step: Schemas['BenchStep']; now: Date }>()

const left = computed(() => (step.ready_at ? new Date(step.ready_at).getTime() - now.getTime() : undefined))
const share = computed(() => {
  if (!step.timer_since || !step.ready_at) return 0
  const since = new Date(step.timer_since).getTime()
  return Math.min(1, Math.max(0, (now.getTime() - since) / (new Date(step.ready_at).getTime() - since)))
})
function clock(ms: number): string {
  const s = Math.ceil(ms / 1000)
  const two = (n: number) => String(n).padStart(2, '0')
  return `${Math.floor(s / 3600)}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}`
}
const time = new Intl.DateTimeFormat('en-GB', { weekday: 'short', hour: '2-digit', minute: '2-digit' })
const latest = computed(() => (step.at_latest ? time.format(new Date(step.at_latest)) : ''))
const over = computed(() => step.at_latest !== undefined && new Date(step.at_latest).getTime() < now.getTime())
</script>

<template>
  <p class="timer" role="timer">
    <span v-if="left === undefined" class="soft"
      >The timer starts when you tick that this piece is cut and marked ({{ step.wait_hours }} to {{ step.most_hours }} h).</span
    >
    <template v-else>
      <span class="bar"><span :style="{ width: `${share * 100}%` }" /></span>
      <b v-if="left > 0" class="code">{{ clock(left) }} to go</b>
      <b v-else-if="!over" class="go">Dry enough: it can be set</b>
      <b v-else class="late">Dry longer than usual: set it now</b>
      <small class="soft">at the latest {{ latest }}</small>
    </template>
  </p>
</template>

<style scoped>
.timer {
  display: flex;
  gap: 12px;
  align-items: center;
  flex-wrap: wrap;
  padding: 0 0 8px 38px;
  margin: 0;
}
.bar {
  width: 160px;
  height: 8px;
  border-radius: 4px;
  background: var(--line);
  overflow: hidden;
}
.bar span {
  display: block;
  height: 100%;
  background: var(--terra);
}
.go {
  color: var(--ready);
}
.late {
  color: var(--rescue);
}
</style>
