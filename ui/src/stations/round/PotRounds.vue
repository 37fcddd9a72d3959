<script setup lang="ts">
import { computed, ref } from 'vue'

import { newId, type Cutting, type Schemas } from '@/api/client'
import { useMany } from '@/api/many'
import { useVisitPot } from '@/api/queries'
import PieceDrawing from '@/drawing/PieceDrawing.vue'
import PotDrawing from '@/drawing/PotDrawing.vue'
import { relative, shortDate } from '@/kit/dates'
import { len, said } from '@/kit/units'
import { count } from '@/kit/words'
import { placedIn, reach } from '@/stations/shelf/placing'

/** The pots in the weeks after potting: what waits is ticked with one tap; what is seen of a plant is a look at it. */
const { pots, cuttings, places } = defineProps<{
  pots: Schemas['PotStop'][]
  cuttings: Cutting[]
  places: { id: string; name: string }[]
}>()
const visit = useVisitPot()
const looks = useMany('look', 'look')
const due = computed(() => pots.filter((p) => p.due))
const rest = computed(() => pots.filter((p) => !p.due))
const told = ref('')
const plantsOf = (p: Schemas['PotStop']) => cuttings.filter((c) => p.plants.some((x) => x.id === c.id))
const placeOf = (p: Schemas['PotStop']) => places.find((x) => x.id === p.place_id)?.name ?? ''
const codes = (p: Schemas['PotStop']) => p.plants.map((x) => x.code).join(', ')
const seen = [
  { key: 'dry', label: 'it was dry', look: { water: 'dry' as const } },
  { key: 'droop', label: 'leaves droop', look: { leaf: 'drooping' as const } },
  { key: 'yellow', label: 'yellowing', look: { leaf: 'yellowing' as const } },
]
/** Seen to, and what was seen of all that stand in it. */
async function note(p: Schemas['PotStop'], look?: (typeof seen)[number]['look']) {
  await visit.mutateAsync({ pot_id: p.pot_id, at: new Date().toISOString() }).catch(() => undefined)
  told.value = `${codes(p)}: seen to.`
  if (!look) return
  await looks.send(
    p.plants.map((x) => ({
      name: x.code,
      content: {
        id: newId(),
        cutting_id: x.id,
        looked_at: new Date().toISOString(),
        seen: { roots_counted: false, roots: [], buds: [], ...look },
      },
    })),
    (list) => `What was seen of ${list.map((k) => k.name).join(', ')} was noted.`,
  )
}
</script>

<template>
  <section class="stack" aria-label="Pots in their first weeks">
    <h2>Pots in their first weeks</h2>
    <p v-if="told" role="status" class="soft">{{ told }}</p>
    <p v-if="!due.length" class="soft">Nothing waits at {{ count(pots.length, 'the pot', 'the pots') }} today.</p>
    <article v-for="p in due" :key="p.pot_id" class="pot" :aria-label="`${len(p.pot.top_mm)} pot: ${codes(p)}`">
      <svg
        v-if="plantsOf(p).length"
        :viewBox="`${-p.pot.top_mm / 2 - 30} ${-reach(undefined, plantsOf(p))} ${p.pot.top_mm + 60} ${reach(undefined, plantsOf(p)) + 4}`"
        role="img"
        :aria-label="`${codes(p)} in a ${len(p.pot.top_mm)} pot, to scale`"
      >
        <PotDrawing :pot="p.pot">
          <g
            v-for="x in placedIn(undefined, plantsOf(p))"
            :key="x.cutting.id"
            :transform="`translate(${x.x},${-x.up})${x.flip ? ' scale(-1,1)' : ''}`"
          >
            <PieceDrawing :piece="x.piece" :walls="x.walls" :clear="x.clear" />
          </g>
        </PotDrawing>
      </svg>
      <div class="stack say">
        <p>
          <router-link v-for="x in p.plants" :key="x.id" class="code" :to="{ name: 'cutting', params: { id: x.id } }">{{
            x.code
          }}</router-link>
          <span class="soft">{{ placeOf(p) }}, potted {{ relative(p.on) }}</span>
        </p>
        <p>{{ said(p.due?.text ?? '') }}</p>
        <p class="soft small">{{ said(p.not_normal) }} Yellowing and droop are shock until {{ shortDate(p.shock_until) }}.</p>
        <div class="row acts">
          <v-btn color="primary" @click="note(p)">Seen to, all well</v-btn>
          <button v-for="s in seen" :key="s.key" type="button" class="choice" @click="note(p, s.look)">{{ s.label }}</button>
        </div>
      </div>
    </article>
    <p v-for="p in rest" :key="p.pot_id" class="soft small">
      {{ codes(p) }}: {{ p.visits.length ? 'seen to today. ' : ''
      }}{{ p.next ? `Next ${shortDate(p.next.on)}: ${said(p.next.text)}` : 'The weeks after potting are over.' }}
    </p>
  </section>
</template>

<style scoped>
.pot {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 14px;
  align-items: end;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 14px;
  padding: 12px 14px;
}
svg {
  width: 100%;
  max-height: 190px;
  overflow: visible;
}
.say {
  gap: 6px;
  align-self: center;
}
.acts {
  gap: 7px;
}
p {
  margin: 0;
}
p .code {
  margin-right: 8px;
}
.small {
  font-size: var(--small);
}
@media (max-width: 700px) {
  .pot {
    grid-template-columns: 84px 1fr;
    padding: 10px;
  }
}
</style>
