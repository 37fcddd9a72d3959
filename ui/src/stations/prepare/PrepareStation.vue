<script setup lang="ts">
import { useNow } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { type Schemas } from '@/api/client'
import { useMother, usePlan, useTakeCuttings, useTickStep } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import CautionNotes from '@/kit/CautionNotes.vue'
import DateField from '@/kit/DateField.vue'
import { bothDates, instantOf, todayField } from '@/kit/dates'
import PrintTags from '@/kit/PrintTags.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { said } from '@/kit/units'

import StemPicture from '@/drawing/StemPicture.vue'
import CallusTimer from './CallusTimer.vue'

/** The bench checklist of a plan that was settled: in the order the work is done, with timers that run. */
const route = useRoute()
const router = useRouter()
const id = computed(() => String(route.params['id']))
const { data: plan, isPending, error, refetch } = usePlan(id)
const { data: mother } = useMother(() => plan.value?.mother_id ?? '')
const tick = useTickStep(id)
const cut = useTakeCuttings()
const now = useNow({ interval: 1000 })
const failure = computed(() => tick.error.value ?? cut.error.value)

type Step = Schemas['BenchStep']
const phases: { key: Step['phase']; title: string }[] = [
  { key: 'before', title: 'The days before' },
  { key: 'tools', title: 'Tools' },
  { key: 'cut', title: 'Cuts, from the tip down' },
  { key: 'wounds', title: 'Wounds' },
  { key: 'after', title: 'After' },
]
const steps = (phase: Step['phase']) => plan.value?.steps.filter((s) => s.phase === phase) ?? []
const done = computed(() => plan.value?.steps.filter((s) => s.done_at).length ?? 0)
const stems = computed(
  () =>
    plan.value?.stems.flatMap((s) => {
      const known = mother.value?.stems.find((m) => m.id === s.stem_id)
      return known ? [{ plan: s.plan, stem: known }] : []
    }) ?? [],
)

function toggle(s: Step) {
  tick.mutate({ step: s.key, done: !s.done_at, ticked_at: new Date().toISOString() })
}

const cutOn = ref(todayField())
async function confirm() {
  const p = plan.value
  if (!p) return
  const made = await cut
    .mutateAsync({
      plan_id: p.id,
      cut_on: instantOf(cutOn.value),
      limits: p.limits,
      conditions: p.conditions,
      aim: p.aim,
      stems: p.stems.map((s, i) => ({
        stem_id: s.stem_id,
        version: s.version,
        knives_mm: s.plan.knives_mm,
        ...(p.skips[i]?.length ? { skip: p.skips[i] } : {}),
      })),
    })
    .catch(() => undefined)
  if (!made) return
  await refetch()
}
</script>

<template>
  <div class="page stack">
    <AskState :pending="isPending" :error="error" what="this plan" @retry="refetch()" />
    <template v-if="plan">
      <div class="row">
        <h1>
          Bench for <span class="code">{{ plan.mother_code }}</span>
        </h1>
        <span class="soft"
          >{{ plan.mother_name }}. {{ done }} of {{ plan.steps.length }} done. {{ plan.expected.toFixed(1) }} plants
          expected.</span
        >
      </div>
      <p v-if="plan.stale" class="refusal" role="alert">
        {{ plan.stale }}
        <v-btn
          v-if="plan.stems[0]"
          size="small"
          variant="outlined"
          :to="{ name: 'cut-stem', params: { id: plan.stems[0].stem_id } }"
          >Plan again</v-btn
        >
      </p>
      <div class="stems">
        <section v-for="s in stems" :key="s.stem.id" class="panel" :aria-label="`Stem ${s.stem.letter}`">
          <h2>
            <span class="code">{{ plan.mother_code }}-{{ s.stem.letter }}</span>
          </h2>
          <StemPicture :stem="s.stem.map" :knives="s.plan.knives_mm" :height="120" :patterned="mother?.pattern !== 'plain'" />
        </section>
      </div>
      <RefusalNote :error="failure" />

      <div class="phases">
        <section v-for="ph in phases.filter((f) => steps(f.key).length)" :key="ph.key" class="panel" :aria-label="ph.title">
          <h2>{{ ph.title }}</h2>
          <ul>
            <li v-for="s in steps(ph.key)" :key="s.key" :class="{ done: s.done_at }">
              <label>
                <input type="checkbox" :checked="!!s.done_at" :disabled="tick.isPending.value" @change="toggle(s)" />
                <span>{{ said(s.text) }}</span>
              </label>
              <CallusTimer v-if="s.wait_hours" :step="s" :now="now" />
              <CautionNotes :hazards="s.hazards" />
            </li>
          </ul>
          <p v-if="ph.key === 'wounds'" class="soft">
            A solution to dip in: <router-link :to="{ name: 'mix', query: { of: 'dilute' } }">thin the stock</router-link>.
          </p>
          <template v-if="ph.key === 'cut'">
            <p v-if="plan.cut_on" class="soft" role="status">Cut on {{ bothDates(plan.cut_on) }}.</p>
            <div v-else class="row">
              <DateField v-model="cutOn" label="Cut on" />
              <v-btn color="primary" :disabled="!!plan.stale" :loading="cut.isPending.value" @click="confirm"
                >I have cut it so</v-btn
              >
            </div>
          </template>
          <div v-if="ph.key === 'after' && plan.cuttings.length" class="stack">
            <p>
              <span v-for="c in plan.cuttings" :key="c.id"
                ><router-link class="code" :to="{ name: 'cutting', params: { id: c.id } }">{{ c.code }}</router-link
                >{{ ' ' }}</span
              >
            </p>
            <PrintTags :ids="plan.cuttings.map((c) => c.id)" />
            <div class="row">
              <v-btn
                color="primary"
                @click="router.push({ name: 'set', query: { cutting: plan.cuttings.map((c) => c.id).join(',') } })"
                >Set the pieces</v-btn
              >
            </div>
          </div>
          <p v-else-if="ph.key === 'after'" class="soft">
            Tags can be printed once it is cut: each code names mother, stem and nodes.
          </p>
        </section>
      </div>
      <CautionNotes :hazards="['irreplaceable']" />
    </template>
  </div>
</template>

<style scoped>
.stems {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 480px), 1fr));
  gap: 14px;
  align-items: start;
}
.phases {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 520px), 1fr));
  gap: 14px;
  align-items: start;
}
ul {
  list-style: none;
  padding: 0;
  margin: 6px 0;
}
li {
  border-top: 1px solid var(--line);
  padding: 2px 0;
}
label {
  display: flex;
  gap: 14px;
  align-items: center;
  min-height: var(--touch);
  cursor: pointer;
}
input[type='checkbox'] {
  width: 24px;
  height: 24px;
  accent-color: var(--ready);
  flex: none;
}
.done label span {
  color: var(--ink2);
  text-decoration: line-through;
}
.date {
  max-width: 180px;
}
p {
  margin: 0;
}
.page {
  grid-template-columns: minmax(0, 1fr);
}
@media (max-width: 700px) {
  .stems {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
