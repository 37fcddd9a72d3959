<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import BasisNote from '@/kit/BasisNote.vue'
import { len, said } from '@/kit/units'
import { count, kindWord, percent } from '@/kit/words'

/** Why a piece has its chance, and where exactly it is cut and how it is treated. */
const { piece, letter, wound } = defineProps<{ piece: Schemas['Piece']; letter: string; wound: string }>()
const code = computed(() => `${letter}${piece.first}${piece.last > piece.first ? `-${piece.last}` : ''}`)
const list = (n: number[]) => n.join(' and ')
/** Only what is cut across has a place to measure. */
const measured = computed(() => !['leaf', 'tuber', 'division'].includes(piece.kind))
</script>

<template>
  <section class="panel" aria-label="Why this chance">
    <h2>
      Why {{ percent(piece.chance) }} for <span class="code">{{ code }}</span>
    </h2>
    <table>
      <tbody>
        <tr v-if="piece.start">
          <th scope="row">{{ piece.start.label }}</th>
          <td class="code">{{ percent(piece.start.value) }}</td>
          <td><BasisNote :basis="piece.start.basis" /></td>
        </tr>
        <tr v-for="(e, i) in piece.effects" :key="i">
          <th scope="row">{{ said(e.label) }}</th>
          <td class="code">&times; {{ e.odds }}</td>
          <td>odds; <BasisNote :basis="e.basis" /></td>
        </tr>
        <tr v-if="piece.node_chances?.length && piece.kind !== 'division'" class="sum">
          <th scope="row">
            {{
              piece.node_chances.length === 1
                ? 'The set node wakes'
                : `At least one of ${piece.node_chances.length} set nodes wakes`
            }}
          </th>
          <td class="code">{{ percent(1 - piece.node_chances.reduce((a, p) => a * (1 - p), 1)) }}</td>
          <td class="soft">{{ piece.node_chances.map((p) => percent(p)).join(', ') }}</td>
        </tr>
        <tr v-if="piece.rot_start">
          <th scope="row">{{ piece.rot_start.label }}</th>
          <td class="code">{{ percent(piece.rot_start.value) }}</td>
          <td><BasisNote :basis="piece.rot_start.basis" /></td>
        </tr>
        <tr v-for="(e, i) in piece.rot_effects ?? []" :key="`r${i}`">
          <th scope="row">{{ said(e.label) }}</th>
          <td class="code">&times; {{ e.odds }}</td>
          <td>odds to rot; <BasisNote :basis="e.basis" /></td>
        </tr>
        <tr v-if="piece.rot > 0" class="sum">
          <th scope="row">Rots first</th>
          <td class="code">{{ percent(piece.rot) }}</td>
          <td class="soft">taken off</td>
        </tr>
      </tbody>
    </table>
    <p v-if="piece.warning" class="caution">{{ said(piece.warning) }}</p>
    <h3>Where exactly</h3>
    <ul>
      <li>
        {{ kindWord[piece.kind] ?? piece.kind
        }}<template v-if="measured"
          >: cut at {{ len(piece.from_mm) }}, {{ len(piece.below_mm) }} below node {{ piece.first }},
          {{ piece.slant ? 'at 45 degrees' : 'straight across' }};
          <template v-if="piece.kind === 'tip'">its top is the growing tip.</template>
          <template v-else>upper end {{ len(piece.above_mm) }} above node {{ piece.last }}.</template></template
        ><template v-else>: {{ said(piece.up ?? '') }}.</template>
      </li>
      <li>
        <template v-if="measured"
          >{{ count(piece.set, 'node', 'nodes') }} set<template v-if="piece.up">, {{ said(piece.up) }}</template
          >.
        </template>
        <template v-if="piece.strip.length">Strip the leaf of node {{ list(piece.strip) }}. </template>
        <template v-if="piece.halve?.length">Cut the blade of node {{ list(piece.halve) }} by a third to a half.</template>
      </li>
      <li>{{ said(wound) }}</li>
    </ul>
    <p class="soft"><router-link to="/numbers">Change these numbers, or put your records in their place</router-link></p>
  </section>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
  font-size: var(--beside);
  margin-top: 4px;
}
tr {
  border-top: 1px solid var(--line);
}
.sum th,
.sum td {
  font-weight: 650;
}
th {
  text-align: left;
  font-weight: 500;
  padding: 5px 8px 5px 0;
}
td {
  padding: 5px 8px 5px 0;
  white-space: nowrap;
}
td:last-child {
  white-space: normal;
  width: 44%;
}
h3 {
  margin-top: 12px;
}
ul {
  margin: 4px 0 8px;
  padding-left: 20px;
}
p {
  margin: 8px 0 0;
}
</style>
