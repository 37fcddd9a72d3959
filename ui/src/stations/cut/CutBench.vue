<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'

import type { Plan, Schemas, Stem } from '@/api/client'
import LyingLeaf from '@/drawing/LyingLeaf.vue'
import MmRule from '@/drawing/MmRule.vue'
import { percent } from '@/kit/words'

/** The stem on the bench, base left: knives to drag, pieces lifted apart with their chance beneath. */
const { stem, letter, taken, plan } = defineProps<{
  stem: Stem
  letter: string
  taken: number[]
  plan: Plan
  patterned: boolean
}>()
const chosen = defineModel<number>('chosen', { required: true })
const emit = defineEmits<{ knives: [mm: number[]] }>()

const box = useTemplateRef('box')
const svg = useTemplateRef<SVGSVGElement>('svg')
const { width } = useElementSize(box)
const gap = 30

const dragging = ref<number>()
/** The knives as the hand has them; the answer for them follows. */
const knives = ref<number[]>([])
watch(
  () => plan.knives_mm,
  (k) => {
    if (dragging.value === undefined) knives.value = [...k]
  },
  { immediate: true },
)

const nodes = computed(() => {
  let at = 0
  return stem.nodes.map((node, i) => ({ n: i + 1, at: (at += node.below_mm), node }))
})
const whole = computed(() => (nodes.value.at(-1)?.at ?? 0) + stem.beyond_mm)
const lowestTaken = computed(() => Math.min(Infinity, ...taken))
const end = computed(() => {
  const first = nodes.value.find((n) => n.n === lowestTaken.value)
  return first ? ((nodes.value[first.n - 2]?.at ?? 0) + first.at) / 2 : whole.value
})
const margin = 30
const scale = computed(() =>
  Math.max(1.1, (Math.max(330, width.value) - 2 * margin - gap * knives.value.length) / Math.max(60, end.value)),
)
const total = computed(() => end.value * scale.value + gap * knives.value.length + 2 * margin)
const t = computed(() => Math.max(13, stem.thickness_mm * scale.value))
const leaf = computed(() => Math.min(84, Math.max(40, 40 * scale.value)))
const mid = 168

const parts = computed(() => {
  const cuts = [0, ...knives.value, end.value]
  return cuts.slice(0, -1).map((from, i) => {
    const to = cuts[i + 1] ?? end.value
    const shift = margin + gap * i
    return {
      i,
      from,
      to,
      x: from * scale.value + shift,
      w: Math.max(2, (to - from) * scale.value),
      lift: i * 7,
      nodes: nodes.value
        .filter((n) => n.at >= from && n.at < to && n.n < lowestTaken.value)
        .map((n) => ({ ...n, x: n.at * scale.value + shift })),
      piece: i > 0 ? plan.pieces[i - 1] : undefined,
    }
  })
})
const codeOf = (p: Schemas['Piece']) =>
  p.last < p.first ? 'no node' : `${letter}${p.first}${p.last > p.first ? `-${p.last}` : ''}${p.kind === 'tip' ? ' tip' : ''}`
const knifeX = (i: number) => (knives.value[i] ?? 0) * scale.value + margin + gap * i + gap / 2
const sides = (k: number) => {
  const below = nodes.value.filter((n) => n.at <= k).at(-1)?.at ?? 0
  const above = nodes.value.find((n) => n.at > k)?.at ?? end.value
  return `${Math.round(k - below)} | ${Math.round(above - k)} mm`
}

function press(e: PointerEvent, i: number) {
  dragging.value = i
  ;(e.currentTarget as Element).setPointerCapture(e.pointerId)
}
function moved(i: number, to: number) {
  const low = (knives.value[i - 1] ?? -1) + 1
  const high = (knives.value[i + 1] ?? end.value) - 1
  knives.value[i] = Math.round(Math.min(Math.max(to, low), high) * 2) / 2
  emit('knives', [...knives.value])
}
function drag(e: PointerEvent) {
  const i = dragging.value
  if (i === undefined) return
  const x = e.clientX - (svg.value?.getBoundingClientRect().left ?? 0)
  moved(i, (x - margin - gap * i - gap / 2) / scale.value)
}
function key(e: KeyboardEvent, i: number) {
  const by = e.shiftKey ? 10 : 1
  const at = knives.value[i] ?? 0
  if (e.key === 'ArrowLeft') moved(i, at - by)
  else if (e.key === 'ArrowRight') moved(i, at + by)
  else if (e.key === 'Delete' || e.key === 'Backspace') removeKnife(i)
  else return
  e.preventDefault()
}
function removeKnife(i: number) {
  knives.value.splice(i, 1)
  emit('knives', [...knives.value])
}
/** A new knife goes into the middle of the longest part that still has two nodes, else at the base. */
async function addKnife() {
  const part = [...parts.value].sort((a, b) => b.nodes.length - a.nodes.length)[0]
  const inner = part?.nodes ?? []
  const half = Math.floor(inner.length / 2)
  const at = inner.length > 1 ? ((inner[half - 1]?.at ?? 0) + (inner[half]?.at ?? 0)) / 2 : end.value / 2
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
      height="330"
      role="group"
      aria-label="The stem on the bench, base left"
      @pointermove="drag"
      @pointerup="dragging = undefined"
    >
      <g
        v-for="p in parts"
        :key="p.i"
        :transform="`translate(0,${-p.lift})`"
        :class="{ piece: p.piece, chosen: p.i - 1 === chosen }"
      >
        <g v-for="n in p.nodes" :key="n.n">
          <LyingLeaf
            v-if="n.node.leaf"
            :transform="`translate(${n.x},${mid - t / 2})`"
            :node="n.n"
            :length="leaf"
            :patterned="patterned"
            :strip="p.piece?.strip.includes(n.n) ?? false"
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
        <rect
          :x="p.x"
          :y="mid - t / 2"
          :width="p.w"
          :height="t"
          rx="3"
          :fill="p.piece ? 'var(--stem)' : 'var(--dry)'"
          stroke="var(--stem-line)"
        />
        <template v-if="p.piece">
          <rect
            :x="p.x"
            :y="mid - t / 2 + 1"
            :width="Math.min(p.w / 2, 10 * scale)"
            :height="t - 2"
            fill="var(--dry)"
            opacity="0.75"
          />
          <rect
            v-if="p.piece.kind !== 'tip'"
            :x="p.x + p.w - Math.min(p.w / 2, 10 * scale)"
            :y="mid - t / 2 + 1"
            :width="Math.min(p.w / 2, 10 * scale)"
            :height="t - 2"
            fill="var(--dry)"
            opacity="0.75"
          />
        </template>
        <g v-for="n in p.nodes" :key="`n${n.n}`">
          <rect :x="n.x - 3" :y="mid - t / 2 - 3" width="6" :height="t + 6" rx="3" fill="var(--node)" />
          <text :x="n.x - 8" :y="mid + t / 2 + 20" text-anchor="middle" font-size="14" fill="var(--ink2)">{{ n.n }}</text>
        </g>
        <template v-if="p.piece">
          <path
            :d="`M${p.x} ${mid + 42}v7h${p.w}v-7`"
            fill="none"
            :stroke="p.i - 1 === chosen ? 'var(--terra)' : 'var(--wood)'"
            :stroke-width="p.i - 1 === chosen ? 2.5 : 1.2"
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
          <text :x="p.x + p.w / 2" :y="mid + 116" text-anchor="middle" font-size="12.5" fill="var(--ink2)">
            this end up &rarr;
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
            :aria-pressed="p.i - 1 === chosen"
            :aria-label="`Piece ${codeOf(p.piece)}, chance ${percent(p.piece.chance)}`"
            @click="chosen = p.i - 1"
            @keydown.enter="chosen = p.i - 1"
          />
        </template>
        <text v-else :x="p.x + p.w / 2" :y="mid + 62" text-anchor="middle" font-size="14" fill="var(--ink2)">stays</text>
      </g>
      <g
        v-for="(k, i) in knives"
        :key="`k${i}`"
        class="knife"
        :data-knife="i"
        :transform="`translate(${knifeX(i)},${mid - 7 * i})`"
        role="slider"
        tabindex="0"
        :aria-label="`Knife ${i + 1}`"
        :aria-valuenow="k"
        :aria-valuemin="0"
        :aria-valuemax="end"
        :aria-valuetext="`${Math.round(k)} mm from the base, ${sides(k)} to the nodes`"
        @pointerdown="press($event, i)"
        @keydown="key($event, i)"
      >
        <rect class="hit" x="-22" y="-118" width="44" height="170" rx="6" fill="transparent" />
        <rect x="-6" y="-104" width="12" height="48" rx="5" fill="var(--terra)" />
        <path d="M-4 -56h8v88l-4 12q-4 -40 -4 -100z" fill="var(--water)" stroke="var(--ink)" stroke-width="1.3" />
        <text y="-112" text-anchor="middle" class="sides">{{ sides(k) }}</text>
      </g>
      <g :transform="`translate(${margin},302)`"><MmRule v-if="!knives.length" :length="end" :scale="scale" /></g>
    </svg>
    <div class="row under">
      <v-btn size="small" variant="outlined" @click="addKnife">Add a knife</v-btn>
      <span class="soft"
        >Drag a knife, or choose it and use the arrow keys; Delete takes it away. Pale ends are expected to dry back (5 to 15
        mm).</span
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
}
</style>
