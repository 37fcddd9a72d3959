<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { inUnit, lengthUnit, toMm } from '@/kit/units'
import { buds, budWord, capital } from '@/kit/words'

import type { LookDraft } from './lookDraft'

/** One tap each; a second tap takes it back to "not noted". */
const { draft, lowest, nodes, words, medium } = defineProps<{
  draft: LookDraft
  lowest: number
  nodes: number
  medium: Schemas['MediumRow'] | undefined
  /** How a piece of its kind is spoken of. */
  words: Schemas['KindRow']
}>()

type Key = 'stem' | 'root_feel' | 'tug' | 'leaf' | 'water' | 'crowding'
const rows = computed<{ key: Key; label: string; words: [string, string][] }[]>(() => [
  {
    key: 'stem',
    label: capital(words.body),
    words: [
      ['firm', 'firm'],
      ['wrinkled', words.limp],
      ['soft', 'soft'],
    ],
  },
  {
    key: 'root_feel',
    label: 'Roots squeezed',
    words: [
      ['firm', 'firm'],
      ['mushy', 'mushy'],
    ],
  },
  ...(medium && !medium.tugs
    ? []
    : [
        {
          key: 'tug' as Key,
          label: 'Light tug',
          words: [
            ['holds', 'holds'],
            ['gives', 'gives'],
          ] as [string, string][],
        },
      ]),
  ...(words.leafless
    ? []
    : [
        {
          key: 'leaf' as Key,
          label: 'Leaf',
          words: [
            ['fresh', 'fresh'],
            ['yellowing', 'yellowing'],
            ['drooping', 'drooping'],
            ['dropped', 'dropped'],
          ] as [string, string][],
        },
      ]),
  {
    key: 'water',
    label: medium?.liquid ? 'Water' : 'Moisture',
    words: medium?.liquid
      ? [
          ['clear', 'clear'],
          ['cloudy', 'cloudy'],
          ['smells', 'smells'],
        ]
      : [
          ['moist', 'moist'],
          ['dry', 'dry'],
          ['soaked', 'soaked'],
        ],
  },
  {
    key: 'crowding',
    label: 'Room for roots',
    words: [
      ['free', 'plenty'],
      ['coiling', 'they coil'],
      ['filling', 'vessel full'],
    ],
  },
])
function tap(key: Key, word: string) {
  const d = draft as unknown as Record<Key, string | undefined>
  d[key] = d[key] === word ? undefined : word
}
const points = computed(() => Array.from({ length: nodes - lowest + 1 }, (_, i) => i + lowest))
const budLabel = (n: number) =>
  words.comes === 'shoot'
    ? nodes > 1
      ? `Bud at ${words.point} ${n}`
      : 'Bud'
    : nodes > 1
      ? `${capital(words.comes)} at ${words.point} ${n}`
      : capital(words.comes)
const rot = computed(() => (draft.rotMm ? String(Number(inUnit(draft.rotMm).toFixed(2))) : ''))
function typeRot(text: string) {
  const v = Number(text.replace(',', '.'))
  draft.rotMm = text.trim() === '' || !Number.isFinite(v) || v < 0 ? null : Math.round(toMm(v) * 10) / 10
}
const youngLabel = (n: number) => `${capital(words.young_many)}${nodes > 1 ? ` at ${words.point} ${n}` : ''}`
function count(node: number, n: number) {
  const had = { ...draft.plantlets }
  if (had[node] === n) delete had[node]
  else had[node] = n
  draft.plantlets = had
}
function tapBud(node: number, bud: string) {
  if (draft.buds[node] === bud) delete draft.buds[node]
  else draft.buds[node] = bud
}
</script>

<template>
  <div class="panel">
    <h2>By eye and touch</h2>
    <div v-for="row in rows" :key="row.key" class="line" role="group" :aria-label="row.label">
      <span>{{ row.label }}</span>
      <div>
        <button
          v-for="[word, label] in row.words"
          :key="word"
          type="button"
          :aria-pressed="draft[row.key] === word"
          @click="tap(row.key, word)"
        >
          {{ label }}
        </button>
      </div>
    </div>
    <div v-for="n in points" :key="n" class="line" role="group" :aria-label="budLabel(n)">
      <span>{{ budLabel(n) }}</span>
      <div>
        <button v-for="b in buds" :key="b" type="button" :aria-pressed="draft.buds[n] === b" @click="tapBud(n, b)">
          {{ budWord[b] }}
        </button>
      </div>
    </div>
    <template v-if="words.keeps">
      <div v-for="n in points" :key="`young ${n}`" class="line" role="group" :aria-label="youngLabel(n)">
        <span>{{ youngLabel(n) }}</span>
        <div>
          <button
            v-for="k in 13"
            :key="k"
            type="button"
            class="few"
            :aria-pressed="draft.plantlets?.[n] === k - 1"
            @click="count(n, k - 1)"
          >
            {{ k - 1 }}
          </button>
        </div>
      </div>
    </template>
    <div class="line">
      <label for="rot">{{ words.keeps ? 'Rotted end' : 'Rot or die-back' }}, {{ lengthUnit }}</label>
      <div>
        <input id="rot" inputmode="decimal" :value="rot" @change="typeRot(($event.target as HTMLInputElement).value)" />
      </div>
    </div>
    <v-textarea v-model="draft.note" label="Note" rows="1" auto-grow maxlength="2000" class="below" />
  </div>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 136px 1fr;
  gap: 6px;
  align-items: center;
  padding: 3px 0;
  border-top: 1px solid var(--line);
}
.line div {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
button {
  border: 1px solid var(--line);
  border-radius: var(--chip-corner);
  padding: 4px 13px;
  min-height: 40px;
  background: var(--paper);
  font-size: var(--beside);
}
button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
  border-color: var(--ink);
  font-weight: 600;
}
.few {
  min-width: 40px;
  padding: 4px 8px;
}
input {
  border: 1px solid var(--ink2);
  border-radius: var(--corner);
  min-height: 40px;
  width: 90px;
  padding: 0 8px;
  background: var(--paper);
  color: var(--ink);
}
@media (max-width: 700px) {
  button,
  input {
    min-height: var(--touch);
  }
  .line {
    grid-template-columns: 1fr;
    gap: 2px;
  }
}
</style>
