<script setup lang="ts">
import { useDebounceFn, useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'

import type { Plan, Schemas, Stem } from '@/api/client'
import LyingLeaf from '@/drawing/LyingLeaf.vue'
import MmRule from '@/drawing/MmRule.vue'
import OrganBody from '@/drawing/OrganBody.vue'
import { len, lenNumber } from '@/kit/units'
import { percent } from '@/kit/words'

/** The stem on the bench, base left: knives to drag, pieces lifted apart with their chance beneath. */
const { stem, letter, organ, standing, plan, dieBack, endMm, spanMm } = defineProps<{
  stem: Stem
  letter: string
  organ: string
  /** How many nodes, from the base up, are still there. */
  standing: number
  plan: Plan
  patterned: boolean
  /** How far cut ends are expected to dry back, mm. */
  dieBack: number
  endMm: number
  /** The longest of the stems that lie together: all are drawn to its scale. */
  spanMm: number
}>()
const chosen = defineModel<number>('chosen', { required: true })
const emit = defineEmits<{ knives: [mm: number[]] }>()

const box = useTemplateRef('box')
const svg = useTemplateRef<SVGSVGElement>('svg')
const { width } = useElementSize(box)
const narrow = computed(() => width.value > 0 && width.value < 500)
const gap = computed(() => (narrow.value ? 18 : 30))
/** Between a piece and an offcut the stem hardly parts. */
const crack = 12

const dragging = ref<number>()
/** The knives as the hand has them; the answer for them follows. */
const knives = ref<number[]>([])
/** While the hand moves, an answer to where the knife was must not put it back; a moment later it holds. */
const settle = useDebounceFn(() => {
  moving = false
  if (dragging.value === undefined) knives.value = [...plan.knives_mm]
}, 250)
let moving = false
watch(
  () => plan.knives_mm,
  (k) => {
    if (dragging.value === undefined && !moving) knives.value = [...k]
  },
  { immediate: true },
)

const nodes = computed(() => {
  let at = 0
  return stem.nodes.map((node, i) => ({ n: i + 1, at: (at += node.below_mm), node }))
})
const end = computed(() => endMm)
const margin = computed(() => (narrow.value ? 10 : 30))
/** Between two knives with no node there is an offcut. */
const cuts = computed(() => [0, ...knives.value, end.value])
/** A node at the very end belongs to the last part. */
const lies = (at: number, from: number, to: number) => at >= from && (at < to || to >= end.value - 1)
const bare = (i: number) => {
  const from = cuts.value[i] ?? 0
  const to = cuts.value[i + 1] ?? end.value
  return !nodes.value.some((n) => lies(n.at, from, to) && n.n <= standing)
}
/** How far everything right of knife i is moved apart. */
const shifts = computed(() => {
  let sum = 0
  return knives.value.map((_, i) => (sum += bare(i) || bare(i + 1) ? crack : gap.value))
})
const spread = computed(() => shifts.value.at(-1) ?? 0)
/** On a phone the whole stem fits, as long as its nodes can still be told apart; beyond that it scrolls. */
const least = computed(() => (narrow.value ? 0.55 : 1.1))
const scale = computed(() =>
  Math.max(least.value, (Math.max(330, width.value) - 2 * margin.value - spread.value) / Math.max(60, end.value, spanMm)),
)
const total = computed(() => end.value * scale.value + spread.value + 2 * margin.value)
const t = computed(() => Math.min(['clump', 'pups'].includes(organ) ? 26 : 60, Math.max(13, stem.thickness_mm * scale.value)))
const leaf = computed(() => Math.min(84, Math.max(narrow.value ? 30 : 40, 40 * scale.value)))
const mid = 168
const leafy = computed(() => organ === 'stem' || organ === 'rhizome' || organ === 'runner')

/** Which piece lies between two knives: by its place, or while the hand is ahead of the answer, by its turn. */
function pieceAt(i: number, from: number): number {
  const exact = plan.pieces.findIndex((p) => Math.abs(p.from_mm - from) < 0.6)
  if (exact >= 0 || knives.value.length !== plan.knives_mm.length) return exact
  const was = plan.knives_mm[i - 1] ?? -1
  return plan.pieces.findIndex((p) => Math.abs(p.from_mm - was) < 0.6)
}
const parts = computed(() => {
  let lift = 0
  return cuts.value.slice(0, -1).map((from, i) => {
    const to = cuts.value[i + 1] ?? end.value
    const shift = margin.value + (shifts.value[i - 1] ?? 0)
    const at = pieceAt(i, from)
    const off = i > 0 && bare(i)
    if (i > 0 && !off) lift += 7
    return {
      i,
      from,
      to,
      x: from * scale.value + shift,
      w: Math.max(2, (to - from) * scale.value),
      lift: off ? lift / 2 : lift,
      off,
      at,
      nodes: nodes.value
        .filter((n) => lies(n.at, from, to) && n.n <= standing)
        .map((n) => ({ ...n, x: n.at * scale.value + shift })),
      piece: i > 0 && !off && at >= 0 ? plan.pieces[at] : undefined,
    }
  })
})
const codeOf = (p: Schemas['Piece']) =>
  `${letter}${p.first}${p.last > p.first ? `-${p.last}` : ''}${p.kind === 'tip' ? ' tip' : ''}`
const knifeX = (i: number) =>
  (knives.value[i] ?? 0) * scale.value + margin.value + ((shifts.value[i - 1] ?? 0) + (shifts.value[i] ?? 0)) / 2
const lifted = (i: number) => ((parts.value[i]?.lift ?? 0) + (parts.value[i + 1]?.lift ?? 0)) / 2
const sides = (k: number) => {
  const below = nodes.value.filter((n) => n.at <= k).at(-1)?.at ?? 0
  const above = nodes.value.find((n) => n.at > k)?.at ?? end.value
  return `${lenNumber(k - below)} | ${len(above - k)}`
}

const focused = ref<number>()
/** The knife that was touched last: a thumb has no Delete key. */
const picked = ref<number>()
/** Where knives stand close, only those of the chosen piece, and the one in hand, say their mm. */
const labelled = (i: number) => {
  const near = [i - 1, i + 1].some((j) => knives.value[j] !== undefined && Math.abs(knifeX(j) - knifeX(i)) < 92)
  const piece = plan.pieces[chosen.value]
  const k = knives.value[i] ?? -1
  const ends = piece && chosen.value >= 0 && (Math.abs(piece.from_mm - k) < 0.6 || Math.abs(piece.to_mm - k) < 0.6)
  return (
    !near || focused.value === i || (ends && (focused.value === undefined || Math.abs(knifeX(focused.value) - knifeX(i)) >= 92))
  )
}

function press(e: PointerEvent, i: number) {
  dragging.value = i
  picked.value = i
  ;(e.currentTarget as Element).setPointerCapture(e.pointerId)
}
function moved(i: number, to: number) {
  const low = (knives.value[i - 1] ?? -1) + 1
  const high = (knives.value[i + 1] ?? end.value) - 1
  knives.value[i] = Math.round(Math.min(Math.max(to, low), high) * 2) / 2
  moving = true
  void settle()
  emit('knives', [...knives.value])
}
/** Within this many pixels of an allowed place a knife snaps to it. */
const reach = 9
const snapped = (mm: number) => {
  const near = plan.places_mm.reduce((a, b) => (Math.abs(b - mm) < Math.abs(a - mm) ? b : a), Infinity)
  return Math.abs(near - mm) * scale.value <= reach ? near : mm
}
function drag(e: PointerEvent) {
  const i = dragging.value
  if (i === undefined) return
  const x = e.clientX - (svg.value?.getBoundingClientRect().left ?? 0)
  moved(i, snapped((x - margin.value - ((shifts.value[i - 1] ?? 0) + (shifts.value[i] ?? 0)) / 2) / scale.value))
}
function key(e: KeyboardEvent, i: number) {
  const by = e.shiftKey ? 10 : 1
  const at = knives.value[i] ?? 0
  if (e.key === 'ArrowLeft') moved(i, at - by)
  else if (e.key === 'ArrowRight') moved(i, at + by)
  else if (e.key === 'PageUp') moved(i, plan.places_mm.find((p) => p > at + 0.6) ?? at)
  else if (e.key === 'PageDown') moved(i, plan.places_mm.findLast((p) => p < at - 0.6) ?? at)
  else if (e.key === 'Delete' || e.key === 'Backspace') removeKnife(i)
  else return
  e.preventDefault()
}
function removeKnife(i: number) {
  knives.value.splice(i, 1)
  picked.value = undefined
  emit('knives', [...knives.value])
}
/** A new knife goes to an allowed place in the part with most nodes, else into its middle. */
async function addKnife() {
  const part = [...parts.value].sort((a, b) => b.nodes.length - a.nodes.length)[0]
  const inner = part?.nodes ?? []
  const half = Math.floor(inner.length / 2)
  const low = inner[half - 1]?.at ?? 0
  const high = inner[half]?.at ?? end.value
  const place = plan.places_mm.find((p) => p > low && p < high && !knives.value.some((k) => Math.abs(k - p) < 1))
  const at = place ?? (inner.length > 1 ? (low + high) / 2 : end.value / 2)
  knives.value = [...knives.value, at].sort((a, b) => a - b)
  emit('knives', [...knives.value])
  await nextTick()
  svg.value?.querySelector<SVGElement>(`[data-knife="${knives.value.indexOf(at)}"]`)?.focus()
}
</script>

<template>
  <div ref="box" class="bench">
    <svg
      ref="svg"
      :width="total"
      height="312"
      role="group"
      :aria-label="`Stem ${letter} on the bench, base left`"
      @pointermove="drag"
      @pointerup="dragging = undefined"
    >
      <g
        v-for="p in parts"
        :key="p.i"
        :transform="`translate(0,${-p.lift})`"
        :class="{ piece: p.piece, chosen: p.at === chosen }"
        :opacity="p.off ? 0.45 : 1"
      >
        <g v-for="n in p.nodes" :key="n.n">
          <LyingLeaf
            v-if="n.node.leaf && leafy"
            :transform="`translate(${n.x},${mid - t / 2})`"
            :node="n.n"
            :length="leaf"
            :patterned="patterned && n.node.stripe !== 'none'"
            :strip="p.piece?.strip.includes(n.n) ?? false"
            :halve="p.piece?.halve?.includes(n.n) ?? false"
          />
          <path
            v-if="n.node.aerial_root"
            :d="`M${n.x} ${mid + t / 2}q-2 10 4 20`"
            fill="none"
            stroke="#a5814f"
            stroke-width="3.5"
            stroke-linecap="round"
          />
        </g>
        <OrganBody
          :organ="organ"
          :x="p.x"
          :y="mid"
          :w="p.w"
          :t="t"
          :points="p.nodes.map((n) => n.x)"
          :stays="p.i === 0"
          :slant="p.piece?.slant ?? false"
          :first="p.i === 0 || (p.i === 1 && knives[0] === 0)"
          :last="p.i === parts.length - 1"
        />
        <template v-if="p.piece && leafy">
          <rect
            :x="p.x + (p.piece.slant ? 4 : 0)"
            :y="mid - t / 2 + 1"
            :width="Math.min(p.w / 2, dieBack * scale)"
            :height="t - 2"
            fill="var(--dry)"
            opacity="0.75"
          />
          <rect
            v-if="p.piece.kind !== 'tip'"
            :x="p.x + p.w - Math.min(p.w / 2, dieBack * scale)"
            :y="mid - t / 2 + 1"
            :width="Math.min(p.w / 2, dieBack * scale)"
            :height="t - 2"
            fill="var(--dry)"
            opacity="0.75"
          />
        </template>
        <g v-for="n in p.nodes" :key="`n${n.n}`">
          <path
            v-if="n.node.stripe === 'some' || n.node.stripe === 'strong'"
            :d="`M${n.x - 12} ${mid - 2}h24`"
            stroke="var(--cream)"
            :stroke-width="n.node.stripe === 'strong' ? 7 : 3"
          />
          <path
            v-if="n.node.rooted"
            :d="`M${n.x - 2} ${mid + t / 2}q-6 9 1 20M${n.x + 3} ${mid + t / 2}q6 9 0 18`"
            fill="none"
            stroke="#a5814f"
            stroke-width="2.4"
          />
          <rect :x="n.x - 3" :y="mid - t / 2 - 3" width="6" :height="t + 6" rx="3" fill="var(--node)" />
          <text :x="n.x - 8" :y="mid + t / 2 + 20" text-anchor="middle" font-size="14" fill="var(--ink2)">{{ n.n }}</text>
        </g>
        <template v-if="p.piece">
          <path
            :d="`M${p.x} ${mid + 42}v7h${p.w}v-7`"
            fill="none"
            :stroke="p.at === chosen ? 'var(--terra)' : 'var(--wood)'"
            :stroke-width="p.at === chosen ? 2.5 : 1.2"
          />
          <text :x="p.x + p.w / 2" :y="mid + 70" text-anchor="middle" class="tagcode">{{ codeOf(p.piece) }}</text>
          <text
            :x="p.x + p.w / 2"
            :y="mid + 96"
            text-anchor="middle"
            class="chance"
            :fill="p.piece.refused ? 'var(--rescue)' : 'var(--ready)'"
          >
            {{ p.piece.refused ? 'never' : percent(p.piece.chance) }}
          </text>
          <text v-if="p.w > 62" :x="p.x + p.w / 2" :y="mid + 116" text-anchor="middle" font-size="12.5" fill="var(--ink2)">
            {{ leafy && organ === 'stem' ? 'this end up \u2192' : (p.piece.up ?? '').split(',')[0] }}
          </text>
          <rect
            class="over"
            :x="p.x"
            :y="mid - 30"
            :width="p.w"
            height="152"
            fill="transparent"
            role="button"
            tabindex="0"
            :aria-pressed="p.at === chosen"
            :aria-label="`Piece ${codeOf(p.piece)}, chance ${percent(p.piece.chance)}`"
            @click="chosen = p.at"
            @keydown.enter="chosen = p.at"
          />
        </template>
        <text
          v-else-if="p.i === 0 ? p.w > 30 : p.w > 44"
          :x="p.x + p.w / 2"
          :y="mid + 62"
          text-anchor="middle"
          font-size="14"
          fill="var(--ink2)"
        >
          {{ p.i === 0 ? 'stays' : 'offcut' }}
        </text>
      </g>
      <g
        v-for="(k, i) in knives"
        :key="`k${i}`"
        class="knife"
        :data-knife="i"
        :transform="`translate(${knifeX(i)},${mid - lifted(i)})`"
        role="slider"
        tabindex="0"
        :aria-label="`Knife ${i + 1}`"
        :aria-valuenow="k"
        :aria-valuemin="0"
        :aria-valuemax="end"
        :aria-valuetext="`${len(k)} from the base, ${sides(k)} to the nodes`"
        @pointerdown="press($event, i)"
        @keydown="key($event, i)"
        @focus="focused = i"
        @blur="focused = undefined"
      >
        <rect class="hit" x="-22" y="-118" width="44" height="170" rx="6" fill="transparent" />
        <rect x="-6" y="-104" width="12" height="48" rx="5" fill="var(--terra)" />
        <path d="M-4 -56h8v88l-4 12q-4 -40 -4 -100z" fill="var(--water)" stroke="var(--ink)" stroke-width="1.3" />
        <text
          v-if="labelled(i)"
          :x="Math.min(Math.max(knifeX(i), 46), total - 46) - knifeX(i)"
          :y="narrow && i % 2 ? -127 : -112"
          text-anchor="middle"
          class="sides"
        >
          {{ sides(k) }}
        </text>
      </g>
      <g :transform="`translate(${margin},284)`"><MmRule v-if="!knives.length" :length="end" :scale="scale" /></g>
    </svg>
    <div v-if="total > width + 1 && plan.pieces.length" class="row under" role="group" aria-label="The pieces">
      <button v-for="(p, i) in plan.pieces" :key="i" type="button" class="chip" :aria-pressed="i === chosen" @click="chosen = i">
        <b class="code">{{ codeOf(p) }}</b> {{ p.refused ? 'never' : percent(p.chance) }}
      </button>
    </div>
    <div class="row under">
      <v-btn size="small" variant="outlined" @click="addKnife">Add a knife</v-btn>
      <v-btn
        v-if="focused !== undefined || picked !== undefined"
        size="small"
        variant="outlined"
        @click="removeKnife(focused ?? picked ?? 0)"
        >Take this knife away</v-btn
      >
      <span class="soft"
        >Drag a knife.
        <span class="keys">Arrow keys move it; Page Up and Down: next place of the school; Delete takes it away.</span> Pale ends
        dry back ({{ len(dieBack) }}).</span
      >
    </div>
  </div>
</template>

<style scoped>
.bench {
  overflow-x: auto;
}
svg {
  display: block;
  touch-action: pan-x;
}
.over {
  cursor: pointer;
  outline: none;
}
.over:focus-visible {
  stroke: var(--terra);
  stroke-width: 2.5;
}
.knife {
  cursor: ew-resize;
  outline: none;
  touch-action: none;
}
.knife:focus-visible .hit {
  stroke: var(--terra);
  stroke-width: 2.5;
}
.tagcode {
  font: 650 15px var(--mono);
  fill: var(--ink);
}
.chance {
  font: 700 23px var(--head) !important;
}
.sides {
  font: 550 13px var(--mono);
  fill: var(--ink);
}
.under {
  padding: 2px 4px;
  font-size: var(--beside);
}
.under > span {
  flex: 1 1 220px;
}
.chip {
  border: 1px solid var(--line);
  border-radius: var(--chip-corner);
  padding: 0 13px;
  min-height: var(--touch);
}
.chip[aria-pressed='true'] {
  border-color: var(--terra);
}
@media (max-width: 700px) {
  .tagcode {
    font-size: 13px;
  }
  .chance {
    font-size: 17px !important;
  }
  .keys {
    display: none;
  }
}
</style>
