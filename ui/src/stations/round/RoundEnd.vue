<script setup lang="ts">
import { computed } from 'vue'

import { bothDates } from '@/kit/dates'
import { said } from '@/kit/units'
import VerdictSign from '@/kit/VerdictSign.vue'
import { count, verdictWord } from '@/kit/words'

import type { Walk } from './walk'

/** The end of the round: what was done, what was put off, and what to do about the pieces that need it. */
const { walk } = defineProps<{ walk: Walk }>()
const { cards, round, shelf } = walk
const seenTo = computed(() => cards.value.filter((c) => c.stop.visits.some((v) => !v.put_off)))
const off = computed(() => cards.value.filter((c) => c.stop.put_off))
/** Visited, and something is still to be done: seen, but not acted on. */
const still = computed(() => cards.value.filter((c) => c.stop.tasks.length && !c.stop.put_off))
const needs = computed(() => shelf.value?.cuttings.filter((c) => c.judgement.asks && c.where !== 'unset') ?? [])
const next = computed(() => {
  const days = round.value?.stops.flatMap((s) => (s.next && !s.tasks.length ? [s.next] : [])) ?? []
  return days.sort()[0]
})
const empty = computed(() => shelf.value?.vessels.length === 0)
</script>

<template>
  <section class="stack end">
    <template v-if="empty">
      <h2>No vessel stands on a shelf</h2>
      <p>
        The round goes from vessel to vessel. <router-link to="/set">Set a piece</router-link>, or
        <router-link to="/bring-in">bring one in</router-link>, and its care is asked for here.
      </p>
    </template>
    <template v-else>
      <h2>{{ seenTo.length || off.length ? 'The round is done' : 'Nothing is due' }}</h2>
      <p v-if="seenTo.length">{{ count(seenTo.length, 'vessel', 'vessels') }} seen to today.</p>
      <p v-if="off.length">
        Put off:
        <template v-for="(c, i) in off" :key="c.vessel.id"
          >{{ i ? ', ' : '' }}{{ c.vessel.name }} ({{ c.stop.visits.find((v) => v.put_off)?.put_off }})</template
        >. They are asked for again tomorrow.
      </p>
      <p v-for="c in still" :key="c.vessel.id">
        <router-link :to="{ name: 'vessel', params: { id: c.vessel.id } }">{{ c.vessel.name }}</router-link>: still to do:
        {{ c.stop.tasks.map((t) => t.label).join(', ') }}.
      </p>
      <p v-if="next" class="soft">Next due: {{ bothDates(next) }}.</p>
    </template>
    <template v-if="needs.length">
      <h3>Pieces that need you</h3>
      <ol>
        <li v-for="c in needs" :key="c.id">
          <VerdictSign :verdict="c.judgement.verdict" :progress="c.judgement.likely ?? c.judgement.progress" :size="24" />
          <div>
            <router-link
              :to="c.judgement.to_pot ? { name: 'potup', query: { cutting: c.id } } : { name: 'cutting', params: { id: c.id } }"
            >
              <strong :style="{ color: `var(--${c.judgement.verdict})` }">{{ verdictWord[c.judgement.verdict] }}</strong>
              <span class="code">{{ c.code }}</span>
            </router-link>
            <p>{{ said(c.judgement.sentence) }}</p>
          </div>
        </li>
      </ol>
    </template>
    <div class="row"><v-btn color="primary" to="/">To the shelf</v-btn></div>
  </section>
</template>

<style scoped>
.end {
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 14px;
  padding: 18px;
}
p {
  margin: 0;
}
ol {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  display: grid;
  grid-template-columns: 34px 1fr;
  gap: 6px;
  padding: 8px 0;
  border-top: 1px solid var(--line);
}
li a {
  display: inline-flex;
  gap: 8px;
  min-height: 28px;
  align-items: baseline;
}
li p {
  color: var(--ink2);
  font-size: var(--small);
}
</style>
