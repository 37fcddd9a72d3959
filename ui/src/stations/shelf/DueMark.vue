<script setup lang="ts">
import { onClickOutside, onKeyStroke } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'

import type { Schemas, Vessel } from '@/api/client'
import { useCare } from '@/api/queries'
import RefusalNote from '@/kit/RefusalNote.vue'
import { said } from '@/kit/units'

/** What is due at a vessel: a drop, and how much. Opened, it says what and why, and notes that it was done. */
const { stop, vessel } = defineProps<{ stop: Schemas['Stop']; vessel: Vessel }>()
const care = useCare()
const open = ref(false)
const box = useTemplateRef<HTMLElement>('box')
onClickOutside(box, () => (open.value = false))
onKeyStroke('Escape', () => (open.value = false))
const urgent = computed(() => stop.tasks.some((t) => t.urgent || t.late))
const words = computed(() => stop.tasks.map((t) => t.label).join(', '))
function done() {
  const put = stop.tasks.find((t) => t.act === 'cover')?.cover
  care.mutate({
    vessel_id: stop.vessel_id,
    at: new Date().toISOString(),
    acts: stop.tasks.filter((t) => t.act !== 'cover').map((t) => t.act),
    seen: [],
    well: false,
    ...(put ? { cover: put } : {}),
  })
  open.value = false
}
</script>

<template>
  <span v-if="stop.tasks.length" ref="box" class="due">
    <button
      type="button"
      :class="{ urgent }"
      :aria-expanded="open"
      :aria-label="`Due at ${vessel.name}: ${words}`"
      @click="open = !open"
    >
      <svg viewBox="0 0 16 18" width="15" height="17" aria-hidden="true">
        <path
          d="M8 1C5 6 2.500 8 2.500 11.500a5.500 5.500 0 0 0 11 0C13.500 8 11 6 8 1z"
          fill="none"
          stroke="currentColor"
          stroke-width="1.5"
        />
        <path d="M5.200 11.400h5.600" stroke="currentColor" stroke-width="1.5" />
        <path v-if="urgent" d="M8 8.600v5.600" stroke="currentColor" stroke-width="1.5" />
      </svg>
    </button>
    <span v-if="open" class="what" role="dialog" :aria-label="`Due at ${vessel.name}`">
      <span v-for="t in stop.tasks" :key="t.act"
        ><strong>{{ t.label }}</strong> {{ said(t.why) }}</span
      >
      <RefusalNote :error="care.error.value" />
      <v-btn size="small" color="primary" :loading="care.isPending.value" @click="done"
        >Done: {{ stop.tasks.map((t) => t.done).join(', ') }}</v-btn
      >
      <router-link :to="{ name: 'vessel', params: { id: vessel.id } }">{{ vessel.name }}, its page</router-link>
    </span>
  </span>
</template>

<style scoped>
.due {
  position: relative;
  display: inline-block;
}
.due > button {
  color: var(--look);
  min-width: 26px;
  min-height: 24px;
  vertical-align: middle;
}
.due > button.urgent {
  color: var(--rescue);
}
.what {
  position: absolute;
  z-index: 4;
  left: 50%;
  top: 100%;
  transform: translateX(-50%);
  width: 236px;
  display: grid;
  gap: 7px;
  text-align: left;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: var(--card-corner);
  padding: 10px 12px;
  box-shadow: 0 4px 14px rgb(0 0 0 / 0.16);
}
strong {
  display: block;
  color: var(--ink);
}
@media (max-width: 700px) {
  .due > button {
    min-width: var(--touch);
    min-height: var(--touch);
  }
}
</style>
