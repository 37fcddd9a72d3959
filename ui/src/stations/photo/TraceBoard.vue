<script setup lang="ts">
import { onKeyStroke, useElementSize } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'

import { rootPaint } from '@/drawing/geometry'

import { photoUrl, type Schemas } from '@/api/client'
import { shortDate } from '@/kit/dates'

import { rootKey, type BoardMode, type LookDraft, type Lengths, type Pt } from './lookDraft'
import type { Act, RootSeen } from './sighting'
import SightMarks from './SightMarks.vue'

/** The photo with its scale and traces on it. Clicks set points; everything else is a word on a button. */
const { draft, src, lengths, words, nextNode, tags, earlier } = defineProps<{
  draft: LookDraft
  src: string
  lengths: Lengths
  nodes: number
  proposals: RootSeen[]
  tags: { corners: Pt[]; payload: string }[]
  nextNode: number | undefined
  following: boolean
  words: { point: string }
  /** The last photo of the piece, and other cuttings in this one. */
  earlier: Schemas['BeforeSeen'] | undefined
  others: Schemas['OtherSeen'][]
}>()
const emit = defineEmits<{ tap: [at: Pt]; accept: [root: RootSeen] }>()
const mode = defineModel<BoardMode>('mode', { required: true })
const act = defineModel<Act>('act', { required: true })
const chosen = defineModel<string | undefined>('chosen')

const w = computed(() => draft.photo?.width_px ?? 1)
const h = computed(() => draft.photo?.height_px ?? 1)
const zoom = ref(1)
const tracing = ref<string>()
const svg = useTemplateRef<SVGSVGElement>('svg')

const board = useTemplateRef('board')
/** Opens a tall photo where its traces are, else where its tag is: the vessel is beside it. */
function showTraces() {
  const ys = [...draft.roots.flatMap((r) => r.path), ...Object.values(draft.nodesAt ?? {})].map((p) => p.y)
  if (!ys.length) ys.push(...tags.flatMap((t) => t.corners.map((c) => c.y)))
  if (!board.value || !ys.length) return
  const middle = (Math.min(...ys) + Math.max(...ys)) / 2 / h.value
  board.value.scrollTop = middle * board.value.scrollHeight - board.value.clientHeight / 2
}

watch(
  () => tags.length,
  () => showTraces(),
)

/** What can be taken back, newest last. */
const undo = ref<(() => void)[]>([])
/** Remembers how roots, nodes and edges are, to be taken back to. */
function before() {
  const was = JSON.stringify({
    roots: draft.roots,
    nodesAt: draft.nodesAt,
    edges: draft.edges,
    left: draft.left,
    waterY: draft.waterY,
  })
  undo.value.push(() => {
    const d = draft
    for (const key of ['nodesAt', 'edges', 'left', 'waterY'] as const) Reflect.deleteProperty(d, key)
    Object.assign(d, JSON.parse(was))
  })
}
defineExpose({ before })
const chosenRoot = computed(() => draft.roots.find((r) => r.key === chosen.value && r.path.length > 1 && !r.typed))
const acts: { act: Act; label: string; say: string }[] = [
  { act: 'tip', label: 'Move its tip', say: 'Tap where its tip is.' },
  { act: 'pass', label: 'Pass here', say: 'Tap a spot the root runs through.' },
  { act: 'cut', label: 'Cut off', say: 'Tap where it ends: what lies beyond is taken off.' },
]
function drop() {
  before()
  const i = draft.roots.findIndex((r) => r.key === chosen.value)
  if (i >= 0) draft.roots.splice(i, 1)
  chosen.value = undefined
  act.value = ''
}
function accept(p: RootSeen) {
  before()
  emit('accept', p)
}
/** How the last photo is shown: over this one, coming and going; or beside it, as large and at the same place. */
const last = ref<'' | 'blink' | 'beside'>('')
watch(
  () => earlier?.photo_id,
  () => (last.value = ''),
)
const measures = computed(() => mode.value === 'nodes' || mode.value === 'roots')

const at = (e: MouseEvent): Pt => {
  const box = svg.value?.getBoundingClientRect()
  if (!box) return { x: 0, y: 0 }
  const x = ((e.clientX - box.left) / box.width) * w.value
  const y = ((e.clientY - box.top) / box.height) * h.value
  return { x: Math.round(x * 10) / 10, y: Math.round(y * 10) / 10 }
}

function click(e: MouseEvent) {
  const p = at(e)
  if (mode.value === 'nodes' && nextNode !== undefined) {
    before()
    draft.nodesAt = { ...draft.nodesAt, [nextNode]: p }
    return
  }
  if (measures.value) {
    if (!draft.sight) return
    before()
    emit('tap', p)
    return
  }
  if (mode.value === 'scale') {
    const before = { ...draft.scale }
    if (!draft.scale.a || draft.scale.b) Object.assign(draft.scale, { a: p, b: undefined })
    else draft.scale.b = p
    undo.value.push(() => Object.assign(draft.scale, { a: before.a, b: before.b }))
    if (draft.scale.a && draft.scale.b) mode.value = 'trace'
    return
  }
  let root = draft.roots.find((r) => r.key === tracing.value)
  if (!root) {
    root = {
      key: rootKey(),
      node: draft.roots.at(-1)?.node ?? 1,
      order: 1,
      colour: draft.roots.at(-1)?.colour ?? '',
      path: [],
      typed: false,
      typedMm: null,
    }
    draft.roots.push(root)
    tracing.value = root.key
    chosen.value = root.key
  }
  root.path.push(p)
  const key = root.key
  undo.value.push(() => {
    const r = draft.roots.find((x) => x.key === key)
    r?.path.pop()
    if (r && r.path.length === 0) {
      draft.roots.splice(draft.roots.indexOf(r), 1)
      if (tracing.value === key) tracing.value = undefined
    } else if (r) tracing.value = key
  })
}
/** A tap on a line that is there chooses it, unless a tap means something else. */
function choose(e: MouseEvent, key: string) {
  if (!measures.value || act.value) return
  e.stopPropagation()
  chosen.value = chosen.value === key ? undefined : key
}
function finish() {
  const i = draft.roots.findIndex((r) => r.key === tracing.value)
  if (i >= 0 && (draft.roots[i]?.path.length ?? 0) < 2) draft.roots.splice(i, 1)
  tracing.value = undefined
}
function takeBack() {
  undo.value.pop()?.()
}
onKeyStroke(['Enter', 'Backspace'], (e) => {
  if (e.target instanceof HTMLElement && e.target.closest('input, textarea, button, [role=listbox]')) return
  e.preventDefault()
  if (e.key === 'Enter') finish()
  else takeBack()
})
const line = (p: Pt[]) => p.map((q, i) => `${i ? 'L' : 'M'}${q.x} ${q.y}`).join('')
/** How many pixels of the photo a pixel of the screen is, about: lines and grips are as large on a phone. */
const { width: shown } = useElementSize(board)
const unit = computed(() => w.value / (shown.value || 600) / Math.sqrt(zoom.value))
const paint = (c: string) => rootPaint[c] ?? { fill: '#fffdf6', line: '#000' }
</script>

<template>
  <div class="stack">
    <div class="row bar">
      <v-btn size="small" variant="outlined" :disabled="!undo.length" @click="takeBack">Take back</v-btn>
      <v-btn v-if="!measures" size="small" color="primary" :disabled="!tracing" @click="finish">Finish this root</v-btn>
      <template v-if="measures && chosenRoot && draft.sight">
        <v-btn
          v-for="a in acts"
          :key="a.act"
          size="small"
          :variant="act === a.act ? 'flat' : 'outlined'"
          :color="act === a.act ? 'secondary' : undefined"
          :aria-pressed="act === a.act"
          @click="act = act === a.act ? '' : a.act"
          >{{ a.label }}</v-btn
        >
        <v-btn size="small" variant="outlined" @click="drop">Delete it</v-btn>
      </template>
      <span class="push row">
        <template v-if="earlier">
          <span class="soft">{{ shortDate(earlier.looked_at) }}:</span>
          <v-btn
            v-for="[how, label] in [
              ['blink', 'blink'],
              ['beside', 'beside'],
            ] as const"
            :key="how"
            size="small"
            :variant="last === how ? 'flat' : 'outlined'"
            :color="last === how ? 'secondary' : undefined"
            :aria-pressed="last === how"
            @click="last = last === how ? '' : how"
            >{{ label }}</v-btn
          >
        </template>
        <v-btn size="small" variant="outlined" aria-label="Smaller" :disabled="zoom <= 1" @click="zoom = Math.max(1, zoom / 1.5)"
          >&minus;</v-btn
        >
        <v-btn size="small" variant="outlined" aria-label="Larger" :disabled="zoom >= 6" @click="zoom = Math.min(6, zoom * 1.5)"
          >+</v-btn
        >
      </span>
    </div>
    <p class="soft say" role="status">
      <template v-if="measures && nextNode !== undefined">Tap {{ words.point }} {{ nextNode }}.</template>
      <template v-else-if="measures && following">Following the root &hellip;</template>
      <template v-else-if="measures && act">{{ acts.find((a) => a.act === act)?.say }}</template>
      <template v-else-if="measures && draft.sight"
        >Tap the tip of a root: its line runs to its {{ words.point }}. Tap a dashed line to take it up.</template
      >
      <template v-else-if="measures">Looking at the photo.</template>
      <template v-else-if="mode === 'scale'">{{
        draft.scale.a && !draft.scale.b ? 'Now the second point.' : 'Click the first of two points a known distance apart.'
      }}</template>
      <template v-else-if="tracing">Click along the root to its tip, then finish it.</template>
      <template v-else>Click where a root leaves its node to begin the next one.</template>
    </p>
    <p v-if="earlier && last" class="soft say">
      {{
        earlier.aligned
          ? 'Laid on this photo by the tag: what grew is what moved.'
          : 'No tag is in both photos: it is only made as wide as this one.'
      }}
    </p>
    <div ref="board" class="board" :class="{ halves: last === 'beside' }">
      <div v-if="earlier && last === 'beside'" :style="{ width: `${zoom * 50}%` }" class="sheet">
        <svg
          class="then"
          data-testid="then"
          :viewBox="`0 0 ${w} ${h}`"
          role="img"
          :aria-label="`Its photo of ${shortDate(earlier.looked_at)}`"
        >
          <image
            :href="photoUrl(earlier.photo_id, 1600)"
            :width="earlier.width_px"
            :height="earlier.height_px"
            :transform="`matrix(${earlier.matrix.join(' ')})`"
          />
        </svg>
      </div>
      <div :style="{ width: `${zoom * (last === 'beside' ? 50 : 100)}%` }" class="sheet">
        <img :src="src" alt="The photo to measure" :width="w" :height="h" @load="showTraces" />
        <svg ref="svg" data-testid="board" :viewBox="`0 0 ${w} ${h}`" @click="click">
          <image
            v-if="earlier && last === 'blink'"
            class="blink"
            data-testid="blink"
            :href="photoUrl(earlier.photo_id, 1600)"
            :width="earlier.width_px"
            :height="earlier.height_px"
            :transform="`matrix(${earlier.matrix.join(' ')})`"
          />
          <g
            v-for="r in draft.roots"
            :key="r.key"
            fill="none"
            stroke-linejoin="round"
            stroke-linecap="round"
            :opacity="chosen && chosen !== r.key ? 0.65 : 1"
            @click="choose($event, r.key)"
          >
            <path :d="line(r.path)" :stroke="chosen === r.key ? '#a8481f' : '#1f2f29'" :stroke-width="5 * unit" />
            <path :d="line(r.path)" :stroke="paint(r.colour).fill" :stroke-width="2.4 * unit" />
            <template v-if="tracing === r.key">
              <circle v-for="(p, i) in r.path" :key="i" :cx="p.x" :cy="p.y" :r="3.5 * unit" fill="#a8481f" />
            </template>
            <text
              v-if="r.path.length && (lengths.get(r.key) || r.known) && (r.order === 1 || chosen === r.key)"
              :x="(r.path.at(-1)?.x ?? 0) + 8 * unit"
              :y="r.path.at(-1)?.y"
              class="len"
              :font-size="17 * unit"
              :stroke-width="4 * unit"
            >
              {{ Math.round((r.known ?? lengths.get(r.key))?.length_mm ?? 0) }} mm
            </text>
          </g>
          <SightMarks
            v-if="measures"
            :draft="draft"
            :proposals="proposals"
            :tags="tags"
            :unit="unit"
            :quiet="Boolean(act) || nextNode !== undefined"
            :at="at"
            :others="others"
            @accept="accept"
            @before="before"
          />
          <g v-if="draft.scale.a" stroke="#a8481f" :stroke-width="2.4 * unit" fill="none">
            <path v-if="draft.scale.b" :d="line([draft.scale.a, draft.scale.b])" />
            <circle
              v-for="(p, i) in [draft.scale.a, ...(draft.scale.b ? [draft.scale.b] : [])]"
              :key="i"
              :cx="p.x"
              :cy="p.y"
              :r="8 * unit"
            />
          </g>
        </svg>
      </div>
    </div>
  </div>
</template>

<style scoped>
.board {
  overflow: auto;
  max-height: 74vh;
  border-radius: 12px;
  background: var(--card);
}
.sheet {
  position: relative;
}
.halves {
  display: flex;
  align-items: flex-start;
  gap: 4px;
}
.halves .sheet {
  flex: none;
}
.sheet svg.then {
  position: static;
  display: block;
  height: auto;
  cursor: default;
}
.blink {
  animation: blink 1.6s steps(1) infinite;
}
@keyframes blink {
  50% {
    opacity: 0;
  }
}
/* Who wants no movement sees both at once. */
@media (prefers-reduced-motion: reduce) {
  .blink {
    animation: none;
    opacity: 0.5;
  }
}
.sheet img {
  width: 100%;
  height: auto;
  display: block;
}
.sheet svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  cursor: crosshair;
  touch-action: pan-x pan-y;
}
.len {
  font-family: var(--mono) !important;
  font-weight: 650;
  fill: #fff;
  stroke: #1f2f29;
  paint-order: stroke;
}
.say {
  margin: 0;
}
</style>
