<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { Refusal } from '@/api/client'
import { useHandbook, useKeepPlan, useMother, useStem, useTakeCuttings } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import CautionNotes from '@/kit/CautionNotes.vue'
import DateField from '@/kit/DateField.vue'
import { bothDates, instantOf, todayField } from '@/kit/dates'
import RefusalNote from '@/kit/RefusalNote.vue'
import { said } from '@/kit/units'
import { count, organWord, percent, pointsOf } from '@/kit/words'

import CutBench from './CutBench.vue'
import CutChoices from './CutChoices.vue'
import CutCompare from './CutCompare.vue'
import { useCutPlan, type Answer, type Wish } from './cutPlan'
import CutReasons from './CutReasons.vue'
import HowMany from './HowMany.vue'
import WishStrip from './WishStrip.vue'

const route = useRoute()
const router = useRouter()
const id = computed(() => String(route.params['id']))
const { data: stem, isPending, error: stemError, refetch } = useStem(id)
const { data: mother, refetch: refetchMother } = useMother(() => stem.value?.mother_id ?? '')
const { data: book } = useHandbook()

const start = computed<Wish | undefined>(() => {
  const limits = book.value?.organ_limits[stem.value?.organ ?? 'stem'] ?? book.value?.default_limits
  const medium = mother.value?.group.media[0] as NonNullable<Wish['conditions']['medium']> | undefined
  return limits && medium ? { limits, conditions: { medium }, aim: { kind: 'expected' } } : undefined
})
const plan = useCutPlan(mother, stem, start)
const { wish, also, skip, answer, choices, error } = plan
const dieBack = computed(() => book.value?.numbers.find((n) => n.key === 'cutplan.die_back')?.value ?? 0)

/** The chosen piece: which stem, which of its pieces. */
const chosen = ref({ stem: '', piece: 0 })
watch(id, (i) => (chosen.value = { stem: i, piece: 0 }), { immediate: true })
const at = computed(() => answer.value?.stems.find((s) => s.stem_id === chosen.value.stem) ?? answer.value?.stems[0])
const piece = computed(() => at.value?.plan.pieces[chosen.value.piece] ?? at.value?.plan.pieces[0])
const wound = computed(() => at.value?.wounds[at.value.plan.pieces.indexOf(piece.value!)] ?? '')

const held = ref<Answer>()
const mean = computed(() => (plan.pieces.value.length ? (answer.value?.expected ?? 0) / plan.pieces.value.length : 0.5))
const stays = computed(() => answer.value?.stems.reduce((n, s) => n + s.plan.mother_nodes, 0) ?? 0)
const leaves = computed(() => answer.value?.stems.reduce((n, s) => n + s.plan.mother_leaves, 0) ?? 0)
/** A leaf or a tuber is off the mother already: there is nothing to keep. */
const detached = computed(() => answer.value?.stems.every((s) => s.plan.detached) ?? false)
const leafy = computed(() => plan.stems.value.some((s) => book.value?.organs.find((o) => o.organ === s.organ)?.leafy))
const motherKeeps = computed(
  () =>
    `The mother keeps ${pointsOf(stem.value?.organ ?? 'stem', stays.value)}${leafy.value ? ` and ${count(leaves.value, 'leaf', 'leaves')}` : ''} here.`,
)
const aimReached = computed(() => {
  const aim = wish.value?.aim
  if (!answer.value || !aim) return ''
  if (aim.kind === 'at_least') return `Chance of ${aim.at_least ?? 1} or more: ${percent(answer.value.reached)}.`
  if (aim.kind === 'value') return `Worth by pattern: ${answer.value.reached.toFixed(2)}.`
  return answer.value.targets.map((t, i) => `Stem ${answer.value?.stems[i]?.letter ?? ''} to node ${t.node}: ${t.why}.`).join(' ')
})

const outlook = computed(() =>
  [
    ...(plan.pieces.value.length
      ? [aimReached.value, `Chance to lose all of them: ${percent(answer.value?.lose_all ?? 1)}.`]
      : []),
    detached.value ? '' : motherKeeps.value,
    plan.pieces.value.length ? 'Some will die: take more than you need.' : '',
  ]
    .filter(Boolean)
    .join(' '),
)

const cut = useTakeCuttings()
const keep = useKeepPlan()
/** What the planner refuses, or what became of the cut, or of keeping the plan. */
const failure = computed(() => error.value ?? cut.error.value ?? keep.error.value)
const cutOn = ref(todayField())

async function confirm() {
  const made = await cut.mutateAsync({ cut_on: instantOf(cutOn.value), ...plan.settled() }).catch(() => undefined)
  if (!made) return
  plan.forget()
  await router.push({ name: 'set' })
}
async function prepare() {
  const kept = await keep.mutateAsync({ ...plan.settled() }).catch(() => undefined)
  if (kept) await router.push({ name: 'prepare', params: { id: kept.id } })
}
async function again() {
  await Promise.all([refetch(), refetchMother()])
  cut.reset()
  keep.reset()
  await plan.propose()
}
</script>

<template>
  <div class="page stack">
    <AskState :pending="isPending" :error="stemError" what="the stem" @retry="refetch()" />
    <template v-if="stem && mother && book && wish">
      <div class="row">
        <h1>
          <span class="code">{{ mother.code }}</span>, {{ organWord[stem.organ]?.toLowerCase() }} {{ stem.letter }}
        </h1>
        <span class="soft">
          {{ mother.name }}, {{ pointsOf(stem.organ, stem.map.nodes.length)
          }}<template v-if="stem.taken.length">, {{ stem.taken.length }} taken</template>.
          <router-link :to="{ name: 'mother', params: { id: mother.id } }">{{ mother.fit.short }}</router-link><template
            v-if="mother.watered_on"
            >, watered {{ bothDates(mother.watered_on) }}</template
          >.
        </span>
      </div>
      <WishStrip
        v-model="wish"
        v-model:also="also"
        v-model:skip="skip"
        :book="book"
        :mother="mother"
        :stems="plan.stems.value"
        :dark="answer?.dark ?? false"
      />

      <template v-if="answer">
        <div v-for="s in plan.stems.value" :key="s.id">
          <CutBench
            v-for="part in answer.stems.filter((a) => a.stem_id === s.id)"
            :key="part.stem_id"
            :chosen="chosen.stem === s.id ? chosen.piece : -1"
            :stem="s.map"
            :organ="s.organ"
            :standing="s.standing"
            :letter="s.letter"
            :plan="part.plan"
            :patterned="mother.pattern !== 'plain'"
            :die-back="dieBack"
            :end-mm="part.plan.end_mm"
            :span-mm="Math.max(...answer.stems.map((a) => a.plan.end_mm))"
            @update:chosen="chosen = { stem: s.id, piece: $event }"
            @knives="plan.move(s.id, $event)"
          />
        </div>
      </template>
      <RefusalNote :error="failure">
        <v-btn
          v-if="failure instanceof Refusal && failure.status === 409"
          class="beside"
          size="small"
          variant="outlined"
          @click="again"
          >Plan again on what stands now</v-btn
        >
      </RefusalNote>
      <div v-if="answer" class="stack" aria-live="polite">
        <p v-for="r in plan.refused.value" :key="r" class="refusal">{{ said(r) }}</p>
        <p v-for="w in plan.warnings.value" :key="w" class="caution">{{ said(w) }}</p>
      </div>

      <div v-if="answer" class="two">
        <div class="stack">
          <section class="panel stack" aria-label="The plan">
            <h2 v-if="!plan.pieces.value.length">Nothing to cut</h2>
            <h2 v-else>
              {{ count(plan.pieces.value.length, 'piece', 'pieces') }}, {{ answer.expected.toFixed(1) }} plants expected
            </h2>
            <p class="soft">
              {{ outlook }}
            </p>
            <div class="row">
              <v-btn color="primary" :disabled="!plan.possible.value" :loading="keep.isPending.value" @click="prepare"
                >Prepare the bench</v-btn
              >
              <v-btn variant="outlined" @click="plan.propose()">Propose again</v-btn>
              <v-btn variant="outlined" :disabled="!plan.possible.value" @click="held = answer">Hold to compare</v-btn>
            </div>
          </section>
          <CutChoices :choices="choices" :now="plan.pieces.value.length" :counts="answer.counts" @choose="plan.lay" />
          <section class="panel stack" aria-label="When it is cut">
            <h2>When it is cut</h2>
            <CautionNotes :hazards="['blade', 'alcohol', ...mother.group.hazards]" />
            <div class="row">
              <DateField v-model="cutOn" label="Cut on" />
              <v-btn variant="outlined" :disabled="!plan.possible.value" :loading="cut.isPending.value" @click="confirm"
                >I have cut it so</v-btn
              >
            </div>
          </section>
        </div>
        <CutReasons v-if="piece && at" :piece="piece" :letter="at.letter" :wound="wound" />
      </div>
      <CutCompare
        v-if="held && answer"
        :held="held"
        :now="answer"
        :stems="plan.stems.value"
        :patterned="mother.pattern !== 'plain'"
        @lay="plan.check(Object.fromEntries(held.stems.map((s) => [s.stem_id, s.plan.knives_mm])))"
        @drop="held = undefined"
      />
      <HowMany v-if="answer" :chance="mean" />
    </template>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 16px;
  align-items: start;
}
.page {
  grid-template-columns: minmax(0, 1fr);
}
p {
  margin: 0;
}
@media (max-width: 800px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
