<script setup lang="ts">
import { computed } from 'vue'

import type { Cutting } from '@/api/client'

import VerdictSign from './VerdictSign.vue'
import { verdictWord } from './words'

/** The paper tag of a cutting: code, age, verdict. A link to its page. */
const { cutting } = defineProps<{ cutting: Cutting; active?: boolean }>()
const age = computed(() => (cutting.set_on || cutting.potted_on ? `${cutting.judgement.age_days} d` : 'not set'))
</script>

<template>
  <router-link :to="{ name: 'cutting', params: { id: cutting.id } }" class="tag" :class="{ active }">
    <span class="hole" aria-hidden="true"></span>
    <span>
      <b class="code">{{ cutting.code }}</b>
      <span class="age">{{ age }}, {{ verdictWord[cutting.judgement.verdict] }}</span>
    </span>
    <VerdictSign
      :verdict="cutting.judgement.verdict"
      :progress="cutting.judgement.likely ?? cutting.judgement.progress"
      :size="20"
    />
  </router-link>
</template>

<style scoped>
.tag {
  display: inline-flex;
  align-items: center;
  gap: 7px;
  min-height: var(--touch);
  padding: 2px 8px 2px 12px;
  text-decoration: none;
  background: var(--card);
  border: 1px solid var(--line);
  position: relative;
  line-height: 1.15;
  white-space: nowrap;
  clip-path: polygon(9px 0, 100% 0, 100% 100%, 0 100%, 0 9px);
  box-shadow: inset 0 0 0 0.5px var(--line);
}
.tag.active,
.tag:hover {
  background: var(--warm);
  border-color: var(--terra);
}
.tag:focus-visible {
  clip-path: none;
}
.hole {
  width: 5px;
  height: 5px;
  border-radius: 50%;
  border: 1px solid var(--ink2);
  position: absolute;
  left: 4px;
  top: 10px;
}
.tag b {
  display: block;
  font-size: var(--smallest);
}
.age {
  font-size: 12px;
  color: var(--ink2);
}
</style>
