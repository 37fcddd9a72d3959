<script setup lang="ts">
import { useRoute } from 'vue-router'

import { useMother } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import PaperTag from '@/kit/PaperTag.vue'
import { patternWord } from '@/kit/words'

import StemPicture from './StemPicture.vue'

const route = useRoute()
const { data: mother, isPending, error, refetch } = useMother(() => String(route.params['id']))
</script>

<template>
  <div class="page stack">
    <AskState :pending="isPending" :error="error" what="this mother" @retry="refetch()" />
    <template v-if="mother">
      <div class="row">
        <h1>
          <span class="code">{{ mother.code }}</span> {{ mother.name }}
        </h1>
        <v-btn class="ml-auto" color="primary" :to="{ name: 'stem', params: { motherId: mother.id, id: 'new' } }"
          >Map a stem</v-btn
        >
      </div>
      <p class="soft">
        {{ mother.group.name }}, {{ patternWord[mother.pattern] }}.
        <template v-if="mother.provenance">{{ mother.provenance }}.</template>
      </p>
      <p v-if="!mother.stems.length" class="panel">
        Map the stem you want to cut: lay it out node by node, base to tip. Then the planner can tell where the knife goes.
      </p>
      <section v-for="s in mother.stems" :key="s.id" class="panel stem" :aria-label="`Stem ${s.letter}`">
        <div class="row">
          <h2>Stem {{ s.letter }}</h2>
          <span class="soft">{{ s.map.nodes.length }} nodes, {{ s.taken.length }} taken</span>
          <span class="row ml-auto">
            <v-btn size="small" variant="outlined" :to="{ name: 'stem', params: { motherId: mother.id, id: s.id } }"
              >Change the map</v-btn
            >
            <v-btn size="small" color="primary" :to="{ name: 'cut-stem', params: { id: s.id } }">Plan a cut</v-btn>
          </span>
        </div>
        <StemPicture :stem="s.map" :taken="s.taken.map((t) => t.node)" :height="150" :patterned="mother.pattern !== 'plain'" />
      </section>
      <section v-if="mother.cuttings.length" class="stack">
        <h2>What was taken, and what became of it</h2>
        <div class="row">
          <PaperTag v-for="c in mother.cuttings" :key="c.id" :cutting="c" />
        </div>
      </section>
    </template>
  </div>
</template>
