<script setup lang="ts">
import { useDebounceFn, useStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'

import { api, take, type Schemas } from '@/api/client'
import { useHandbook } from '@/api/queries'
import BasisNote from '@/kit/BasisNote.vue'
import CautionNotes from '@/kit/CautionNotes.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { said } from '@/kit/units'
import { percent } from '@/kit/words'

import CountField from '@/kit/CountField.vue'
import OfferDrawing from './OfferDrawing.vue'

/** Is a piece someone offers worth taking, or a piece of a mother worth cutting? */
type Offer = Schemas['OfferedPiece']
const { data: book } = useHandbook()
const blank: Offer = { group_key: 'velvet_climber', nodes: 1, sound_mm: -1 }
const offer = useStorage<Offer>('clearjar.draft.offer', blank)
const answer = ref<Schemas['OfferAnswer']>()
const error = ref<Error>()
const ask = useDebounceFn(async () => {
  try {
    answer.value = await take(api.POST('/api/offers', { body: offer.value }))
    error.value = undefined
  } catch (e) {
    error.value = e as Error
  }
}, 30)
watch(offer, () => void ask(), { deep: true, immediate: true })
/** Another group is multiplied from other pieces. */
watch(
  () => offer.value.group_key,
  () => {
    const next = { ...offer.value }
    delete next.kind
    delete next.own_roots
    delete next.medium
    offer.value = next
  },
)

type Key = 'node' | 'own_roots' | 'leaf' | 'aerial_root' | 'live_bud' | 'firm' | 'ends' | 'stripe'
const questions: { key: Key; text: string; answers: { value: string; label: string }[] }[] = [
  { key: 'node', text: 'Is there a node?', answers: [{ value: 'yes', label: 'yes' }, { value: 'no', label: 'no' }] },
  { key: 'own_roots', text: 'Roots of its own?', answers: [{ value: 'yes', label: 'yes' }, { value: 'no', label: 'no' }] },
  { key: 'leaf', text: 'A leaf on it?', answers: [{ value: 'yes', label: 'yes' }, { value: 'no', label: 'no' }] },
  { key: 'aerial_root', text: 'An aerial root at the node?', answers: [{ value: 'yes', label: 'yes' }, { value: 'no', label: 'no' }] },
  { key: 'live_bud', text: 'A live, swelling bud?', answers: [{ value: 'yes', label: 'yes' }, { value: 'no', label: 'asleep' }] },
  { key: 'firm', text: 'Firm all along when squeezed?', answers: [{ value: 'yes', label: 'firm' }, { value: 'no', label: 'soft' }] },
  { key: 'ends', text: 'The cut ends', answers: [{ value: 'fresh', label: 'fresh' }, { value: 'healed', label: 'healed' }] },
  {
    key: 'stripe',
    text: 'Pattern on the stem at the node',
    answers: [{ value: 'none', label: 'none' }, { value: 'some', label: 'some' }, { value: 'strong', label: 'strong' }],
  },
] // prettier-ignore
const shown = computed(() =>
  questions.filter(
    (q) => (offer.value.node !== 'no' || q.key === 'node') && (q.key !== 'own_roots' || kind.value === 'division'),
  ),
)
/** What it is: said, else what the group is usually multiplied from. */
const kind = computed(() => offer.value.kind ?? answer.value?.piece.kind)
const setKind = (k: string) => (offer.value = { ...offer.value, kind: k as NonNullable<Offer['kind']> })
function say(key: Key, value: string) {
  const next = { ...offer.value }
  if (next[key] === value) delete next[key]
  else Object.assign(next, { [key]: value })
  offer.value = next
}
const known = computed({
  get: () => offer.value.sound_mm >= 0,
  set: (v: boolean) => (offer.value = { ...offer.value, sound_mm: v ? 15 : -1 }),
})
const group = computed(() => book.value?.groups.find((g) => g.key === offer.value.group_key))
const media = computed(() => book.value?.media.map((m) => m.medium) ?? [])
const medium = computed({
  get: () =>
    offer.value.medium ??
    (group.value?.media[0] as NonNullable<Offer['medium']> | undefined) ??
    (media.value[0] as NonNullable<Offer['medium']>),
  set: (m: NonNullable<Offer['medium']>) => (offer.value = { ...offer.value, medium: m }),
})
</script>

<template>
  <div class="page stack">
    <div class="row">
      <h1>Worth it?</h1>
      <span class="soft">a piece someone offers, or one you think of cutting</span>
      <v-btn class="push" variant="outlined" @click="offer = { ...blank }">Start anew</v-btn>
    </div>
    <div class="two">
      <section class="panel stack" aria-label="What is known of it">
        <div class="row">
          <v-select
            v-model="offer.group_key"
            label="Growth group"
            :items="book?.groups.map((g) => ({ title: g.name, value: g.key, props: { subtitle: g.members } })) ?? []"
          />
          <v-select
            :model-value="kind"
            label="What it is"
            :items="book?.kinds.map((k) => ({ title: k.label, value: k.kind })) ?? []"
            @update:model-value="setKind"
          />
          <v-select v-model="medium" label="Rooted in" :items="media" />
        </div>
        <div v-for="q in shown" :key="q.key" class="ask" role="group" :aria-label="q.text">
          <span>{{ q.text }}</span>
          <span class="row">
            <button
              v-for="a in q.answers"
              :key="a.value"
              type="button"
              :aria-pressed="offer[q.key] === a.value"
              @click="say(q.key, a.value)"
            >
              {{ a.label }}
            </button>
          </span>
        </div>
        <template v-if="offer.node !== 'no'">
          <CountField v-model="offer.nodes" label="How many nodes" :min="1" :max="20" />
          <v-checkbox v-model="known" label="I know how much sound stem is beside the end nodes" hide-details density="compact" />
          <CountField v-if="known" v-model="offer.sound_mm" label="On the shorter side" :min="0" :max="200" :step="5" unit="mm" />
          <v-checkbox v-model="offer.patterned" label="I want it for its pattern" hide-details density="compact" />
        </template>
      </section>
      <div class="stack">
        <RefusalNote :error="error" />
        <section v-if="answer" class="panel" aria-label="Answer" aria-live="polite">
          <div class="head">
            <OfferDrawing :offer="offer" />
            <div>
              <h2 :class="{ never: answer.high === 0 }">{{ answer.verdict }}</h2>
              <p class="chance">
                {{ percent(answer.chance) }}
                <small v-if="answer.high > answer.low"
                  >{{ percent(answer.low) }} to {{ percent(answer.high) }}, by what is not known</small
                >
              </p>
            </div>
          </div>
          <p v-for="w in answer.warnings" :key="w" class="caution">{{ said(w) }}</p>
          <template v-if="answer.ask.length">
            <h3>Ask, or look, first</h3>
            <ol>
              <li v-for="r in answer.ask" :key="r.text">
                {{ r.text }}? <small>tells {{ Math.round(r.by * 100) }} points</small>
              </li>
            </ol>
          </template>
          <template v-if="answer.raise.length">
            <h3>What would raise it</h3>
            <ul>
              <li v-for="r in answer.raise" :key="r.text">
                {{ r.text }}: <b>{{ percent(r.chance) }}</b>
              </li>
            </ul>
          </template>
          <h3>Where the number comes from</h3>
          <table>
            <tbody>
              <tr v-if="answer.piece.start">
                <th scope="row">{{ answer.piece.start.label }}</th>
                <td class="code">{{ percent(answer.piece.start.value) }}</td>
                <td><BasisNote :basis="answer.piece.start.basis" /></td>
              </tr>
              <tr v-for="e in answer.piece.effects" :key="e.label">
                <th scope="row">{{ said(e.label) }}</th>
                <td class="code">&times; {{ e.odds }}</td>
                <td><BasisNote :basis="e.basis" /></td>
              </tr>
            </tbody>
          </table>
        </section>
        <CautionNotes :hazards="['trade_rules', ...(group?.hazards ?? []), 'irreplaceable']" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 16px;
  align-items: start;
}
.ask {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  border-top: 1px solid var(--line);
  padding-top: 8px;
  flex-wrap: wrap;
}
.ask .row {
  gap: 6px;
}
.ask button {
  min-width: 64px;
  min-height: var(--touch);
  padding: 0 12px;
  border: 1px solid var(--line);
  border-radius: var(--corner);
}
.ask button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
.head {
  display: flex;
  gap: 18px;
  align-items: center;
}
.chance {
  font: 700 34px var(--head);
  color: var(--ready);
  margin: 4px 0;
}
.chance small {
  font: 400 15px var(--text);
  color: var(--ink2);
}
.never {
  color: var(--rescue);
}
ol,
ul {
  margin: 2px 0 10px;
  padding-left: 22px;
}
small {
  color: var(--ink2);
}
h3 {
  margin-top: 12px;
}
table {
  width: 100%;
  border-collapse: collapse;
  font-size: var(--beside);
}
tr {
  border-top: 1px solid var(--line);
}
th {
  text-align: left;
  font-weight: 500;
  padding: 5px 8px 5px 0;
}
td {
  padding: 5px 8px 5px 0;
}
td.code {
  white-space: nowrap;
}
@media (max-width: 800px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
