<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'

import { useMothers } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import { bothDates } from '@/kit/dates'

import MotherDrawing from '@/drawing/MotherDrawing.vue'
import { plantBox, plantOf } from '@/drawing/motherPlant'
import FitSign from '@/kit/FitSign.vue'
import { useInTurn } from '@/kit/inTurn'
import { count } from '@/kit/words'

import MotherForm from './MotherForm.vue'

const { data: mothers, isPending, error, refetch } = useMothers()
const route = useRoute()
/** The empty shelf sends here to add one at once. */
const adding = ref(Boolean(route.query['add']))

const shown = useInTurn(() => mothers.value ?? [], 2, 1)
/** One scale for all, so that they compare as they do on the shelf. */
const scale = computed(() => {
  const boxes = mothers.value?.map((m) => plantBox(plantOf(m), false)) ?? []
  return Math.min(0.95, 260 / Math.max(200, ...boxes.map((b) => b.h)), 266 / Math.max(150, ...boxes.map((b) => b.w)))
})
</script>

<template>
  <div class="page stack">
    <div class="row">
      <h1>Mothers</h1>
      <span class="soft">the plants that pieces are taken from</span>
      <span class="row push">
        <v-btn variant="text" :to="{ name: 'offer' }">Worth it?</v-btn>
        <v-btn variant="text" :to="{ name: 'files' }">In and out</v-btn>
        <v-btn variant="text" :to="{ name: 'bring-in' }">Bring in a piece</v-btn>
        <v-btn color="primary" @click="adding = true">Add a mother</v-btn>
      </span>
    </div>
    <AskState :pending="isPending" :error="error" what="the mothers" @retry="refetch()" />
    <p v-if="mothers && !mothers.length" class="panel">
      No mother yet. Add the plant you cut from: its name and provenance pass to every piece, so that no name is ever lost.
    </p>
    <ul>
      <li v-for="m in shown" :key="m.id">
        <router-link :to="{ name: 'mother', params: { id: m.id } }">
          <div class="board"><MotherDrawing :mother="m" :ghosts="false" :scale="scale" /></div>
          <b class="code">{{ m.code }}</b>
          <h2>{{ m.name }}</h2>
          <p v-if="!m.known" class="soft">Known by name only</p>
          <FitSign v-else-if="m.stems.length" :fit="m.fit" />
          <p class="soft">
            <template v-if="m.stems.length"
              >{{ count(m.stems.length, 'stem', 'stems') }},
              {{
                count(
                  m.stems.reduce((n, s) => n + s.standing, 0),
                  'node',
                  'nodes',
                )
              }}
              standing<template v-if="m.last_cut_on">, last cut {{ bothDates(m.last_cut_on) }}</template
              >.</template
            >
            <template v-else>No stem mapped yet.</template>
          </p>
        </router-link>
      </li>
    </ul>

    <MotherForm v-model="adding" />
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
  gap: 26px 18px;
}
li a {
  display: block;
  text-decoration: none;
  height: 100%;
}
/* They stand on a board, as on the shelf. */
.board {
  display: grid;
  align-items: end;
  justify-items: center;
  min-height: 270px;
  border-bottom: 5px solid var(--wood);
  margin-bottom: 8px;
}
@media (max-width: 700px) {
  .board {
    min-height: 0;
  }
}
li a:hover h2 {
  text-decoration: underline;
}
li h2 {
  margin-top: 2px;
}
li p {
  margin: 4px 0 0;
  font-size: var(--beside);
}
</style>
