<script setup lang="ts">
import { computed } from 'vue'

import { buds, budWord } from '@/kit/words'

import type { LookDraft } from './lookDraft'

/** One tap each; a second tap takes it back to "not noted". */
const { draft, nodes, medium } = defineProps<{ draft: LookDraft; nodes: number; medium: string }>()

type Key = 'stem' | 'root_feel' | 'tug' | 'leaf' | 'water' | 'crowding'
const rows = computed<{ key: Key; label: string; words: [string, string][] }[]>(() => [
  {
    key: 'stem',
    label: 'Stem',
    words: [
      ['firm', 'firm'],
      ['wrinkled', 'wrinkled'],
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
  ...(medium === 'water'
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
  {
    key: 'leaf',
    label: 'Leaf',
    words: [
      ['fresh', 'fresh'],
      ['yellowing', 'yellowing'],
      ['drooping', 'drooping'],
      ['dropped', 'dropped'],
    ],
  },
  {
    key: 'water',
    label: medium === 'water' ? 'Water' : 'Moisture',
    words:
      medium === 'water'
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
    <div v-for="n in nodes" :key="n" class="line" role="group" :aria-label="`Bud at node ${n}`">
      <span>Bud, node {{ n }}</span>
      <div>
        <button v-for="b in buds" :key="b" type="button" :aria-pressed="draft.buds[n] === b" @click="tapBud(n, b)">
          {{ budWord[b] }}
        </button>
      </div>
    </div>
    <div class="line">
      <label for="rot">Rot or die-back, mm</label>
      <div><input id="rot" v-model.number="draft.rotMm" type="number" min="0" /></div>
    </div>
    <v-textarea v-model="draft.note" label="Note" rows="1" auto-grow maxlength="2000" class="mt-2" />
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
  border-radius: 99px;
  padding: 4px 13px;
  min-height: 40px;
  background: var(--paper);
  font-size: 15px;
}
button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
  border-color: var(--ink);
  font-weight: 600;
}
input {
  border: 1px solid var(--ink2);
  border-radius: 8px;
  min-height: 40px;
  width: 90px;
  padding: 0 8px;
  background: var(--paper);
  color: var(--ink);
}
@media (max-width: 700px) {
  button,
  input {
    min-height: 44px;
  }
  .line {
    grid-template-columns: 1fr;
    gap: 2px;
  }
}
</style>
