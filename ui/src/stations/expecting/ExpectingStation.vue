<script setup lang="ts">
import { computed } from 'vue'

import { usePlannerNumbers, useWorked } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import BasisNote from '@/kit/BasisNote.vue'
import { shortDate } from '@/kit/dates'
import { useInTurn } from '@/kit/inTurn'
import { said } from '@/kit/units'
import ForesightCard from '@/stations/cutting/ForesightCard.vue'
import RestCard from '@/stations/cutting/RestCard.vue'

/** The model behind chances, days and questions, in a grower's words, with one worked cutting and every number it rests on. */
const { data: worked, isPending, error, refetch } = useWorked()
const { data: numbers } = usePlannerNumbers()
const own = ['expect.', 'readiness.chance.']
const assumed = computed(() => numbers.value?.numbers.filter((r) => own.some((k) => r.number.key.startsWith(k))) ?? [])
const rows = useInTurn(() => assumed.value, 6, 6)
const inTen = (p: number) => (p < 0.05 ? 'hardly' : p > 0.95 ? 'almost surely' : `${Math.round(p * 10)} in 10`)
</script>

<template>
  <div class="page stack">
    <h1>How a chance, a day and a question are worked out</h1>
    <section class="panel stack">
      <p>
        For each cutting <b>127 simulated cuttings</b> are made that could be it: each roots on a day of its own, grows at a pace
        of its own, opens its leaf when it does, or never roots. How early, how fast and how likely come from the table of its
        group, its medium, whether a leaf feeds it, the season and the warmth, and from your own records as they grow.
      </p>
      <p>
        What you note <b>weighs</b> them: a root of 24 mm on day 21 makes those likely that have about as much by then, and nearly
        rules out the others. A look is believed as far as looks are exact: a ruler more than an eye, a tug wrong once in twenty.
        What contradicts itself is told, not averaged away.
      </p>
      <p>Everything said of the future is a count over those that are left:</p>
      <ul>
        <li><b>The chance that it is ready</b>: how many of them have by now all that your school wants.</li>
        <li><b>The day</b>: by when half of those that ever come have it, and between which days 8 in 10 of them do.</li>
        <li>
          <b>The best day to pot</b>: on which most would grow on. Longer roots drink better, roots too long break; in the dark
          half of the year a pot is slower; each week some rot.
        </li>
        <li>
          <b>A question</b> is worth as many more that grow on when you act by its answer, less your minutes and what opening
          harms. Where no look earns that, none is asked, and a closed box stays closed.
        </li>
      </ul>
      <p class="caution">
        It is a model, tried on simulated cuttings only. Nothing in it is published but the methods; no plant was measured for it.
        What you see at the piece comes first: the criteria of your school stay beside it, and rot overrules everything.
      </p>
    </section>
    <AskState v-if="!worked" :pending="isPending" :error="error" what="the worked cutting" @retry="refetch()" />
    <section v-else class="panel stack" aria-label="One worked cutting">
      <h2>One worked cutting</h2>
      <p>
        {{ worked.group }}, judged by {{ worked.school.toLowerCase() }}, by your numbers. Each look moves the day and narrows it:
      </p>
      <div class="scroll" tabindex="0" role="region" aria-label="Look by look">
        <table>
          <thead>
            <tr>
              <th scope="col">Day</th>
              <th scope="col">Seen</th>
              <th scope="col">Ready then</th>
              <th scope="col">Ready about</th>
              <th scope="col">8 in 10 between</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in worked.looks" :key="l.on">
              <th scope="row">{{ shortDate(l.on) }}</th>
              <td>{{ said(l.seen) }}</td>
              <td>{{ inTen(l.ready) }}</td>
              <td>{{ l.middle ? shortDate(l.middle) : 'perhaps never' }}</td>
              <td>{{ l.first ? shortDate(l.first) : '?' }} and {{ l.last ? shortDate(l.last) : 'later' }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="two">
        <ForesightCard :foreseen="worked.foreseen" :school="worked.school.toLowerCase()" />
        <RestCard :rests="worked.foreseen.rests" />
      </div>
    </section>
    <section class="panel stack" aria-label="What it assumes">
      <h2>What it assumes</h2>
      <p>
        Every number below can be given another value at <router-link to="/numbers">Where every number comes from</router-link>,
        and everything is judged by it from then on.
      </p>
      <div class="scroll" tabindex="0" role="region" aria-label="Numbers of the model">
        <table>
          <tbody>
            <tr v-for="r in rows" :key="r.number.key">
              <th scope="row">{{ said(r.number.label) }}</th>
              <td class="value">{{ Math.round(r.number.value * 10000) / 10000 }} {{ r.number.unit }}</td>
              <td><BasisNote :basis="r.number.basis" /></td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
  </div>
</template>

<style scoped>
p {
  margin: 0;
}
.panel > * {
  min-width: 0;
}
.scroll {
  overflow-x: auto;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) minmax(0, 1fr);
  gap: 28px;
  align-items: start;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  text-align: left;
  padding: 6px 10px 6px 0;
  border-top: 1px solid var(--line);
  font-weight: 450;
}
.value {
  font-family: var(--mono);
}
ul {
  margin: 0;
  padding-left: 20px;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
