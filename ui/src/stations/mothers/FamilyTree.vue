<script setup lang="ts">
import { computed } from 'vue'

import type { Cutting, MappedStem, Mother } from '@/api/client'
import { shortDate } from '@/kit/dates'
import PaperTag from '@/kit/PaperTag.vue'

/** From the mother over her stems and cuts down to what became of each piece, and the mothers raised from them. */
const { mother } = defineProps<{ mother: Mother }>()

const by = computed(() => new Map(mother.cuttings.map((c) => [c.id, c])))
const daughters = computed(() => new Map(mother.daughters.map((d) => [d.cutting_id, d])))
const cuts = (s: MappedStem) =>
  mother.cuts.filter((c) => c.stem_id === s.id).map((c) => ({ ...c, pieces: c.cuttings.flatMap((id) => by.value.get(id) ?? []) }))
function fate(c: Cutting): string {
  if (c.given_on) return `given away ${shortDate(c.given_on)}`
  switch (c.judgement.verdict) {
    case 'done':
      return 'established'
    case 'lost':
      return 'lost'
    case 'growing_on':
      return c.potted_on ? `potted ${shortDate(c.potted_on)}` : 'potted'
  }
  return c.set_on ? `stands in ${c.vessel_name}` : 'cut, not set'
}
</script>

<template>
  <ul class="tree" aria-label="Family tree">
    <li v-for="s in mother.stems" :key="s.id">
      <p>
        <b class="code">{{ mother.code }}-{{ s.letter }}</b>
        <span v-if="s.map.sprang" class="soft"> grew back from {{ s.map.sprang.letter }}{{ s.map.sprang.node }}</span>
        <span v-if="!cuts(s).length" class="soft"> never cut</span>
      </p>
      <ul v-if="cuts(s).length">
        <li v-for="c in cuts(s)" :key="c.id">
          <p class="soft">cut {{ shortDate(c.on) }}, {{ c.pieces.length }} {{ c.pieces.length === 1 ? 'piece' : 'pieces' }}</p>
          <ul class="pieces">
            <li v-for="p in c.pieces" :key="p.id">
              <PaperTag :cutting="p" />
              <small class="soft">{{ fate(p) }}</small>
              <router-link
                v-if="daughters.get(p.id)"
                class="code"
                :to="{ name: 'mother', params: { id: daughters.get(p.id)!.id } }"
                >mother {{ daughters.get(p.id)!.code }}</router-link
              >
            </li>
          </ul>
        </li>
      </ul>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.tree ul {
  padding-left: 22px;
}
.tree li {
  position: relative;
}
.tree ul > li::before {
  content: '';
  position: absolute;
  left: -14px;
  top: 0;
  bottom: 0;
  border-left: 2px solid var(--wood);
}
.tree ul > li:last-child::before {
  bottom: auto;
  height: 14px;
}
.tree ul > li::after {
  content: '';
  position: absolute;
  left: -14px;
  top: 13px;
  width: 10px;
  border-top: 2px solid var(--wood);
}
.pieces {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 16px;
  padding: 4px 0 8px 22px;
}
.tree .pieces > li::before,
.tree .pieces > li::after {
  display: none;
}
.pieces li {
  display: grid;
  justify-items: start;
  gap: 2px;
}
p {
  margin: 3px 0;
}
</style>
