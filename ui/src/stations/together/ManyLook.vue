<script setup lang="ts">
import { computed, reactive, ref } from 'vue'

import { newId, type Cutting, type Look } from '@/api/client'
import { useMany } from '@/api/many'
import { useHandbook, useRound } from '@/api/queries'
import DateField from '@/kit/DateField.vue'
import { bothDates, instantOf, todayField } from '@/kit/dates'
import { lengthUnit, said, toMm } from '@/kit/units'
import { buds, budWord } from '@/kit/words'

import Refused from './RefusedOnes.vue'
import { rootsTyped } from './lengths'

/** A look at many pieces in one table: what is left empty is not noted, and a piece nothing is said of gets no look. */
const { pieces } = defineProps<{ pieces: Cutting[] }>()
const { data: book } = useHandbook()
const { data: round } = useRound()
/** Those that looking would harm, and until when. */
const alone = computed(
  () =>
    round.value?.stops.flatMap((s) =>
      s.leave.flatMap((l) => {
        const codes = l.codes.filter((code) => pieces.some((c) => c.code === code))
        return codes.length ? [{ ...l, codes }] : []
      }),
    ) ?? [],
)
const looks = useMany('look', 'look')

interface Row {
  roots: string
  stem?: Look['stem'] | undefined
  leaf?: Look['leaf'] | undefined
  tug?: Look['tug'] | undefined
  bud?: (typeof buds)[number] | undefined
  note: string
}
const rows = reactive<Record<string, Row>>({})
const row = (id: string): Row => (rows[id] ??= { roots: '', note: '' })
const on = ref(todayField())
const by = ref<'ruler' | 'eye'>('ruler')
const stems = ['firm', 'wrinkled', 'soft'] as const
const leaves = ['fresh', 'yellowing', 'drooping', 'dropped'] as const
const tugs = ['holds', 'gives'] as const
const left = (c: Cutting) => c.nodes.length - c.gone_nodes
const mayTug = (c: Cutting) => book.value?.media.find((m) => m.medium === c.medium)?.tugs ?? true
const wrong = computed(() => {
  const out: Record<string, string> = {}
  for (const c of pieces) {
    const text = row(c.id).roots.trim()
    const read = text ? rootsTyped(text, c.gone_nodes + 1, left(c), toMm, by.value) : undefined
    if (typeof read === 'string') out[c.id] = read
  }
  return out
})
/** What is said of a piece; nothing at all for one of which nothing was said. */
function seen(c: Cutting): Look | undefined {
  const r = row(c.id)
  const text = r.roots.trim()
  const read = text ? rootsTyped(text, c.gone_nodes + 1, left(c), toMm, by.value) : undefined
  if (typeof read === 'string') return undefined
  const note = r.note.trim()
  if (!read && !r.stem && !r.leaf && !r.tug && !r.bud && !note) return undefined
  return {
    roots_counted: false,
    roots: [],
    ...read,
    buds: r.bud ? [{ node: 1 + c.gone_nodes, bud: r.bud }] : [],
    ...(r.stem ? { stem: r.stem } : {}),
    ...(r.leaf ? { leaf: r.leaf } : {}),
    ...(r.tug ? { tug: r.tug } : {}),
    ...(note ? { note } : {}),
  }
}
const given = computed(() => pieces.flatMap((c) => (seen(c) ? [c] : [])))
function all<K extends 'stem' | 'leaf' | 'tug'>(key: K, value: Row[K]) {
  const every = pieces.every((c) => row(c.id)[key] === value)
  for (const c of pieces) if (key !== 'tug' || mayTug(c)) row(c.id)[key] = (every ? undefined : value) as Row[K]
}
const told = ref('')
async function save() {
  const kept = await looks.send(
    given.value.map((c) => ({
      name: c.code,
      content: { id: newId(), cutting_id: c.id, looked_at: instantOf(on.value), seen: seen(c) as Look },
    })),
    (list) => `Looked at ${list.length} ${list.length === 1 ? 'piece' : 'pieces'}.`,
  )
  for (const k of kept) rows[k.content.cutting_id] = { roots: '', note: '' }
  told.value = kept.length ? `Noted: ${kept.map((k) => k.name).join(', ')}.` : ''
}
const heads = computed(() => [
  { key: 'stem' as const, label: 'Body', words: stems },
  { key: 'leaf' as const, label: 'Leaf', words: leaves },
  { key: 'tug' as const, label: 'Light tug', words: tugs },
])
</script>

<template>
  <section class="stack" aria-label="Look at all">
    <p class="soft">
      What is left empty is not noted. Roots in {{ lengthUnit === 'in' ? 'inch' : lengthUnit }}: “45 32 / 28” is two at the lowest
      node and one at the next; “0” says that there are none.
    </p>
    <p v-for="l in alone" :key="l.why + l.until" class="caution">
      {{ l.codes.join(', ') }}: leave {{ l.codes.length === 1 ? 'it' : 'them' }} alone until {{ bothDates(l.until)
      }}{{ l.unless_shoot ? ', or until a shoot shows' : '' }}. {{ said(l.why) }}
    </p>
    <div v-for="h in heads" :key="h.key" class="row" role="group" :aria-label="`${h.label} of all`">
      <span class="head">All: {{ h.label.toLowerCase() }}</span>
      <button
        v-for="w in h.words"
        :key="w"
        type="button"
        class="choice"
        :aria-pressed="pieces.length > 0 && pieces.every((c) => row(c.id)[h.key] === w)"
        @click="all(h.key, w)"
      >
        {{ w }}
      </button>
    </div>
    <div class="row" role="group" aria-label="Lengths measured">
      <span class="head">Lengths</span>
      <button type="button" class="choice" :aria-pressed="by === 'ruler'" @click="by = 'ruler'">with a ruler</button>
      <button type="button" class="choice" :aria-pressed="by === 'eye'" @click="by = 'eye'">by eye</button>
    </div>
    <ul>
      <li v-for="c in pieces" :key="c.id" :aria-label="c.code">
        <router-link class="code" :to="{ name: 'cutting', params: { id: c.id } }">{{ c.code }}</router-link>
        <v-text-field v-model="row(c.id).roots" label="Roots" :error-messages="wrong[c.id]" inputmode="text" maxlength="200" />
        <v-select v-model="row(c.id).stem" clearable label="Body" :items="[...stems]" />
        <v-select v-model="row(c.id).leaf" clearable label="Leaf" :items="[...leaves]" />
        <v-select v-model="row(c.id).tug" clearable label="Tug" :disabled="!mayTug(c)" :items="[...tugs]" />
        <v-select
          v-model="row(c.id).bud"
          clearable
          label="Lowest bud"
          :items="buds.map((b) => ({ title: budWord[b] ?? b, value: b }))"
        />
        <v-text-field v-model="row(c.id).note" label="Note" maxlength="500" />
      </li>
    </ul>
    <div class="row">
      <DateField v-model="on" label="Looked on" />
      <v-btn
        color="primary"
        :loading="looks.isPending.value"
        :disabled="!given.length || Object.keys(wrong).length > 0"
        @click="save"
        >{{ given.length > 1 ? `Note ${given.length} looks` : given.length ? 'Note the one look' : 'Note the looks' }}</v-btn
      >
    </div>
    <p v-if="told" role="status">{{ told }}</p>
    <Refused :refused="looks.refused.value" :waits="looks.waits.value" />
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  display: grid;
  grid-template-columns: 104px minmax(130px, 1.3fr) repeat(4, minmax(96px, 1fr)) minmax(110px, 1.2fr);
  gap: 8px;
  align-items: start;
  padding: 8px 0;
  border-top: 1px solid var(--line);
}
li .code {
  line-height: var(--touch);
}
.head {
  min-width: 104px;
  color: var(--ink2);
}
p {
  margin: 0;
}
@media (max-width: 900px) {
  li {
    grid-template-columns: 1fr 1fr;
  }
  li .code {
    grid-column: 1 / -1;
  }
}
</style>
