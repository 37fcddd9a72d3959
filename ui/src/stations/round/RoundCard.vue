<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { shortDate } from '@/kit/dates'
import { said } from '@/kit/units'
import { count } from '@/kit/words'

import PieceExcept from './PieceExcept.vue'
import VesselScene from './VesselScene.vue'
import type { Walk } from './walk'

/** One vessel on the round: drawn, what is due and why, what to leave alone. A tap on a piece notes what is odd about it. */
const { walk, most } = defineProps<{ walk: Walk; most: number }>()
const { card, acts, cover, except, othersFirm, toggleAct, toggleCover, signs, canSee } = walk
const picked = ref<string>()
watch(
  () => card.value?.vessel.id,
  () => (picked.value = undefined),
)
const vessel = computed(() => card.value?.vessel)
const piece = computed(() => card.value?.cuttings.find((c) => c.id === picked.value))
const tasks = computed(() => card.value?.stop.tasks ?? [])
const why = computed(() => [...new Set(tasks.value.map((t) => t.why).filter(Boolean))])
const on = (t: (typeof tasks.value)[number]) => (t.act === 'cover' ? cover.value === t.cover : acts.value.has(t.act))
const flip = (t: (typeof tasks.value)[number]) => (t.act === 'cover' && t.cover ? toggleCover(t.cover) : toggleAct(t.act))
/** Pieces that ask for a look, unless they are to be left alone. */
const looks = computed(() => {
  const c = card.value
  if (!c) return []
  const alone = new Set(c.stop.leave.flatMap((l) => l.codes))
  return c.cuttings.filter((x) => x.judgement.asks && !x.judgement.to_pot && !alone.has(x.code))
})
const toPot = computed(() => card.value?.cuttings.filter((c) => c.judgement.to_pot) ?? [])
const seenNow = computed(() => [...new Set([...(card.value?.stop.seen ?? []), ...signs.value])])
const openSigns = computed(() => canSee.value.filter((s) => card.value?.stop.seen.includes(s.sign)).map((s) => s.label))
const odd = (id: string) => {
  const e = except.value[id]
  return (e?.stem ?? e?.leaf) ? [e.stem, e.leaf].filter(Boolean).join(', ') : ''
}
</script>

<template>
  <article v-if="card && vessel" class="card" :aria-label="vessel.name">
    <header>
      <h2>
        <router-link :to="{ name: 'vessel', params: { id: vessel.id } }">{{ vessel.name }}</router-link>
      </h2>
      <span>{{ vessel.medium }}, {{ count(card.cuttings.length, 'piece', 'pieces') }}</span>
    </header>
    <VesselScene
      :vessel="vessel"
      :cuttings="card.cuttings"
      :cover="cover ?? card.stop.cover"
      :seen="seenNow"
      :most="most"
      @piece="picked = picked === $event ? undefined : $event"
    />
    <div class="codes" role="group" aria-label="Pieces: tap one that is not like the others">
      <button
        v-for="c in card.cuttings"
        :key="c.id"
        type="button"
        class="code"
        :class="{ odd: odd(c.id) }"
        :aria-pressed="picked === c.id"
        @click="picked = picked === c.id ? undefined : c.id"
      >
        {{ c.code }}<i v-if="odd(c.id)">{{ odd(c.id) }}</i>
      </button>
      <button
        v-if="card.cuttings.length > 1"
        type="button"
        class="firm"
        :aria-pressed="othersFirm"
        @click="othersFirm = !othersFirm"
      >
        {{ Object.values(except).some((e) => e.stem) ? 'the others firm' : 'all firm' }}
      </button>
    </div>
    <PieceExcept
      v-if="piece"
      :code="piece.code"
      :model-value="except[piece.id] ?? {}"
      @update:model-value="except = { ...except, [piece.id]: $event }"
    />
    <div class="asks" role="group" aria-label="Due">
      <button
        v-for="t in tasks"
        :key="t.act"
        type="button"
        class="ask"
        :class="{ late: t.late, urgent: t.urgent }"
        :aria-pressed="on(t)"
        @click="flip(t)"
      >
        <svg viewBox="0 0 16 16" width="15" height="15" aria-hidden="true">
          <circle cx="8" cy="8" r="6.6" fill="none" stroke="currentColor" stroke-width="1.4" />
          <path v-if="on(t)" d="M4.600 8.200l2.400 2.400 4.400-5" fill="none" stroke="currentColor" stroke-width="1.8" />
        </svg>
        {{ t.label }}
      </button>
      <router-link v-for="c in looks" :key="c.id" class="ask look" :to="{ name: 'look', params: { id: c.id } }">
        look at <span class="code">{{ c.code }}</span>
      </router-link>
      <router-link v-for="c in toPot" :key="c.id" class="ask look" :to="{ name: 'potup', query: { cutting: c.id } }">
        pot up <span class="code">{{ c.code }}</span>
      </router-link>
    </div>
    <p v-if="openSigns.length" class="why">
      <strong>Seen last: {{ openSigns.join(', ') }}.</strong>
    </p>
    <p v-for="w in why" :key="w" class="why">{{ said(w) }}</p>
    <p v-for="l in card.stop.leave" :key="l.why + l.until" class="why alone">
      <svg viewBox="0 0 16 16" width="15" height="15" aria-hidden="true">
        <path d="M2 8c3-5 9-5 12 0c-3 5-9 5-12 0z" fill="none" stroke="currentColor" stroke-width="1.3" />
        <path d="M3 14L13 2" stroke="currentColor" stroke-width="1.5" />
      </svg>
      <span>
        {{ l.codes.join(', ') }}: leave {{ l.codes.length === 1 ? 'it' : 'them' }} alone until {{ shortDate(l.until)
        }}{{ l.unless_shoot ? ', or until a shoot shows' : '' }}. {{ said(l.why) }}
      </span>
    </p>
    <p v-for="n in card.stop.notes" :key="n" class="why">{{ said(n) }}</p>
    <p v-if="card.stop.harden?.held" class="why">{{ said(card.stop.harden.held) }}</p>
  </article>
</template>

<style scoped>
.card {
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 14px;
  padding: 14px 16px;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 10px;
  color: var(--ink2);
  font-size: var(--small);
}
h2 {
  font-size: 18px;
  color: var(--ink);
}
h2 a {
  text-decoration: none;
  /* A thumb's height, without moving what stands around it. */
  display: inline-block;
  padding: 12px 0;
  margin: -12px 0;
}
.codes,
.asks {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-top: 8px;
  justify-content: center;
}
.codes button {
  min-height: var(--touch);
  padding: 4px 9px;
  border-radius: var(--corner);
  font-size: var(--small);
}
.codes button[aria-pressed='true'] {
  background: var(--warm);
  box-shadow: inset 0 0 0 1.5px var(--terra);
}
.codes .odd {
  color: var(--rescue);
}
.codes i {
  display: block;
  font: 13px var(--text);
}
.firm {
  border: 1px solid var(--line);
}
.asks {
  justify-content: flex-start;
}
.ask {
  display: inline-flex;
  align-items: center;
  gap: 7px;
  min-height: var(--touch);
  padding: 6px 13px;
  border-radius: var(--chip-corner);
  border: 1px solid var(--warm-line);
  background: var(--warm);
  color: var(--look);
  font-weight: 600;
  font-size: var(--beside);
  text-decoration: none;
}
.ask[aria-pressed='false'] {
  background: none;
  color: var(--ink2);
  font-weight: 450;
}
.ask.urgent {
  color: var(--rescue);
  border-color: currentColor;
}
.ask.look {
  background: none;
}
.why {
  margin: 7px 0 0;
  color: var(--ink2);
  font-size: var(--small);
  line-height: 1.35;
}
.alone {
  display: flex;
  gap: 7px;
}
.alone svg {
  flex: none;
  margin-top: 2px;
}
</style>
