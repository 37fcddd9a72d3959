<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import { useRoute } from 'vue-router'

import type { Schemas } from '@/api/client'
import { useCare, useEndVessel, useHandbook, useMoveVessel, useRound, useShelf, useVessel } from '@/api/queries'
import PatternDefs from '@/drawing/PatternDefs.vue'
import AskState from '@/kit/AskState.vue'
import { bothDates, shortDate } from '@/kit/dates'
import { useOpened } from '@/kit/opened'
import RefusalNote from '@/kit/RefusalNote.vue'
import { len, said } from '@/kit/units'
import PaperTag from '@/kit/PaperTag.vue'
import CareSchools from '@/stations/round/CareSchools.vue'
import VesselScene from '@/stations/round/VesselScene.vue'

import VesselHistory from './VesselHistory.vue'

/** One vessel: as it stands, what is due, its cover, its schools, and what was done with it. */
const VesselDialog = defineAsyncComponent(() => import('@/stations/shelf/VesselDialog.vue'))
const route = useRoute()
const id = computed(() => String(route.params['id']))
const { data: page, isPending, error, refetch } = useVessel(id)
const { data: shelf } = useShelf()
const { data: round } = useRound()
const { data: book } = useHandbook()
const care = useCare()
const move = useMoveVessel()
const end = useEndVessel()

const vessel = computed(() => page.value?.vessel)
const stop = computed(() => page.value?.stop)
const cuttings = computed(() => shelf.value?.cuttings.filter((c) => c.where === 'vessel' && c.vessel_id === id.value) ?? [])
const place = computed(() => shelf.value?.places.find((p) => p.id === vessel.value?.place_id)?.name ?? '')
const sort = computed(() => book.value?.vessels.find((s) => s.kind === vessel.value?.kind))
const medium = computed(() => book.value?.media.find((m) => m.medium === vessel.value?.medium))
const covers = computed(() => sort.value?.covers ?? [])
const cover = computed(() => stop.value?.cover)
const abouts = computed(() =>
  medium.value?.liquid
    ? (['water', 'look'] as const)
    : covers.value.length > 1
      ? (['air', 'look'] as const)
      : (['look'] as const),
)

type Given = Partial<Pick<Schemas['Care'], 'acts' | 'seen' | 'cover'>>
const note = (given: Given) =>
  care.mutate({ vessel_id: id.value, at: new Date().toISOString(), acts: [], seen: [], well: false, ...given })
const doAll = () => {
  const tasks = stop.value?.tasks ?? []
  const put = tasks.find((t) => t.act === 'cover')?.cover
  note({ acts: tasks.filter((t) => t.act !== 'cover').map((t) => t.act), ...(put ? { cover: put } : {}) })
}

const changing = ref(false)
const changed = useOpened(() => changing.value)
const moving = ref(false)
const to = ref('')
const ending = ref<'' | 'emptied' | 'broken'>('')
const why = ref('')
async function carry() {
  const done = await move
    .mutateAsync({ vessel_id: id.value, place: to.value, moved_on: new Date().toISOString() })
    .catch(() => undefined)
  if (done) moving.value = false
}
async function leaves() {
  if (!ending.value) return
  const how = ending.value
  const done = await end
    .mutateAsync({
      vessel_id: id.value,
      ended_on: new Date().toISOString(),
      how,
      ...(why.value.trim() ? { note: why.value.trim() } : {}),
    })
    .catch(() => undefined)
  if (done) ending.value = ''
}
</script>

<template>
  <div class="page stack">
    <PatternDefs />
    <AskState :pending="isPending" :error="error" what="this vessel" @retry="refetch()" />
    <template v-if="page && vessel">
      <div class="row head">
        <h1>{{ vessel.name }}</h1>
        <p class="soft">
          {{ sort?.label }} with {{ vessel.medium
          }}<template v-if="vessel.parts?.length"> ({{ vessel.parts.map((p) => `${p.parts} ${p.of}`).join(', ') }})</template>,
          {{ place }}. Tag <span class="code">{{ vessel.tag }}</span>.
          {{ sort?.round ? `${len(vessel.width_mm)} across` : `${len(vessel.width_mm)} by ${len(vessel.depth_mm)}` }},
          {{ len(vessel.height_mm) }} high.
        </p>
      </div>
      <p v-if="vessel.ended_on" class="panel">
        It left the shelf {{ bothDates(vessel.ended_on) }}. What stood in it keeps it in its record.
      </p>
      <div class="two">
        <figure class="panel">
          <VesselScene :vessel="vessel" :cuttings="cuttings" :cover="cover" :seen="stop?.seen ?? []" :most="380" />
          <figcaption class="tags"><PaperTag v-for="c in cuttings" :key="c.id" :cutting="c" /></figcaption>
          <p v-if="!cuttings.length && !vessel.ended_on" class="soft">
            Nothing stands in it. <router-link to="/set">Set a piece.</router-link>
          </p>
        </figure>
        <section v-if="stop" class="stack">
          <div class="panel stack">
            <h2>Due</h2>
            <p v-if="!stop.tasks.length" class="soft">
              Nothing is due. <template v-if="stop.next">Next: {{ bothDates(stop.next) }}.</template>
            </p>
            <ul class="due">
              <li v-for="t in stop.tasks" :key="t.act">
                <span>
                  <strong :class="{ urgent: t.urgent || t.late }">{{ t.label }}</strong>
                  <span class="soft"> since {{ shortDate(t.since) }}{{ t.late ? ', late' : '' }}. {{ said(t.why) }}</span>
                </span>
                <v-btn
                  size="small"
                  variant="outlined"
                  color="primary"
                  :disabled="care.isPending.value"
                  @click="t.act === 'cover' && t.cover ? note({ cover: t.cover }) : note({ acts: [t.act] })"
                  >{{ t.done }}</v-btn
                >
              </li>
            </ul>
            <v-btn v-if="stop.tasks.length > 1" class="self" color="primary" :disabled="care.isPending.value" @click="doAll"
              >All of it is done</v-btn
            >
            <p v-for="l in stop.leave" :key="l.why + l.until" class="soft">
              <strong>{{ l.codes.join(', ') }}: leave alone</strong> until {{ bothDates(l.until)
              }}{{ l.unless_shoot ? ', or until a shoot shows' : '' }}. {{ said(l.why) }}
            </p>
            <p v-for="n in stop.notes" :key="n" class="soft">{{ said(n) }}</p>
            <RefusalNote :error="care.error.value" />
          </div>
          <div v-if="stop.harden" class="panel stack">
            <h2>Hardening off</h2>
            <ol class="steps">
              <li v-for="s in stop.harden.steps" :key="s.cover" :class="{ past: s.done }">
                {{ s.label }}: {{ s.done ? 'done' : bothDates(s.on) }}
              </li>
              <li>pot from {{ bothDates(stop.harden.pot_from) }}</li>
            </ol>
            <p class="soft">{{ stop.harden.held ? said(stop.harden.held) : 'Droop stops it: then a step back.' }}</p>
          </div>
          <div v-if="covers.length > 1" class="panel stack">
            <h2>Cover</h2>
            <div class="row" role="group" aria-label="How the cover stands">
              <button
                v-for="w in covers"
                :key="w.state"
                type="button"
                class="choice"
                :aria-pressed="cover === w.state"
                :disabled="care.isPending.value"
                @click="cover !== w.state && note({ cover: w.state })"
              >
                {{ w.label }}
              </button>
            </div>
          </div>
          <div v-if="round" class="panel stack">
            <h2>How it is cared for</h2>
            <CareSchools :all="round.schools" :own="stop.own" :vessel-id="id" :abouts="abouts" />
          </div>
        </section>
      </div>
      <div v-if="!vessel.ended_on" class="row">
        <v-btn v-if="cuttings.length" color="primary" :to="{ name: 'together', query: { vessel: id } }">{{
          cuttings.length > 1 ? `All ${cuttings.length} at once` : 'Look, pot, close'
        }}</v-btn>
        <v-btn variant="outlined" @click="changing = true">Change name or sizes</v-btn>
        <v-btn variant="outlined" :aria-expanded="moving" @click="moving = !moving">Carry to another shelf</v-btn>
        <v-btn variant="outlined" :aria-expanded="ending === 'emptied'" @click="ending = ending === 'emptied' ? '' : 'emptied'"
          >Emptied</v-btn
        >
        <v-btn variant="outlined" :aria-expanded="ending === 'broken'" @click="ending = ending === 'broken' ? '' : 'broken'"
          >It broke</v-btn
        >
      </div>
      <div v-if="moving" class="panel row">
        <v-combobox
          v-model="to"
          class="grow"
          label="To which shelf"
          :items="shelf?.places.map((p) => p.name) ?? []"
          :error-messages="move.error.value?.about('place')"
        />
        <v-btn color="primary" :loading="move.isPending.value" :disabled="!to" @click="carry">It stands there</v-btn>
        <RefusalNote :error="move.error.value" />
      </div>
      <div v-if="ending" class="panel stack">
        <p v-if="cuttings.length">
          {{ cuttings.map((c) => c.code).join(', ') }} {{ cuttings.length === 1 ? 'stands' : 'stand' }} in it. Move, pot or close
          {{ cuttings.length === 1 ? 'it' : 'them' }} first:
          <router-link :to="{ name: 'set', query: { cutting: cuttings[0]?.id } }"
            >set {{ cuttings[0]?.code }} elsewhere</router-link
          >.
        </p>
        <p v-if="ending === 'broken'" class="caution">Broken glass: gloves, and nothing of it into the mix.</p>
        <div class="row">
          <v-text-field v-model="why" class="grow" label="A note, if you like" maxlength="500" />
          <v-btn color="primary" :loading="end.isPending.value" @click="leaves"
            >{{ ending === 'broken' ? 'It broke' : 'It is empty' }}, off the shelf</v-btn
          >
        </div>
        <RefusalNote :error="end.error.value" />
      </div>
      <VesselHistory :events="page.history" :covers="covers" :earlier="page.earlier" />
      <VesselDialog v-if="changed" :vessel="changing ? vessel : undefined" @close="changing = false" />
    </template>
  </div>
</template>

<style scoped>
.head {
  align-items: baseline;
  gap: 6px 16px;
}
p {
  margin: 0;
}
figure {
  margin: 0;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.2fr);
  gap: 16px;
  align-items: start;
}
.tags {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  justify-content: center;
  padding-top: 10px;
}
.due,
.steps {
  padding: 0;
  margin: 0;
  list-style: none;
}
.steps {
  list-style: decimal;
  padding-left: 22px;
}
.due li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  align-items: center;
  padding: 4px 0;
}
.urgent {
  color: var(--rescue);
}
.past {
  color: var(--ink2);
}
.self {
  align-self: start;
}
.grow {
  flex: 1 1 220px;
}
@media (max-width: 800px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
