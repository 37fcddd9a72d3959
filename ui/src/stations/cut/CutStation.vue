<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { api, newId, Refusal, take, type Plan, type Schemas } from '@/api/client'
import { queryClient, useHandbook, useMother, useStem, useTakeCuttings } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import BasisNote from '@/kit/BasisNote.vue'
import CautionNotes from '@/kit/CautionNotes.vue'
import { instantOf, todayField } from '@/kit/dates'
import RefusalNote from '@/kit/RefusalNote.vue'
import { kindWord, percent } from '@/kit/words'

import CutBench from './CutBench.vue'
import CutChoices from './CutChoices.vue'

const route = useRoute()
const router = useRouter()
const id = computed(() => String(route.params['id']))
const { data: stem, isPending, error: stemError, refetch } = useStem(id)
const { data: mother } = useMother(() => stem.value?.mother_id ?? '')
const { data: book } = useHandbook()

const limits = ref<Schemas['Limits']>()
const medium = ref<'water' | 'moss' | 'perlite' | 'mix'>()
const plan = ref<Plan>()
const error = ref<Error>()
const chosen = ref(0)
watch(
  book,
  (b) => {
    if (b && !limits.value) limits.value = { ...b.default_limits }
  },
  { immediate: true },
)
watch(
  mother,
  (m) => {
    if (m && !medium.value) medium.value = m.group.media[0] as typeof medium.value
  },
  { immediate: true },
)

/** Only the newest answer counts: a knife may have moved on meanwhile. */
let asked = 0
async function ask(wish: Schemas['PlanWish']) {
  const mine = ++asked
  try {
    const got = await take(api.POST('/api/stems/{id}/plan', { params: { path: { id: id.value } }, body: wish }))
    if (mine !== asked) return
    plan.value = got
    error.value = undefined
  } catch (e) {
    if (mine === asked) error.value = e as Error
  }
}
const choices = ref<Schemas['Choice'][]>([])
async function askChoices() {
  const wish = { ...(limits.value ? { limits: limits.value } : {}), ...withMedium() }
  choices.value = await take(api.POST('/api/stems/{id}/choices', { params: { path: { id: id.value } }, body: wish })).catch(
    () => [],
  )
}
const withMedium = () => (medium.value ? { medium: medium.value } : {})
const propose = () => ask({ ...(limits.value ? { limits: limits.value } : {}), ...withMedium() })
const check = useDebounceFn((knives: number[]) => ask({ knives_mm: knives, ...withMedium() }), 30, { maxWait: 80 })
watch(
  [stem, limits, medium],
  () => {
    if (!stem.value || !limits.value || !medium.value) return
    void propose()
    void askChoices()
  },
  { deep: true, immediate: true },
)

const cut = useTakeCuttings()
const cutOn = ref(todayField())
/** One id for one intended cut: pressing twice cuts once. */
const cutId = ref(newId())
const possible = computed(() => plan.value && plan.value.pieces.length > 0 && plan.value.refused.length === 0)

async function confirm() {
  if (!plan.value || !stem.value) return
  const made = await cut
    .mutateAsync({
      id: cutId.value,
      stem_id: stem.value.id,
      version: stem.value.version,
      knives_mm: plan.value.knives_mm,
      cut_on: instantOf(cutOn.value),
      ...withMedium(),
    })
    .catch((e: unknown) => {
      cutId.value = newId()
      error.value = e as Refusal
    })
  if (!made) return
  await queryClient.invalidateQueries({ queryKey: ['stems'] })
  await router.push({ name: 'set' })
}
async function again() {
  await refetch()
  cut.reset()
  await propose()
}

const piece = computed(() => plan.value?.pieces[chosen.value])
const codeOf = (p: Schemas['Piece']) =>
  p.last < p.first ? 'no node' : `${stem.value?.letter ?? ''}${p.first}${p.last > p.first ? `-${p.last}` : ''}`
</script>

<template>
  <div class="page stack">
    <AskState :pending="isPending" :error="stemError" what="the stem" @retry="refetch()" />
    <template v-if="stem && mother && limits">
      <div class="row">
        <h1>
          <span class="code">{{ mother.code }}</span>, stem {{ stem.letter }}
        </h1>
        <span class="soft">
          {{ mother.name }}, {{ stem.map.nodes.length }} nodes<template v-if="stem.taken.length"
            >, {{ stem.taken.length }} taken</template
          >
        </span>
      </div>

      <div class="strip">
        <label
          >Into
          <select v-model="medium">
            <option v-for="m in ['water', 'moss', 'perlite', 'mix']" :key="m" :value="m">
              {{ m }}{{ mother.group.media.includes(m) ? '' : ' (unusual)' }}
            </option>
          </select></label
        >
        <label>Nodes in a piece, from <input v-model.number="limits.least_nodes" type="number" min="1" max="10" /></label>
        <label>to <input v-model.number="limits.most_nodes" type="number" min="1" max="10" /></label>
        <label>Tip up to <input v-model.number="limits.tip_most" type="number" min="1" max="12" /></label>
        <label>Mother keeps leaves <input v-model.number="limits.keep_leaves" type="number" min="0" max="20" /></label>
        <label>and nodes <input v-model.number="limits.keep_nodes" type="number" min="0" max="60" /></label>
        <v-btn size="small" variant="outlined" @click="propose">Propose again</v-btn>
      </div>

      <CutBench
        v-if="plan"
        v-model:chosen="chosen"
        :stem="stem.map"
        :letter="stem.letter"
        :taken="stem.taken.map((t) => t.node)"
        :plan="plan"
        :patterned="mother.pattern !== 'plain'"
        @knives="check"
      />
      <RefusalNote :error="error">
        <v-btn v-if="error instanceof Refusal && error.status === 409" class="ml-3" size="small" variant="outlined" @click="again"
          >Plan again on what stands now</v-btn
        >
      </RefusalNote>
      <div v-if="plan" class="stack" aria-live="polite">
        <p v-for="r in plan.refused" :key="r" class="refusal">{{ r }}</p>
        <p v-for="w in plan.warnings" :key="w" class="caution">{{ w }}</p>
      </div>

      <div v-if="plan" class="two">
        <section class="panel stack">
          <h2>
            {{ plan.pieces.length }} {{ plan.pieces.length === 1 ? 'piece' : 'pieces' }}, {{ plan.expected.toFixed(1) }} plants
            expected
          </h2>
          <p class="soft">
            Chance to lose all of them: {{ percent(plan.lose_all) }}. The mother keeps {{ plan.mother_nodes }} nodes and
            {{ plan.mother_leaves }} {{ plan.mother_leaves === 1 ? 'leaf' : 'leaves' }} here. Some will die: take more than you
            need.
          </p>
          <CautionNotes :hazards="['blade', 'alcohol', ...mother.group.hazards]" />
          <div class="row">
            <v-text-field v-model="cutOn" class="date" type="date" label="Cut on" />
            <v-btn color="primary" :disabled="!possible" :loading="cut.isPending.value" @click="confirm">I have cut it so</v-btn>
          </div>
        </section>
        <section v-if="piece" class="panel" aria-label="Why this chance">
          <h2>
            Why {{ percent(piece.chance) }} for <span class="code">{{ codeOf(piece) }}</span>
          </h2>
          <p class="soft">
            {{ kindWord[piece.kind] ?? piece.kind }}, {{ piece.set }} {{ piece.set === 1 ? 'node' : 'nodes' }} set<template
              v-if="piece.strip.length"
              >, strip the leaf of node {{ piece.strip.join(' and ') }}</template
            >. {{ Math.round(piece.below_mm) }} mm of bare stem below, {{ Math.round(piece.above_mm) }} mm above.
          </p>
          <table>
            <tbody>
              <tr>
                <th scope="row">One node of {{ mother.group.name.toLowerCase() }}</th>
                <td class="code">{{ percent(piece.baseline) }}</td>
                <td><BasisNote :basis="book?.wake_basis" /></td>
              </tr>
              <tr v-for="(e, i) in piece.effects" :key="i">
                <th scope="row">{{ e.label }}</th>
                <td class="code">&times; {{ e.odds }}</td>
                <td>odds; <BasisNote :basis="e.basis" /></td>
              </tr>
              <tr>
                <th scope="row">Rots first</th>
                <td class="code">{{ percent(piece.rot) }}</td>
                <td class="soft">taken off</td>
              </tr>
            </tbody>
          </table>
          <p v-if="piece.warning" class="caution mt-2">{{ piece.warning }}</p>
        </section>
      </div>
      <CutChoices v-if="plan" :choices="choices" :now="plan.pieces.length" @choose="check" />
    </template>
  </div>
</template>

<style scoped>
.strip {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 14px;
  padding: 8px 14px;
  font-size: 15px;
}
.strip input,
.strip select {
  border: 1px solid var(--ink2);
  border-radius: 8px;
  min-height: 40px;
  padding: 0 6px;
  background: var(--paper);
  color: var(--ink);
  font-weight: 650;
}
.strip input {
  width: 56px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
  align-items: start;
}
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 15px;
}
tr {
  border-top: 1px solid var(--line);
}
th {
  text-align: left;
  font-weight: 500;
  padding: 6px 8px 6px 0;
}
td {
  padding: 6px 8px 6px 0;
  white-space: nowrap;
}
td:last-child {
  white-space: normal;
  width: 42%;
}
.date {
  max-width: 180px;
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
