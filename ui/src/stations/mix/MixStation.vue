<script setup lang="ts">
import { useDebounceFn, useStorage } from '@vueuse/core'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { api, Refusal, take, type Schemas } from '@/api/client'
import { useCalculators, useHandbook } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import CautionNotes from '@/kit/CautionNotes.vue'
import { len, lengthUnit, toMm } from '@/kit/units'

/** The mixing corner: strengths, dilutions, mixes and volumes, each with its formula and the numbers put in. */
type Question = Schemas['Task']
type Unit = NonNullable<Question['from']>
const route = useRoute()
const router = useRouter()
const { data: calculators, isPending, error, refetch } = useCalculators()
const { data: book } = useHandbook()
/** What was typed last stays, on this device. */
const kept = useStorage<
  Record<string, { values: Record<string, string>; parts: number[]; from: Unit; to: Unit; square: boolean; mix: string }>
>('clearjar.mix', {})
const key = computed(() => String(route.query['of'] ?? calculators.value?.[0]?.key ?? ''))
const ways = useTemplateRef('ways')
watch(
  [key, calculators],
  async () => {
    await nextTick()
    ways.value?.querySelector('[aria-pressed="true"]')?.scrollIntoView({ block: 'nearest', inline: 'center' })
  },
  { immediate: true },
)
const chosen = computed(() => calculators.value?.find((c) => c.key === key.value))
const typed = computed(() => ({
  values: {} as Record<string, string>,
  parts: [1, 1, 1],
  from: 'percent' as Unit,
  to: 'ppm' as Unit,
  square: false,
  mix: '',
  ...kept.value[key.value],
}))
const change = (to: Partial<(typeof kept.value)[string]>) =>
  (kept.value = { ...kept.value, [key.value]: { ...typed.value, ...to } })
const units: { value: Unit; title: string }[] = [
  { value: 'percent', title: '%' },
  { value: 'ppm', title: 'ppm' },
  { value: 'mg_per_l', title: 'mg/l' },
  { value: 'g_per_l', title: 'g/l' },
]
/** A mix of the handbook, or parts of one's own. */
const mix = computed(() => book.value?.mixes.find((m) => m.key === typed.value.mix))
const parts = computed(() => mix.value?.parts.map((p) => p.parts) ?? typed.value.parts)
const partName = (i: number) => mix.value?.parts[i]?.name ?? `ingredient ${i + 1}`

const number = (text: string | undefined) => (text?.trim() ? Number(text.replace(',', '.')) : NaN)
const question = computed<Question | undefined>(() => {
  const c = chosen.value
  if (!c) return undefined
  const values: Record<string, number> = {}
  for (const f of c.fields) {
    const v = number(typed.value.values[f.key])
    if (!Number.isFinite(v)) return undefined
    values[f.key] = f.unit === 'mm' ? toMm(v) : v
  }
  return {
    calculator: c.key,
    values,
    ...(c.asks_parts ? { parts: parts.value } : {}),
    ...(c.asks_units ? { from: typed.value.from, to: typed.value.to } : {}),
    ...(c.asks_square ? { square: typed.value.square } : {}),
  }
})
const answer = ref<Schemas['Solved']>()
const refusal = ref<Refusal>()
let asked = 0
const ask = useDebounceFn(async () => {
  const q = question.value
  const mine = ++asked
  if (!q) {
    answer.value = refusal.value = undefined
    return
  }
  try {
    const got = await take(api.POST('/api/solve', { body: q }))
    if (mine === asked) [answer.value, refusal.value] = [got, undefined]
  } catch (e) {
    if (mine === asked) [answer.value, refusal.value] = [undefined, e instanceof Refusal ? e : new Refusal(String(e), 0)]
  }
}, 40)
watch(question, () => void ask(), { immediate: true })
const about = (field: string) => refusal.value?.about(field)
const elsewhere = computed(() => (refusal.value && !chosen.value?.fields.some((f) => about(f.key)) ? refusal.value.message : ''))
const says = (v: number) => Number(v.toPrecision(4)).toLocaleString('en-GB', { maximumFractionDigits: 4 })
const label = (r: Schemas['Amount'], i: number) => (chosen.value?.asks_parts ? partName(i) : r.label)
const example = (f: Schemas['Field']) =>
  f.unit === 'mm' ? `${f.label}, ${lengthUnit.value}` : f.unit ? `${f.label}, ${f.unit}` : f.label
const usual: Record<string, Record<string, string>> = {
  dilute: { stock: '1000', target: '300', final_ml: '100' },
  feed: { label_per_l: '2', share: '0.25', volume_ml: '1000' },
  parts: { total: '1000' },
  weigh_out: { mg_per_l: '300', volume_ml: '100', purity: '0.98' },
}
</script>

<template>
  <div class="page stack">
    <div class="row">
      <h1>Mixing corner</h1>
      <span class="soft">strengths, dilutions, mixes and volumes; nothing of it is kept</span>
    </div>
    <AskState :pending="isPending" :error="error" what="the calculators" @retry="refetch()" />
    <nav ref="ways" class="row" aria-label="Calculators">
      <button
        v-for="c in calculators"
        :key="c.key"
        type="button"
        class="choice"
        :aria-pressed="c.key === key"
        @click="router.replace({ query: { of: c.key } })"
      >
        {{ c.title }}
      </button>
    </nav>
    <div v-if="chosen" class="two">
      <section class="panel stack" :aria-label="chosen.title">
        <h2>{{ chosen.title }}</h2>
        <p v-if="chosen.asks_parts" class="row">
          <v-select
            label="Which mix"
            :model-value="typed.mix"
            :items="[
              { title: 'parts of my own', value: '' },
              ...(book?.mixes.map((m) => ({ title: m.why, value: m.key })) ?? []),
            ]"
            @update:model-value="change({ mix: $event })"
          />
        </p>
        <div v-if="chosen.asks_parts && !mix" class="row parts">
          <v-text-field
            v-for="(p, i) in typed.parts"
            :key="i"
            :label="partName(i)"
            inputmode="decimal"
            :model-value="String(p)"
            @update:model-value="change({ parts: typed.parts.map((o, n) => (n === i ? number($event) || 0 : o)) })"
          />
          <v-btn
            size="small"
            variant="outlined"
            :disabled="typed.parts.length > 7"
            @click="change({ parts: [...typed.parts, 1] })"
            >One more</v-btn
          >
          <v-btn
            size="small"
            variant="text"
            :disabled="typed.parts.length < 2"
            @click="change({ parts: typed.parts.slice(0, -1) })"
            >One less</v-btn
          >
        </div>
        <div class="fields">
          <v-text-field
            v-for="f in chosen.fields"
            :key="`${key} ${f.key}`"
            :label="example(f)"
            inputmode="decimal"
            :placeholder="usual[key]?.[f.key] ?? ''"
            :model-value="typed.values[f.key] ?? ''"
            :error-messages="about(f.key) ?? []"
            @update:model-value="change({ values: { ...typed.values, [f.key]: $event } })"
          />
          <template v-if="chosen.asks_units">
            <v-select label="Given in" :model-value="typed.from" :items="units" @update:model-value="change({ from: $event })" />
            <v-select label="Wanted in" :model-value="typed.to" :items="units" @update:model-value="change({ to: $event })" />
          </template>
        </div>
        <div v-if="chosen.asks_square" class="row" role="group" aria-label="The pot">
          <button type="button" class="choice" :aria-pressed="!typed.square" @click="change({ square: false })">round</button>
          <button type="button" class="choice" :aria-pressed="typed.square" @click="change({ square: true })">square</button>
        </div>
        <CautionNotes :hazards="chosen.hazards" />
      </section>
      <section class="panel stack" aria-label="Answer" aria-live="polite">
        <h2>Answer</h2>
        <p v-if="elsewhere" class="refusal" role="alert">{{ elsewhere }}</p>
        <template v-if="answer">
          <p v-for="(r, i) in answer.results" :key="i" class="result">
            <strong>{{ r.unit === 'mm' ? len(r.value, 1) : `${says(r.value)} ${r.unit}` }}</strong>
            <span>{{ label(r, i) }}</span>
          </p>
          <p class="code shown">{{ answer.shown }}</p>
        </template>
        <p v-else-if="!refusal" class="soft">Fill in what is asked for, and it stands here.</p>
        <p class="soft">{{ chosen.formula }}</p>
        <p v-if="chosen.fields.some((f) => f.unit === 'mm')" class="soft">
          Lengths are typed in {{ lengthUnit === 'in' ? 'inch' : lengthUnit }}.
        </p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr);
  gap: 16px;
  align-items: start;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(226px, 1fr));
  gap: 12px;
}
.parts {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(128px, 1fr));
}
.result {
  display: flex;
  gap: 10px;
  align-items: baseline;
  margin: 0;
}
.result strong {
  font: 600 26px var(--head);
}
.shown {
  font-size: var(--small);
  font-weight: 500;
  overflow-wrap: anywhere;
}
p {
  margin: 0;
}
@media (max-width: 800px) {
  nav {
    flex-wrap: nowrap;
    overflow-x: auto;
    padding-bottom: 6px;
  }
  .choice {
    white-space: nowrap;
  }
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
