<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'

import { type MappedStem } from '@/api/client'
import { useMother, useOpenPlans, useWater } from '@/api/queries'
import MotherDrawing from '@/drawing/MotherDrawing.vue'
import AskState from '@/kit/AskState.vue'
import BasisNote from '@/kit/BasisNote.vue'
import DateField from '@/kit/DateField.vue'
import { bothDates, instantOf, shortDate, todayField } from '@/kit/dates'
import FitSign from '@/kit/FitSign.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { said } from '@/kit/units'
import { count, organWord, patternWord } from '@/kit/words'

import FamilyTree from './FamilyTree.vue'
import HerPot from './HerPot.vue'
import MotherForm from './MotherForm.vue'
import StemPicture from '@/drawing/StemPicture.vue'

const route = useRoute()
const { data: mother, isPending, error, refetch } = useMother(() => String(route.params['id']))
const { data: plans } = useOpenPlans(() => String(route.params['id']))
const changing = ref(false)
const water = useWater()
const wateredOn = ref(todayField())
function noteWater() {
  if (mother.value) water.mutate({ mother_id: mother.value.id, watered_on: instantOf(wateredOn.value) })
}
const mark = { good: '+', care: '!', wait: '\u2212' } as const
const tally = computed(() => mother.value?.tally)
const fates = computed(() => {
  const t = tally.value
  if (!t) return ''
  const all: [number, string][] = [
    [t.standing, 'still rooting'],
    [t.potted, 'potted'],
    [t.established, 'established'],
    [t.given, 'given away'],
    [t.lost, 'lost'],
  ]
  return all
    .filter(([n]) => n > 0)
    .map(([n, word]) => `${n} ${word}`)
    .join(', ')
})
/** When each part of a stem was taken: dates over the pieces that left it. */
const gone = (s: MappedStem) =>
  mother.value?.cuts.filter((c) => c.stem_id === s.id && !c.parted_from).map((c) => ({ on: c.on, nodes: c.spans })) ?? []
const back = (s: MappedStem) => mother.value?.stems.filter((o) => o.map.sprang?.letter === s.letter) ?? []
const list = (s: MappedStem, node?: number) => (node ? `${s.letter} from node ${node}` : s.letter)
</script>

<template>
  <div class="page stack">
    <AskState :pending="isPending" :error="error" what="this mother" @retry="refetch()" />
    <template v-if="mother">
      <div class="row">
        <h1>
          <span class="code">{{ mother.code }}</span> {{ mother.name }}
        </h1>
        <v-btn class="push" variant="outlined" @click="changing = true">Change</v-btn>
        <v-btn color="primary" :to="{ name: 'stem', params: { motherId: mother.id, id: 'new' } }">Map a stem</v-btn>
      </div>
      <p v-if="!mother.known" class="panel row" role="status">
        <span>Only her name is known: she came as a piece. What you learn of her passes to it.</span>
        <v-btn size="small" color="primary" @click="changing = true">Say more about her</v-btn>
      </p>
      <p class="soft">
        {{ mother.group.name }}, {{ patternWord[mother.pattern] }}.
        <template v-if="mother.provenance">{{ mother.provenance }}.</template>
        <template v-if="mother.from_cutting">
          Raised here <router-link :to="{ name: 'cutting', params: { id: mother.from_cutting } }">from a cutting</router-link>.
        </template>
      </p>
      <details v-if="mother.corrections.length" class="soft">
        <summary>{{ count(mother.corrections.length, 'correction', 'corrections') }}</summary>
        <p v-for="k in mother.corrections" :key="k.on">{{ shortDate(k.on) }}: {{ k.says }}</p>
      </details>
      <MotherForm v-model="changing" :mother="mother" />
      <div class="top">
        <MotherDrawing :mother="mother" :height="330" />
        <section class="panel stack" aria-label="Fit to cut today?">
          <h2><FitSign :fit="mother.fit" /></h2>
          <ul class="why">
            <li v-for="r in mother.fit.reasons" :key="r.text" :class="r.says">
              <b aria-hidden="true">{{ mark[r.says] }}</b>
              <span>{{ said(r.text) }} <BasisNote :basis="r.basis" /></span>
            </li>
          </ul>
          <div class="row">
            <DateField v-model="wateredOn" label="Watered on" :error-messages="water.error.value?.about('watered_on')" />
            <v-btn variant="outlined" :loading="water.isPending.value" @click="noteWater">She was watered</v-btn>
            <span v-if="mother.watered_on" class="soft">last {{ bothDates(mother.watered_on) }}</span>
          </div>
          <RefusalNote :error="water.error.value" />
          <div v-if="tally && tally.taken" aria-label="Success so far" role="group">
            <h3>Success so far</h3>
            <p>
              {{ tally.taken }} taken: {{ fates }}.
              <template v-if="tally.decided">
                Of {{ tally.decided }} whose fate is known, {{ tally.came }} grew on after potting; the plans expected
                {{ tally.expected.toFixed(1) }}.</template
              >
            </p>
          </div>
          <p v-for="p in plans?.plans" :key="p.id">
            <router-link :to="{ name: 'prepare', params: { id: p.id } }"
              >A plan of {{ shortDate(p.made_at) }} is being prepared, {{ p.knives }}
              {{ p.knives === 1 ? 'cut' : 'cuts' }}</router-link
            >
          </p>
          <p v-if="plans?.more" class="soft">And older ones: carry these out, or take them back, to see them.</p>
        </section>
      </div>
      <p v-if="!mother.stems.length" class="panel">
        Map the stem you want to cut: lay it out node by node, base to tip. Then the planner can tell where the knife goes.
      </p>
      <section v-for="s in mother.stems" :key="s.id" class="panel stem" :aria-label="`Stem ${s.letter}`">
        <div class="row">
          <h2>{{ organWord[s.organ] }} {{ s.letter }}</h2>
          <span class="soft"
            >{{ s.standing }} of {{ count(s.map.nodes.length, 'node', 'nodes') }} {{ s.standing === 1 ? 'stands' : 'stand' }},
            mapped {{ shortDate(s.mapped_at)
            }}<template v-if="s.map.sprang">, grew from {{ s.map.sprang.letter }}{{ s.map.sprang.node }}</template></span
          >
          <span class="row push">
            <v-btn size="small" variant="outlined" :to="{ name: 'stem', params: { motherId: mother.id, id: s.id } }"
              >Change the map</v-btn
            >
            <v-btn size="small" color="primary" :to="{ name: 'cut-stem', params: { id: s.id } }">Plan a cut</v-btn>
          </span>
        </div>
        <StemPicture
          :stem="s.map"
          :standing="s.standing"
          :end-mm="s.end_mm"
          :height="180"
          :patterned="mother.pattern !== 'plain'"
          :gone="gone(s)"
        />
        <p v-if="back(s).length" class="soft">
          Grew back:
          <router-link
            v-for="o in back(s)"
            :key="o.id"
            :to="{ name: 'stem', params: { motherId: mother.id, id: o.id } }"
            class="code"
            >{{ list(o, o.map.sprang?.node) }}</router-link
          >
        </p>
      </section>
      <HerPot :mother="mother" />
      <section v-if="mother.cuts.length" class="panel stack">
        <h2>What was taken, and what became of it</h2>
        <FamilyTree :mother="mother" />
      </section>
    </template>
  </div>
</template>

<style scoped>
.top {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.3fr);
  gap: 16px;
  align-items: end;
}
.why {
  list-style: none;
  padding: 0;
  margin: 0;
}
.why li {
  display: flex;
  gap: 10px;
  padding: 4px 0;
  border-top: 1px solid var(--line);
}
.why b {
  width: 14px;
  text-align: center;
}
.good b {
  color: var(--ready);
}
.care b {
  color: var(--look);
}
.wait b {
  color: var(--rescue);
}
p {
  margin: 0;
}
.page {
  grid-template-columns: minmax(0, 1fr);
}
@media (max-width: 800px) {
  .top {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
