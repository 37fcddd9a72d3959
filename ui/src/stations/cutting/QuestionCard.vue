<script setup lang="ts">
import { computed } from 'vue'

import type { Look, Schemas } from '@/api/client'
import { said } from '@/kit/units'

/** The one look that settles it, or that is worth its trouble: what it costs, what each answer would do, and its answers in one tap. */
const { question, priced, cutting, busy } = defineProps<{
  question: Schemas['Question']
  priced: Schemas['PricedQuestion'][]
  cutting: string
  busy: boolean
}>()
defineEmits<{ answer: [look: Look] }>()

const one = computed(() => priced.find((p) => p.question === question.by))
const time = (s: number) =>
  s === 0 ? 'no time' : s < 60 ? `${s} seconds` : `${Math.round(s / 30) / 2} minute${s === 60 ? '' : 's'}`
const price = computed(() => {
  const p = one.value
  if (!p) return ''
  const harm = p.disturbance > 0 ? ' and a little disturbance' : ''
  const worth = Math.max(0, p.net) * 1000
  return `Takes ${time(p.seconds)}${harm}; worth ${worth < 1 ? 'less than 1' : Math.round(worth)} in 1000 plants beyond that.`
})
const then = (a: Schemas['PricedAnswer']) =>
  a.act === 'rescue' ? 'rescue it' : a.act === 'pot_up' ? 'pot it now' : `pot it in about ${a.after} days`
/** Answers that are as good as the same are told once; what is rare is told together, not left out. */
const outcomes = computed(() => {
  const by = new Map<string, { answers: string[]; chance: number }>()
  let rare = 0
  for (const a of one.value?.answers ?? []) {
    if (a.chance < 0.03) {
      rare += a.chance
      continue
    }
    const key = then(a)
    const g = by.get(key) ?? { answers: [], chance: 0 }
    g.answers.push(a.answer)
    g.chance += a.chance
    by.set(key, g)
  }
  const out = [...by].map(([what, g]) => ({
    what,
    chance: g.chance,
    answers:
      g.answers.length > 3
        ? `${g.answers.slice(0, 3).join('; ')}; and ${g.answers.length - 3} more like it`
        : g.answers.join('; '),
  }))
  if (rare > 0.005) out.push({ what: 'then decided', chance: rare, answers: 'something rarer' })
  return out.sort((a, b) => b.chance - a.chance)
})
const inTen = (p: number) => (p < 0.05 ? 'rarely' : p > 0.95 ? 'nearly always' : `${Math.max(1, Math.round(p * 10))} in 10`)
const others = computed(() =>
  priced
    .filter((p) => p !== one.value && (p.net < 0.001 || p.not_now))
    .map((p) => names[p.question])
    .filter(Boolean),
)
const names: Record<string, string> = {
  bud: 'the bud',
  squeeze: 'a squeeze',
  tug: 'a tug',
  count: 'a count',
  measure: 'a ruler',
  photo: 'a photo',
}
const byHand = computed(() => ['count', 'measure', 'photo'].includes(question.by ?? '') || !question.answers.length)
</script>

<template>
  <section class="question" aria-label="One look that pays">
    <b>{{ said(question.text) }}</b>
    <p v-if="price" class="soft">{{ price }}</p>
    <div class="row">
      <v-btn v-for="a in question.answers" :key="a.label" variant="outlined" :disabled="busy" @click="$emit('answer', a.look)">{{
        a.label
      }}</v-btn>
      <v-btn v-if="byHand" color="primary" :to="{ name: 'look', params: { id: cutting } }">Look now</v-btn>
    </div>
    <details v-if="outcomes.length">
      <summary>What each answer would do</summary>
      <ul>
        <li v-for="o in outcomes" :key="o.what">
          <b>{{ said(o.answers) }}</b> ({{ inTen(o.chance) }}): {{ o.what }}
        </li>
      </ul>
      <p v-if="others.length" class="soft">Not worth its trouble today: {{ others.join(', ') }}.</p>
    </details>
  </section>
</template>

<style scoped>
.question {
  background: var(--warm);
  border: 1px solid var(--warm-line);
  border-radius: 12px;
  padding: 12px 14px;
  display: grid;
  gap: 8px;
}
p,
ul {
  margin: 0;
}
ul {
  padding-left: 18px;
  font-size: var(--beside);
}
summary {
  cursor: pointer;
  font-size: var(--beside);
  min-height: 26px;
}
</style>
