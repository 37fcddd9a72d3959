<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'

import { type Cutting, type Vessel } from '@/api/client'
import { useAddVessel, useHandbook, useHowToSet, useSetInVessel, useShelf } from '@/api/queries'
import { baseHeight, rises } from '@/drawing/geometry'
import PatternDefs from '@/drawing/PatternDefs.vue'
import PieceDrawing from '@/drawing/PieceDrawing.vue'
import { pieceOf } from '@/drawing/pieceOf'
import VesselDrawing from '@/drawing/VesselDrawing.vue'
import AskState from '@/kit/AskState.vue'
import DateField from '@/kit/DateField.vue'
import { instantOf, todayField } from '@/kit/dates'
import LengthField from '@/kit/LengthField.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { said as inUnits } from '@/kit/units'
import { count, kindWord } from '@/kit/words'
import { useRoute } from 'vue-router'

const route = useRoute()
const { data: shelf, isPending, error, refetch } = useShelf()
const { data: book } = useHandbook()
const moving = computed(() => (typeof route.query['cutting'] === 'string' ? route.query['cutting'] : undefined))

/** The pieces to set: those cut and not set, and the one that is being moved. */
const waiting = computed<Cutting[]>(
  () => shelf.value?.cuttings.filter((c) => c.where === 'unset' || (c.id === moving.value && c.where === 'vessel')) ?? [],
)
const chosenId = ref(moving.value)
watch(moving, (id) => (chosenId.value = id))
const chosen = computed(() => waiting.value.find((c) => c.id === chosenId.value) ?? waiting.value[0])

const standing = (v: Vessel) =>
  shelf.value?.cuttings.filter((c) => c.vessel_id === v.id && c.where === 'vessel' && c.id !== chosen.value?.id).length ?? 0

const vesselId = ref<string>('')
/** A new vessel starts with the usual measures of its kind. */
const fresh = reactive({
  name: '',
  place: '',
  kind: 'jar' as Vessel['kind'],
  medium: undefined as Vessel['medium'],
  width_mm: 0,
  depth_mm: 0,
  height_mm: 0,
  wall_mm: 0,
  fill_mm: 0,
  holds: 1,
})
watch([() => fresh.kind, book], ([k]) => Object.assign(fresh, book.value?.vessels.find((s) => s.kind === k)?.usual ?? {}), {
  immediate: true,
})
watch(
  shelf,
  (s) => {
    if (s && !fresh.place) fresh.place = s.places[0]?.name ?? 'Window sill'
  },
  { immediate: true },
)
const vessel = computed(() => (vesselId.value === 'new' ? fresh : shelf.value?.vessels.find((v) => v.id === vesselId.value)))
const sort = computed(() => book.value?.vessels.find((s) => s.kind === vessel.value?.kind))
const medium = computed(() => book.value?.media.find((m) => m.medium === vessel.value?.medium))
/** Media that stay in a vessel of its kind. */
const takes = computed(() => book.value?.media.filter((m) => !(sort.value?.drains && m.liquid)) ?? [])
const group = computed(() => book.value?.groups.find((g) => g.key === chosen.value?.group_key))
const round = computed(() => book.value?.vessels.find((s) => s.kind === fresh.kind)?.round ?? true)
/** A new vessel's cover stands as usual over its medium. */
const usualCover = computed(() => {
  const states = sort.value?.covers ?? []
  return (medium.value?.cover ? states[0] : states.at(-1))?.state ?? 'off'
})
const { data: how } = useHowToSet(
  () => chosen.value?.id ?? '',
  () => vessel.value?.medium ?? '',
)
const words = computed(() => book.value?.kinds.find((k) => k.kind === chosen.value?.kind))

const setNodes = ref(1)
watch(
  chosen,
  (c) => {
    if (c) setNodes.value = c.set_nodes || Math.max(1, c.piece.set - c.gone_nodes)
  },
  { immediate: true },
)
const setOn = ref(todayField())
const piece = computed(() => (chosen.value ? { ...pieceOf(chosen.value), setNodes: setNodes.value } : undefined))
const floor = computed(() => sort.value?.floor_mm ?? 2)
const up = computed(() => (piece.value && vessel.value ? baseHeight(piece.value, vessel.value.fill_mm) + floor.value : 0))
const clear = computed(() => Math.max(0, (vessel.value?.fill_mm ?? 0) + floor.value - up.value))
const view = computed(() => {
  const w = Math.max(150, (vessel.value?.width_mm ?? 80) + 70)
  const h = Math.max(vessel.value?.height_mm ?? 100, piece.value ? up.value + rises(piece.value, clear.value) : 0) + 14
  return `${-w / 2} ${-h} ${w} ${h + 6}`
})

const addVessel = useAddVessel()
const setIn = useSetInVessel()
const failure = computed(() => addVessel.error.value ?? setIn.error.value)
const said = ref('')
async function save() {
  const cutting = chosen.value
  if (!cutting) return
  let into = vesselId.value
  if (into === 'new') {
    if (round.value) fresh.depth_mm = fresh.width_mm
    const made = await addVessel.mutateAsync({ ...fresh }).catch(() => undefined)
    if (!made) return
    into = made.id
    vesselId.value = made.id
    fresh.name = ''
  }
  const done = await setIn
    .mutateAsync({
      cutting_id: cutting.id,
      vessel_id: into,
      set_on: instantOf(setOn.value),
      set_nodes: setNodes.value,
    })
    .catch(() => undefined)
  if (!done) return
  said.value = `${done.code} stands in ${done.vessel_name}.`
  chosenId.value = waiting.value.find((c) => c.id !== done.id)?.id
}
</script>

<template>
  <div class="page stack">
    <PatternDefs />
    <h1>Set</h1>
    <AskState :pending="isPending" :error="error" what="the pieces" @retry="refetch()" />
    <p v-if="said" class="panel" role="status">{{ said }} <router-link to="/">See it on the shelf.</router-link></p>
    <p v-if="shelf && !waiting.length" class="panel">
      Nothing is cut and waiting to be set. <router-link to="/cut">Plan a cut</router-link> to make pieces, or
      <router-link to="/bring-in">bring in a piece</router-link> you own already.
    </p>
    <div v-if="shelf && chosen && piece" class="two">
      <section class="stack">
        <div class="row" role="group" aria-label="Pieces to set">
          <v-btn
            v-for="c in waiting"
            :key="c.id"
            :variant="c.id === chosen.id ? 'flat' : 'outlined'"
            :color="c.id === chosen.id ? 'secondary' : undefined"
            :aria-pressed="c.id === chosen.id"
            @click="chosenId = c.id"
          >
            <span class="code">{{ c.code }}</span>
          </v-btn>
        </div>
        <p class="soft">
          {{ chosen.mother_name }}, {{ kindWord[chosen.kind] ?? chosen.kind }},
          {{ count(chosen.nodes.length - chosen.gone_nodes, words?.point ?? 'node', words?.points ?? 'nodes') }}. Label the vessel
          at once: name, mother, date, nodes, medium.
        </p>
        <div class="row into">
          <v-select
            label="Into which vessel"
            :items="
              shelf.vessels.map((v) => ({
                title: `${v.name}, ${v.medium}, ${standing(v)} of ${v.holds}${standing(v) >= v.holds ? ' (full)' : ''}`,
                value: v.id,
              }))
            "
            :model-value="vesselId === 'new' ? null : vesselId || null"
            @update:model-value="(v: string) => (vesselId = v)"
          />
          <v-btn
            :variant="vesselId === 'new' ? 'flat' : 'outlined'"
            :color="vesselId === 'new' ? 'secondary' : undefined"
            :aria-pressed="vesselId === 'new'"
            @click="vesselId = 'new'"
          >
            A new vessel
          </v-btn>
        </div>
        <div v-if="vesselId === 'new'" class="panel fresh">
          <v-text-field v-model="fresh.name" label="Name of the vessel" :error-messages="addVessel.error.value?.about('name')" />
          <v-combobox
            v-model="fresh.place"
            label="Shelf"
            :items="shelf.places.map((p) => p.name)"
            :error-messages="addVessel.error.value?.about('place')"
          />
          <v-select
            v-model="fresh.kind"
            label="Kind"
            :items="book?.vessels.map((s) => ({ title: s.label, value: s.kind })) ?? []"
          />
          <v-select
            v-model="fresh.medium"
            label="What is in it"
            :items="takes.map((m) => ({ title: m.medium, value: m.medium }))"
          />
          <LengthField
            v-model="fresh.width_mm"
            :label="round ? 'Inner diameter' : 'Inner width'"
            :error-messages="addVessel.error.value?.about('width_mm')"
          />
          <LengthField
            v-if="!round"
            v-model="fresh.depth_mm"
            label="Inner depth"
            :error-messages="addVessel.error.value?.about('depth_mm')"
          />
          <LengthField v-model="fresh.height_mm" label="Height" :error-messages="addVessel.error.value?.about('height_mm')" />
          <LengthField
            v-model="fresh.fill_mm"
            :label="medium?.fill ?? 'fill'"
            :error-messages="addVessel.error.value?.about('fill_mm')"
          />
          <v-text-field
            v-model.number="fresh.holds"
            type="number"
            label="Holds how many"
            :error-messages="addVessel.error.value?.about('holds')"
          />
        </div>
        <template v-if="vessel && sort">
          <div class="panel">
            <h2>How to set it in {{ vessel.medium }} in a {{ sort.label }}</h2>
            <ol>
              <li v-for="h in how?.steps ?? []" :key="h">{{ inUnits(h) }}</li>
              <li v-if="chosen.piece.strip.length">
                Strip the leaf of node {{ chosen.piece.strip.join(' and ') }}: it would sit in the {{ vessel.medium }} and rot.
              </li>
            </ol>
            <p v-if="group?.note" class="soft">{{ group.name }}: {{ inUnits(group.note) }}</p>
          </div>
          <p v-if="how?.unusual" class="caution">{{ how.unusual }}</p>
          <p v-for="c in how?.cautions ?? []" :key="c.key" class="caution">{{ c.text }}</p>
          <div class="row">
            <v-text-field
              v-model.number="setNodes"
              class="short"
              type="number"
              min="1"
              :max="chosen.nodes.length - chosen.gone_nodes"
              :label="`${(words?.points ?? 'nodes')[0]?.toUpperCase()}${(words?.points ?? 'nodes').slice(1)} in it`"
              :error-messages="setIn.error.value?.about('set_nodes')"
            />
            <DateField v-model="setOn" label="Set on" :error-messages="setIn.error.value?.about('set_on')" />
            <v-btn color="primary" :loading="setIn.isPending.value || addVessel.isPending.value" @click="save">It is set</v-btn>
          </div>
        </template>
        <RefusalNote :error="failure" />
      </section>
      <figure class="panel">
        <svg v-if="vessel" :viewBox="view" role="img" :aria-label="`${chosen.code} in the vessel, to scale`">
          <VesselDrawing
            v-if="sort"
            :vessel="{
              ...vessel,
              shape: sort.shape,
              floor_mm: sort.floor_mm,
              taper: sort.taper,
              clear: !medium?.hidden,
              cover_usual: usualCover,
            }"
            :uncovered="how?.uncovered ?? false"
          >
            <g :transform="`translate(0,${-up})`"><PieceDrawing :piece="piece" :clear="clear" /></g>
          </VesselDrawing>
          <path d="M-300 0H300" stroke="var(--wood)" stroke-width="2.4" />
        </svg>
        <p v-else class="soft">Choose a vessel and the piece stands in it here, to scale.</p>
        <figcaption v-if="vessel" class="soft">To scale. {{ how?.shows }}</figcaption>
      </figure>
    </div>
  </div>
</template>

<style scoped>
.into > :first-child {
  flex: 1 1 240px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.3fr) minmax(0, 1fr);
  gap: 18px;
  align-items: start;
}
.fresh {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
figure {
  margin: 0;
}
figure svg {
  width: 100%;
  max-height: 520px;
  display: block;
}
ol {
  padding-left: 20px;
  margin: 6px 0 0;
}
p {
  margin: 0;
}
.short {
  min-width: 186px;
  max-width: 200px;
}
@media (max-width: 800px) {
  .two,
  .fresh {
    grid-template-columns: 1fr;
  }
}
</style>
