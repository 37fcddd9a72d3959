<script setup lang="ts">
import { computed } from 'vue'

import type { Cutting } from '@/api/client'
import { bothDates } from '@/kit/dates'
import { len, said } from '@/kit/units'
import { verdictWord } from '@/kit/words'

/** A cutting's numbers, beside it while it is pointed at. */
const { cutting } = defineProps<{ cutting: Cutting }>()
const first = computed(() => cutting.seen.roots.filter((r) => r.order === 1))
const sideRoots = computed(() => cutting.seen.roots.length - first.value.length)
</script>

<template>
  <div class="numbers" role="tooltip">
    <b>{{ verdictWord[cutting.judgement.verdict] }}</b> <span>{{ cutting.mother_name }}</span>
    <dl>
      <dt>Longest root</dt>
      <dd>{{ cutting.longest_mm ? len(cutting.longest_mm) : 'none seen' }}</dd>
      <dt>Roots</dt>
      <dd>
        {{ first.length }}<template v-if="sideRoots"> + {{ sideRoots }} side</template>
      </dd>
      <dt>Nodes set</dt>
      <dd>{{ cutting.set_nodes || 'not set' }}</dd>
      <template v-if="cutting.judgement.next_look">
        <dt>Next look</dt>
        <dd>{{ bothDates(cutting.judgement.next_look) }}</dd>
      </template>
    </dl>
    <p>{{ said(cutting.judgement.sentence) }}</p>
  </div>
</template>

<style scoped>
.numbers {
  position: absolute;
  z-index: 4;
  top: calc(100% + 6px);
  left: 50%;
  transform: translateX(-50%);
  width: 250px;
  background: var(--card);
  border: 1px solid var(--ink2);
  border-radius: var(--card-corner);
  padding: 10px 12px;
  font-size: var(--small);
  box-shadow: 0 6px 20px rgb(0 0 0 / 0.14);
  pointer-events: none;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 1px 12px;
  margin: 6px 0;
}
dt {
  color: var(--ink2);
}
dd {
  margin: 0;
  text-align: right;
  font-weight: 600;
}
p {
  margin: 0;
  color: var(--ink2);
}
</style>
