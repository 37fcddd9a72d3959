<script setup lang="ts">
import { useHandbook } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import BasisNote from '@/kit/BasisNote.vue'

import { useInTurn } from '@/kit/inTurn'

import PlannerNumbers from './PlannerNumbers.vue'

const { data: book, isPending, error, refetch } = useHandbook()
const groups = useInTurn(() => book.value?.groups ?? [], 0, 4)
const span = (s: { mid: number; low: number; high: number }) => (s.mid ? `${s.mid} (${s.low}-${s.high})` : 'rooted')
</script>

<template>
  <div class="page stack">
    <h1>Where every number comes from</h1>
    <p class="soft">
      Common practice: many growers do so, nobody published it. Assumption: our own starting value, until your records replace it.
      Published: quoted from memory.
    </p>
    <AskState :pending="isPending" :error="error" what="the handbook" @retry="refetch()" />
    <template v-if="book">
      <PlannerNumbers />
      <section class="panel">
        <h2>Growth groups</h2>
        <p class="soft">Days from setting: middle (range).</p>
        <div class="scroll" tabindex="0" role="region" aria-label="Growth groups">
          <table>
            <thead>
              <tr>
                <th scope="col">Group</th>
                <th scope="col">Media</th>
                <th scope="col">First roots</th>
                <th scope="col">Pot up</th>
                <th scope="col">Healthy roots</th>
                <th scope="col">Basis</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="g in groups" :key="g.key">
                <th scope="row">
                  <router-link :to="{ name: 'group', params: { id: g.key } }">{{ g.name }}</router-link><small class="soft">{{
                    g.members
                  }}</small>
                </th>
                <td>{{ g.media.join(', ') }}</td>
                <td>{{ span(g.first_roots_days) }}</td>
                <td>{{ span(g.pot_up_days) }}</td>
                <td>{{ g.root_colours.join(', ') }}</td>
                <td><BasisNote :basis="g.basis" /></td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
      <section class="panel">
        <h2>Schools: when is it ready?</h2>
        <dl>
          <template v-for="s in book.schools" :key="s.key">
            <dt>
              <b>{{ s.label }}</b>
            </dt>
            <dd>{{ s.when }}. Why: {{ s.why }}. Cost: {{ s.cost }}. <BasisNote :basis="s.basis" /></dd>
          </template>
        </dl>
      </section>
    </template>
  </div>
</template>

<style scoped>
.page,
.panel {
  min-width: 0;
}
.stack {
  grid-template-columns: minmax(0, 1fr);
}
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
  font-size: var(--beside);
}
th,
td {
  text-align: left;
  padding: 6px 12px 6px 0;
  border-top: 1px solid var(--line);
  vertical-align: top;
  font-weight: 400;
}
thead th {
  font-weight: 650;
  border: 0;
}
th small {
  display: block;
}
dl {
  display: grid;
  gap: 4px;
  margin-top: 8px;
}
dd {
  margin: 0 0 8px;
}
</style>
