<script setup lang="ts">
import type { MappedStem } from '@/api/client'
import { percent } from '@/kit/words'

import StemPicture from '@/drawing/StemPicture.vue'
import type { Answer } from './cutPlan'

/** Two plans side by side: the one held, and the one that lies on the bench now. */
const { held, now, stems, patterned } = defineProps<{ held: Answer; now: Answer; stems: MappedStem[]; patterned: boolean }>()
defineEmits<{ lay: []; drop: [] }>()
const plans = () => [
  { key: 'held', title: 'Held', plan: held },
  { key: 'now', title: 'On the bench', plan: now },
]
const pieces = (a: Answer) => a.stems.reduce((n, s) => n + s.plan.pieces.length, 0)
const stays = (a: Answer) => a.stems.reduce((n, s) => n + s.plan.mother_nodes, 0)
const leaves = (a: Answer) => a.stems.reduce((n, s) => n + s.plan.mother_leaves, 0)
const rows: { label: string; value: (a: Answer) => number; text: (a: Answer) => string; best: 1 | -1 | 0 }[] = [
  { label: 'Pieces', value: pieces, text: (a) => String(pieces(a)), best: 0 },
  { label: 'Plants expected', value: (a) => a.expected, text: (a) => a.expected.toFixed(2), best: 1 },
  { label: 'Chance to lose all', value: (a) => a.lose_all, text: (a) => percent(a.lose_all), best: -1 },
  { label: 'Chance of 2 or more', value: (a) => atLeast(a, 2), text: (a) => percent(atLeast(a, 2)), best: 1 },
  { label: 'Worth by pattern', value: (a) => a.worth, text: (a) => a.worth.toFixed(2), best: 1 },
  {
    label: 'Mother keeps',
    value: stays,
    text: (a) => `${stays(a)} ${stays(a) === 1 ? 'node' : 'nodes'}, ${leaves(a)} ${leaves(a) === 1 ? 'leaf' : 'leaves'}`,
    best: 0,
  },
]
const atLeast = (a: Answer, k: number) => a.counts.slice(k).reduce((s, p) => s + p, 0)
const better = (r: (typeof rows)[number], a: Answer) => {
  const other = a === held ? now : held
  return r.best !== 0 && (r.value(a) - r.value(other)) * r.best > 1e-9
}
const knives = (a: Answer, stem: string) => a.stems.find((s) => s.stem_id === stem)?.plan.knives_mm ?? []
</script>

<template>
  <section class="panel" aria-label="Two plans side by side">
    <div class="row">
      <h2>Two plans side by side</h2>
      <span class="row push">
        <v-btn size="small" variant="outlined" @click="$emit('lay')">Lay the held one again</v-btn>
        <v-btn size="small" variant="text" @click="$emit('drop')">Let it go</v-btn>
      </span>
    </div>
    <div class="sides">
      <div v-for="p in plans()" :key="p.key">
        <h3>{{ p.title }}</h3>
        <StemPicture
          v-for="s in stems"
          :key="s.id"
          :stem="s.map"
          :standing="s.standing"
          :end-mm="s.end_mm"
          :knives="knives(p.plan, s.id)"
          :height="92"
          :patterned="patterned"
        />
        <dl>
          <template v-for="r in rows.filter((x) => patterned || x.label !== 'Worth by pattern')" :key="r.label">
            <dt>{{ r.label }}</dt>
            <dd :class="{ better: better(r, p.plan) }">{{ r.text(p.plan) }}<span v-if="better(r, p.plan)"> better</span></dd>
          </template>
        </dl>
      </div>
    </div>
  </section>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 22px;
  margin-top: 6px;
}
dl {
  display: grid;
  grid-template-columns: auto auto;
  margin: 4px 0 0;
}
dt,
dd {
  border-top: 1px solid var(--line);
  padding: 4px 0;
  margin: 0;
}
dd {
  text-align: right;
  font-family: var(--mono);
}
.better {
  color: var(--ready);
  font-weight: 650;
}
.better span {
  font: 500 13px var(--text);
}
@media (max-width: 700px) {
  .sides {
    grid-template-columns: 1fr;
  }
}
</style>
