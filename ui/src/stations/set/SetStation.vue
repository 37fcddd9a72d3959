<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import { useRoute } from 'vue-router'

import { newId, wordsOf, type Cutting, type Vessel } from '@/api/client'
import { useMany } from '@/api/many'
import { useAddVessel, useCorrectVessel, useHandbook, useShelf } from '@/api/queries'
import PatternDefs from '@/drawing/PatternDefs.vue'
import AskState from '@/kit/AskState.vue'
import DateField from '@/kit/DateField.vue'
import { instantOf, todayField } from '@/kit/dates'
import RefusalNote from '@/kit/RefusalNote.vue'
import { said as inUnits } from '@/kit/units'
import { capital, count, kindWord } from '@/kit/words'

import SetInto from './SetInto.vue'
import { spreadOver, type Spread } from './spread'
import VesselForm, { type Fresh } from './VesselForm.vue'
import VesselPick from './VesselPick.vue'

/** From the bench into vessels, many at once: tap pieces, tap a vessel; or several, to spread them. */
const route = useRoute()
const { data: shelf, isPending, error, refetch } = useShelf()
const { data: book } = useHandbook()
const moving = computed(() => {
  const q = route.query['cutting']
  return typeof q === 'string' ? q.split(',').filter(Boolean) : []
})

/** The pieces to set: those cut and not set, and those that are being moved. */
const waiting = computed<Cutting[]>(
  () => shelf.value?.cuttings.filter((c) => c.where === 'unset' || (moving.value.includes(c.id) && c.where === 'vessel')) ?? [],
)
const said = ref('')
const chosen = ref<string[]>([])
watch(moving, (ids) => (chosen.value = [...ids]), { immediate: true })
watch(
  () => waiting.value.length,
  () => {
    const only = waiting.value[0]
    if (!said.value && waiting.value.length === 1 && only && !chosen.value.includes(only.id)) chosen.value = [only.id]
  },
  { immediate: true },
)
/** In the order they stood on the stem, stem by stem. */
const pieces = computed(() =>
  waiting.value
    .filter((c) => chosen.value.includes(c.id))
    .sort((a, b) => (a.cut_id === b.cut_id ? a.piece.first - b.piece.first : a.code.localeCompare(b.code))),
)
const tap = (id: string) =>
  (chosen.value = chosen.value.includes(id) ? chosen.value.filter((c) => c !== id) : [...chosen.value, id])
/** Pieces of one cut, those waiting. */
const sisters = computed(() => {
  const by = new Map<string, Cutting[]>()
  for (const c of waiting.value) by.set(c.cut_id, [...(by.get(c.cut_id) ?? []), c])
  return [...by.values()]
})
const all = (of: Cutting[]) => of.every((c) => chosen.value.includes(c.id))
function tapAll(of: Cutting[]) {
  const ids = of.map((c) => c.id)
  chosen.value = all(of) ? chosen.value.filter((c) => !ids.includes(c)) : [...new Set([...chosen.value, ...ids])]
}

const setNodes = reactive<Record<string, number>>({})
watch(
  pieces,
  (list) => {
    for (const c of list) setNodes[c.id] ??= c.set_nodes || Math.max(1, c.piece.set - c.gone_nodes)
  },
  { immediate: true },
)
const words = (c: Cutting) => book.value?.kinds.find((k) => k.kind === c.kind)
const points = (c: Cutting) => words(c)?.points ?? 'nodes'

const into = ref<string[]>([])
const how = ref<Spread>('turn')
const fresh = ref<Fresh>({
  name: '',
  place: '',
  kind: 'jar',
  medium: undefined,
  width_mm: 0,
  depth_mm: 0,
  height_mm: 0,
  wall_mm: 0,
  fill_mm: 0,
  holds: 1,
} as Fresh)
const targets = computed<(Vessel | Fresh)[]>(() =>
  into.value.includes('new') ? [fresh.value] : into.value.flatMap((id) => shelf.value?.vessels.find((v) => v.id === id) ?? []),
)
const shares = computed(() => spreadOver(pieces.value.length, targets.value.length, how.value))
const of = (i: number) => pieces.value.filter((_, j) => shares.value[j] === i)

const notes = computed(() => [
  ...new Map(
    pieces.value.flatMap((c) => book.value?.groups.find((g) => g.key === c.group_key) ?? []).map((g) => [g.key, g]),
  ).values(),
])
const setOn = ref(todayField())
const addVessel = useAddVessel()
const correct = useCorrectVessel()
const settings = useMany('setting', 'set')
const failure = computed(() => addVessel.error.value ?? settings.refused.value[0]?.why)

async function level(i: number, mm: number) {
  const v = targets.value[i]
  if (!v) return
  if (!('id' in v)) {
    fresh.value = { ...fresh.value, fill_mm: mm }
    return
  }
  const w = v as Vessel
  const place = shelf.value?.places.find((p) => p.id === w.place_id)?.name ?? ''
  const was = wordsOf(w, place)
  correct.mutate({ about: w.id, was, becomes: { ...was, fill_mm: mm } })
}

async function save() {
  if (!pieces.value.length) return
  said.value = ''
  let vessels = targets.value.map((v) => ('id' in v ? { id: String(v.id), name: v.name } : undefined))
  if (into.value.includes('new')) {
    const round = book.value?.vessels.find((s) => s.kind === fresh.value.kind)?.round
    const { cover, ...rest } = fresh.value
    const made = await addVessel
      .mutateAsync({ ...rest, ...(round ? { depth_mm: rest.width_mm } : {}), ...(cover ? { cover } : {}) })
      .catch(() => undefined)
    if (!made) return
    vessels = [{ id: made.id, name: made.name }]
    into.value = [made.id]
    fresh.value = { ...fresh.value, name: '' }
  }
  const plan = pieces.value.map((c, j) => ({ c, v: vessels[shares.value[j] ?? 0] }))
  const places = new Map(plan.map((p) => [p.c.id, p.v?.name ?? '']))
  const told = (ids: string[]) => {
    const by = new Map<string, string[]>()
    for (const p of plan) {
      const name = places.get(p.c.id) ?? ''
      if (ids.includes(p.c.id)) by.set(name, [...(by.get(name) ?? []), p.c.code])
    }
    return [...by].map(([name, codes]) => `${codes.join(', ')} ${codes.length > 1 ? 'stand' : 'stands'} in ${name}.`).join(' ')
  }
  const kept = await settings.send(
    plan.flatMap(({ c, v }) =>
      v
        ? {
            name: c.code,
            content: {
              id: newId(),
              cutting_id: c.id,
              vessel_id: v.id,
              set_on: instantOf(setOn.value),
              set_nodes: setNodes[c.id] ?? 1,
            },
          }
        : [],
    ),
    (list) => told(list.map((k) => k.content.cutting_id)),
  )
  said.value = told(kept.map((k) => k.content.cutting_id))
  chosen.value = chosen.value.filter((id) => !kept.some((k) => k.content.cutting_id === id))
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
    <template v-if="shelf && waiting.length">
      <div class="two">
        <section class="stack" aria-label="Pieces">
          <h2>Which pieces</h2>
          <div v-for="group in sisters" :key="group[0]?.cut_id" class="row">
            <button
              v-for="c in group"
              :key="c.id"
              type="button"
              class="choice"
              :aria-pressed="chosen.includes(c.id)"
              @click="tap(c.id)"
            >
              <span class="code">{{ c.code }}</span>
            </button>
            <button
              v-if="group.length > 1"
              type="button"
              class="choice sisters"
              :aria-pressed="all(group)"
              @click="tapAll(group)"
            >
              all {{ group.length }} sisters
            </button>
          </div>
          <ul v-if="pieces.length" class="chosen">
            <li v-for="c in pieces" :key="c.id">
              <span class="code">{{ c.code }}</span>
              <span class="soft"
                >{{ c.mother_name }}, {{ kindWord[c.kind] ?? c.kind }},
                {{ count(c.nodes.length - c.gone_nodes, words(c)?.point ?? 'node', points(c)) }}</span
              >
              <v-text-field
                v-model.number="setNodes[c.id]"
                type="number"
                min="1"
                :max="c.nodes.length - c.gone_nodes"
                :label="`${capital(points(c))} in it`"
                :error-messages="settings.refused.value.find((r) => r.name === c.code)?.why.about('set_nodes')"
              />
            </li>
          </ul>
          <p v-else class="soft">Tap the pieces to set, then the vessel they go into; several vessels spread them.</p>
          <p v-if="pieces.length" class="soft">Label the vessel at once: name, mother, date, nodes, medium.</p>
          <p v-for="g in notes.filter((x) => x.note)" :key="g.key" class="soft">{{ g.name }}: {{ inUnits(g.note) }}</p>
        </section>
        <section class="stack" aria-label="Vessels">
          <h2>Into which vessel</h2>
          <VesselPick v-model="into" />
          <div v-if="targets.length > 1 && pieces.length > 1" class="row" role="group" aria-label="Spread over them">
            <button type="button" class="choice" :aria-pressed="how === 'turn'" @click="how = 'turn'">in turn, to compare</button>
            <button type="button" class="choice" :aria-pressed="how === 'blocks'" @click="how = 'blocks'">
              one after another
            </button>
          </div>
          <VesselForm v-if="into.includes('new')" v-model="fresh" :error="addVessel.error.value" />
        </section>
      </div>
      <template v-if="pieces.length && targets.length">
        <SetInto
          v-for="(v, i) in targets"
          :key="'id' in v ? String(v.id) : 'new'"
          :vessel="v"
          :pieces="of(i)"
          :set-nodes="setNodes"
          @level="level(i, $event)"
        />
        <p v-if="targets.length > 1" class="soft">
          <template v-for="(v, i) in targets" :key="i"
            >{{ i ? '; ' : '' }}{{ v.name || 'A new vessel' }}:
            {{
              of(i)
                .map((c) => c.code)
                .join(', ') || 'none'
            }}</template
          >.
        </p>
        <div class="row">
          <DateField v-model="setOn" label="Set on" :error-messages="settings.refused.value[0]?.why.about('set_on')" />
          <v-btn color="primary" :loading="settings.isPending.value || addVessel.isPending.value" @click="save">{{
            pieces.length > 1 ? `All ${pieces.length} are set` : 'It is set'
          }}</v-btn>
        </div>
        <p v-for="r in settings.refused.value" :key="r.name" class="refusal" role="alert">
          <strong>{{ r.name }}</strong>: {{ r.why.message }}
        </p>
        <p v-if="settings.waits.value" class="caution" role="alert">
          Not sent yet: {{ settings.waits.value }} wait in this browser and go out by themselves.
        </p>
      </template>
      <RefusalNote :error="addVessel.error.value ?? (targets.length ? undefined : failure)" />
    </template>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr);
  gap: 22px;
  align-items: start;
}
.row {
  gap: 7px;
}
.sisters {
  border-style: dashed;
}
.chosen {
  list-style: none;
  margin: 0;
  padding: 0;
}
.chosen li {
  display: grid;
  grid-template-columns: auto 1fr 116px;
  gap: 12px;
  align-items: center;
  padding: 6px 0;
  border-top: 1px solid var(--line);
}
p {
  margin: 0;
}
@media (max-width: 800px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
