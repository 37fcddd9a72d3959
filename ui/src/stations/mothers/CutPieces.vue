<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Cutting, Schemas } from '@/api/client'
import { useCuttingsOfCut } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import { shortDate } from '@/kit/dates'
import PaperTag from '@/kit/PaperTag.vue'
import { count } from '@/kit/words'

/** What became of the pieces of one cut: those that are here, and on asking those of long ago. */
const { cut, known, daughters } = defineProps<{
  cut: Schemas['CutOn']
  known: Map<string, Cutting>
  daughters: Schemas['Daughter'][]
}>()
const asked = ref(false)
const { data, error, isFetching, refetch } = useCuttingsOfCut(
  () => cut.id,
  () => asked.value,
)
const here = computed(() => cut.cuttings.flatMap((id) => known.get(id) ?? []))
const pieces = computed(() => data.value ?? here.value)
/** Sisters that stand, to be looked at, set, potted or closed together. */
const standing = computed(() => pieces.value.filter((c) => c.where === 'unset' || c.where === 'vessel'))
const missing = computed(() => cut.cuttings.length - pieces.value.length)
const daughter = (id: string) => daughters.find((d) => d.cutting_id === id)
function fate(c: Cutting): string {
  if (c.given_on) return `given away ${shortDate(c.given_on)}`
  switch (c.judgement.verdict) {
    case 'done':
      return c.fate === 'parted' ? 'went into its young plants' : 'established'
    case 'lost':
      return 'lost'
    case 'growing_on':
      return c.potted_on ? `potted ${shortDate(c.potted_on)}` : 'potted'
  }
  return c.set_on ? `stands in ${c.vessel_name}` : c.judgement.to_pot ? 'has roots, not potted yet' : 'cut, not set'
}
</script>

<template>
  <ul class="pieces">
    <li v-for="p in pieces" :key="p.id" class="piece">
      <PaperTag :cutting="p" />
      <small class="soft">{{ fate(p) }}</small>
      <router-link v-if="daughter(p.id)" class="code" :to="{ name: 'mother', params: { id: daughter(p.id)!.id } }"
        >mother {{ daughter(p.id)!.code }}</router-link
      >
    </li>
    <li v-if="standing.length > 1" class="piece">
      <v-btn size="small" variant="outlined" :to="{ name: 'together', query: { cuttings: standing.map((c) => c.id).join(',') } }"
        >All {{ standing.length }} at once</v-btn
      >
    </li>
    <li v-if="missing > 0" class="piece">
      <v-btn v-if="!asked" size="small" variant="outlined" @click="asked = true"
        >Show {{ count(missing, 'piece', 'pieces') }} of then</v-btn
      >
      <AskState v-else :pending="isFetching" :error="error" what="these pieces" @retry="refetch()" />
    </li>
  </ul>
</template>

<style scoped>
.pieces.pieces {
  list-style: none;
  margin: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 10px 16px;
  padding: 4px 0 8px 22px;
}
/* Tags hang side by side, on no branch of the tree. */
.pieces > li.piece::before,
.pieces > li.piece::after {
  display: none;
}
.piece {
  display: grid;
  justify-items: start;
  gap: 2px;
}
</style>
