<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'

import { newId } from '@/api/client'
import { useAddMother, useHandbook, useMothers } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import BasisNote from '@/kit/BasisNote.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { bothDates } from '@/kit/dates'
import { patternWord } from '@/kit/words'

import MotherDrawing from '@/drawing/MotherDrawing.vue'
import { plantBox, plantOf } from '@/drawing/motherPlant'
import FitSign from '@/kit/FitSign.vue'

const { data: mothers, isPending, error, refetch } = useMothers()
const { data: book } = useHandbook()
const router = useRouter()
const add = useAddMother()
const adding = ref(false)

/** One scale for all, so that they compare as they do on the shelf. */
const scale = computed(() => {
  const boxes = mothers.value?.map((m) => plantBox(plantOf(m), false)) ?? []
  return Math.min(0.95, 260 / Math.max(200, ...boxes.map((b) => b.h)), 266 / Math.max(150, ...boxes.map((b) => b.w)))
})

/** What is typed survives a reload; it is dropped once it is saved. */
const blank = () => ({ id: newId(), name: '', group_key: '', provenance: '', pattern: 'plain' as const })
const draft = useStorage<{
  id: string
  name: string
  group_key: string
  provenance: string
  pattern: 'plain' | 'stable' | 'unstable'
}>('clearjar.draft.mother', blank())
const group = computed(() => book.value?.groups.find((g) => g.key === draft.value.group_key))
const reason = (field: string) => add.error.value?.about(field)

async function save() {
  const made = await add.mutateAsync(draft.value).catch(() => undefined)
  if (!made) return
  draft.value = blank()
  adding.value = false
  await router.push({ name: 'mother', params: { id: made.id } })
}
</script>

<template>
  <div class="page stack">
    <div class="row">
      <h1>Mothers</h1>
      <span class="soft">the plants that pieces are taken from</span>
      <span class="row ml-auto">
        <v-btn variant="text" :to="{ name: 'offer' }">Worth it?</v-btn>
        <v-btn variant="text" :to="{ name: 'files' }">In and out</v-btn>
        <v-btn color="primary" @click="adding = true">Add a mother</v-btn>
      </span>
    </div>
    <AskState :pending="isPending" :error="error" what="the mothers" @retry="refetch()" />
    <p v-if="mothers && !mothers.length" class="panel">
      No mother yet. Add the plant you cut from: its name and provenance pass to every piece, so that no name is ever lost.
    </p>
    <ul>
      <li v-for="m in mothers" :key="m.id">
        <router-link :to="{ name: 'mother', params: { id: m.id } }">
          <div class="board"><MotherDrawing :mother="m" :ghosts="false" :scale="scale" /></div>
          <b class="code">{{ m.code }}</b>
          <h2>{{ m.name }}</h2>
          <FitSign v-if="m.stems.length" :fit="m.fit" />
          <p class="soft">
            <template v-if="m.stems.length"
              >{{ m.stems.length }} {{ m.stems.length === 1 ? 'stem' : 'stems' }},
              {{ m.stems.reduce((n, s) => n + s.standing, 0) }} nodes standing<template v-if="m.last_cut_on"
                >, last cut {{ bothDates(m.last_cut_on) }}</template
              >.</template
            >
            <template v-else>No stem mapped yet.</template>
          </p>
        </router-link>
      </li>
    </ul>

    <v-dialog v-model="adding" aria-label="Add a mother">
      <v-card class="pa-5">
        <h2>Add a mother</h2>
        <form class="stack mt-4" @submit.prevent="save">
          <v-text-field v-model="draft.name" label="Full name" autofocus :error-messages="reason('name')" maxlength="200" />
          <v-select
            v-model="draft.group_key"
            label="Growth group: plants that root alike"
            :items="book?.groups.map((g) => ({ title: g.name, value: g.key, props: { subtitle: g.members } })) ?? []"
            :error-messages="reason('group_key')"
          />
          <p v-if="group" class="soft group">
            {{ group.note }} Roots after {{ group.first_roots_days.mid }} days ({{ group.first_roots_days.low }} to
            {{ group.first_roots_days.high }}). <BasisNote :basis="group.basis" />
          </p>
          <v-textarea
            v-model="draft.provenance"
            label="Where it came from"
            rows="2"
            auto-grow
            :error-messages="reason('provenance')"
            maxlength="600"
          />
          <fieldset>
            <legend>Pattern</legend>
            <v-btn-toggle v-model="draft.pattern" mandatory color="secondary">
              <v-btn v-for="p in ['plain', 'stable', 'unstable'] as const" :key="p" :value="p">{{ patternWord[p] }}</v-btn>
            </v-btn-toggle>
          </fieldset>
          <RefusalNote :error="add.error.value" />
          <div class="row">
            <v-btn type="submit" color="primary" :loading="add.isPending.value">Add it</v-btn>
            <v-btn variant="text" @click="adding = false">Not now</v-btn>
          </div>
        </form>
      </v-card>
    </v-dialog>
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
  font-size: 15px;
}
fieldset {
  border: 0;
  padding: 0;
}
legend {
  color: var(--ink2);
  padding-bottom: 4px;
}
.group {
  margin: 0;
  font-size: 15px;
}
</style>
