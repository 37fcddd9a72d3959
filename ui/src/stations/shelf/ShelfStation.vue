<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'

import type { Cutting, Vessel } from '@/api/client'
import { useRound, useShelf } from '@/api/queries'
import PatternDefs from '@/drawing/PatternDefs.vue'
import AskState from '@/kit/AskState.vue'
import { len } from '@/kit/units'

import { reach } from './placing'
import ShelfPlace from './ShelfPlace.vue'
import TodayList from './TodayList.vue'

const { data, isPending, error, refetch } = useShelf()
const active = ref<string>()
const shelves = useTemplateRef('shelves')
const { width } = useElementSize(shelves)
/** Pixels a mm: one scale for the whole shelf, so that everything stands in true proportion. */
const scale = computed(() => (width.value < 500 ? 0.82 : 0.96))

/** Those that share a key, in one pass. */
function grouped<T>(list: T[], key: (one: T) => string | undefined): Map<string, T[]> {
  const out = new Map<string, T[]>()
  for (const one of list) {
    const k = key(one)
    if (k === undefined) continue
    const group = out.get(k)
    if (group) group.push(one)
    else out.set(k, [one])
  }
  return out
}
/** Side by side as they stood on their stem. */
const stemOf = (c: Cutting) => c.code.replace(/\d+(-\d+)?$/, '')
const byPlace = (a: Cutting, b: Cutting) =>
  stemOf(a) === stemOf(b) ? a.piece.first - b.piece.first : stemOf(a) < stemOf(b) ? -1 : 1
const places = computed(() => {
  const shelf = data.value
  if (!shelf) return []
  const inVessel = grouped(shelf.cuttings, (c: Cutting) => (c.where === 'vessel' ? c.vessel_id : undefined))
  const inPot = grouped(shelf.cuttings, (c: Cutting) => (c.where === 'pot' ? c.place_id : undefined))
  const vesselsOf = grouped(shelf.vessels, (v: Vessel) => v.place_id)
  return (
    shelf.places
      .map((place) => ({
        ...place,
        vessels: (vesselsOf.get(place.id) ?? []).map((vessel) => ({
          vessel,
          cuttings: (inVessel.get(vessel.id) ?? []).sort(byPlace),
        })),
        pots: [...grouped(inPot.get(place.id) ?? [], (c: Cutting) => c.pot_id ?? c.id).values()],
      }))
      // What is empty leaves the shelf; it is found by its name when it is wanted again.
      .map((p) => ({ ...p, vessels: p.vessels.filter((v) => v.cuttings.length) }))
      .filter((p) => p.vessels.length || p.pots.length)
      .map((p) => ({
        ...p,
        heightMm: Math.max(0, ...p.vessels.map((v) => reach(v.vessel, v.cuttings)), ...p.pots.map((c) => reach(undefined, c))),
      }))
  )
})
/** What is due comes after what stands: the shelf waits for nothing. */
const { data: round } = useRound(() => data.value !== undefined)
const stops = computed(() => new Map(round.value?.stops.map((s) => [s.vessel_id, s]) ?? []))
const loose = computed(() => data.value?.cuttings.filter((c) => c.where === 'unset' && !c.judgement.to_pot) ?? [])
</script>

<template>
  <div class="station">
    <PatternDefs />
    <section ref="shelves" class="shelves" aria-label="Shelves">
      <h1 class="sr">Shelf</h1>
      <AskState :pending="isPending" :error="error" what="the shelf" @retry="refetch()" />
      <div v-if="data && !places.length" class="panel stack empty">
        <h2>The shelf is empty</h2>
        <p>
          Bring in a piece you own already, and it stands here. Or begin with a mother plant: add her, map one stem, cut it, and
          set the pieces into a vessel.
        </p>
        <div class="row">
          <v-btn color="primary" to="/bring-in">Bring in a piece</v-btn>
          <v-btn variant="outlined" :to="{ name: 'mothers', query: { add: '1' } }">Add a mother</v-btn>
        </div>
      </div>
      <ShelfPlace
        v-for="place in places"
        :key="place.id"
        v-model:active="active"
        :place="place"
        :stops="stops"
        :scale="scale"
        :eager="(data?.cuttings.length ?? 0) <= 80"
      />
      <p v-if="data" class="soft rule-note">
        The rule on each shelf's edge: a mark every {{ len(10) }}. Vessels, stems and roots are drawn to it.
      </p>
    </section>
    <TodayList v-if="data" v-model:active="active" :shelf="data" :loose="loose" />
    <aside v-else class="today" aria-hidden="true"></aside>
  </div>
</template>

<style scoped>
.station {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 356px;
  min-height: calc(100vh - var(--bar));
}
.shelves {
  padding: 14px 10px 20px 22px;
  min-width: 0;
}
.empty {
  max-width: 560px;
  margin-top: 30px;
}
.rule-note {
  font-size: var(--smallest);
}
@media (max-width: 900px) {
  .today {
    min-height: calc(100vh - var(--bar));
  }
  .station {
    display: flex;
    flex-direction: column;
  }
  .station > :last-child {
    order: -1;
  }
  .shelves {
    padding: 12px 14px;
  }
}
</style>
