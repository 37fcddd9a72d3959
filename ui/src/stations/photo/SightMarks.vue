<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { rootPaint } from '@/drawing/geometry'

import type { LookDraft, Pt } from './lookDraft'
import type { RootSeen } from './sighting'

/** What was seen in the photo, drawn on it: the tag, the edges of the vessel, the nodes, and roots that wait for a yes. */
const { draft, proposals, unit, tags, quiet, at, others } = defineProps<{
  draft: LookDraft
  proposals: RootSeen[]
  tags: { corners: Pt[]; payload: string }[]
  unit: number
  /** Other cuttings in the photo: their nodes are shown so that roots are not taken for this one's. */
  others: Schemas['OtherSeen'][]
  /** A tap means something else just now: nothing here takes it. */
  quiet: boolean
  /** Where a pointer is, in pixels of the photo. */
  at: (e: MouseEvent) => Pt
}>()
const emit = defineEmits<{ accept: [root: RootSeen]; before: [] }>()

const line = (p: Pt[]) => p.map((q, i) => `${i ? 'L' : 'M'}${q.x} ${q.y}`).join('')
const paint = (c: string) => rootPaint[c] ?? { fill: '#fffdf6', line: '#000' }
const nodes = computed(() => Object.entries(draft.nodesAt ?? {}).map(([n, p]) => ({ n: Number(n), p })))
const edges = computed(() => {
  const left = draft.edges?.left ?? draft.sight?.left
  const right = draft.edges?.right ?? draft.sight?.right
  return left && right ? { left, right } : undefined
})

/** Follows the pointer until it is let go. */
function drag(e: PointerEvent, move: (to: Pt) => void) {
  e.preventDefault()
  e.stopPropagation()
  emit('before')
  const target = e.currentTarget as Element
  target.setPointerCapture(e.pointerId)
  const on = (m: Event) => move(at(m as PointerEvent))
  target.addEventListener('pointermove', on)
  target.addEventListener('pointerup', () => target.removeEventListener('pointermove', on), { once: true })
}
/** Where an edge is at a height of the photo. */
const xAt = (s: Schemas['Stroke'], y: number) => s.a.x + ((s.b.x - s.a.x) * (y - s.a.y)) / (s.b.y - s.a.y || 1)
const water = computed(() => {
  const [y, e] = [draft.waterY, edges.value]
  return y === undefined || !e ? undefined : { y, left: xAt(e.left, y), right: xAt(e.right, y) }
})
function dragWater(e: PointerEvent) {
  drag(e, (to) => (draft.waterY = to.y))
}
function nudgeWater(e: KeyboardEvent) {
  const by = { ArrowUp: -2, ArrowDown: 2 }[e.key]
  if (!by || draft.waterY === undefined) return
  e.preventDefault()
  emit('before')
  draft.waterY += by
}
function dragNode(e: PointerEvent, n: number) {
  drag(e, (to) => {
    draft.nodesAt = { ...draft.nodesAt, [n]: to }
  })
}
function dragEdge(e: PointerEvent, side: 'left' | 'right', end: 'a' | 'b') {
  drag(e, (to) => {
    const now = edges.value
    if (!now) return
    draft.edges = { ...now, [side]: { ...now[side], [end]: { x: to.x, y: now[side][end].y } } }
  })
}
function nudge(e: KeyboardEvent, n: number) {
  const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key]
  const p = draft.nodesAt?.[n]
  if (!step || !p) return
  e.preventDefault()
  emit('before')
  draft.nodesAt = { ...draft.nodesAt, [n]: { x: p.x + (step[0] ?? 0) * 2, y: p.y + (step[1] ?? 0) * 2 } }
}
</script>

<template>
  <g fill="none" stroke-linejoin="round" stroke-linecap="round" :class="{ quiet }">
    <path v-for="(t, i) in tags" :key="i" :d="`${line(t.corners)}Z`" stroke="#2f6b4f" :stroke-width="2.5 * unit" />
    <template v-if="edges">
      <g v-for="side in ['left', 'right'] as const" :key="side" class="edge">
        <path
          :d="line([edges[side].a, edges[side].b])"
          stroke="#fffdf6"
          :stroke-width="2.5 * unit"
          :stroke-dasharray="`${7 * unit} ${6 * unit}`"
        />
        <circle
          v-for="end in ['a', 'b'] as const"
          :key="end"
          :cx="edges[side][end].x"
          :cy="edges[side][end].y"
          :r="9 * unit"
          fill="#1f2f2999"
          stroke="#fffdf6"
          :stroke-width="1.5 * unit"
          class="grip"
          :data-testid="`edge-${side}-${end}`"
          @pointerdown="dragEdge($event, side, end)"
          @click.stop
        />
      </g>
    </template>
    <g
      v-if="water"
      class="grip"
      role="button"
      tabindex="0"
      aria-label="The water's surface: drag it, or move it with the arrow keys"
      data-testid="water-line"
      @pointerdown="dragWater"
      @keydown="nudgeWater"
      @click.stop
    >
      <path
        :d="
          line([
            { x: water.left, y: water.y },
            { x: water.right, y: water.y },
          ])
        "
        stroke="transparent"
        :stroke-width="22 * unit"
      />
      <path
        :d="
          line([
            { x: water.left, y: water.y },
            { x: water.right, y: water.y },
          ])
        "
        stroke="#1f2f29"
        :stroke-width="4 * unit"
      />
      <path
        :d="
          line([
            { x: water.left, y: water.y },
            { x: water.right, y: water.y },
          ])
        "
        stroke="#7fd0e8"
        :stroke-width="2 * unit"
      />
    </g>
    <g
      v-for="(p, i) in proposals"
      :key="i"
      class="proposal"
      role="button"
      tabindex="0"
      :aria-label="`Take up the root proposed at node ${p.node}, ${Math.round(p.length.length_mm)} mm`"
      data-testid="proposal"
      @click.stop="emit('accept', p)"
      @keydown.enter.stop.prevent="emit('accept', p)"
      @keydown.space.stop.prevent="emit('accept', p)"
    >
      <path :d="line(p.path)" stroke="transparent" :stroke-width="18 * unit" />
      <path :d="line(p.path)" stroke="#1f2f29" :stroke-width="4.5 * unit" :opacity="0.35 + 0.5 * p.confidence" />
      <path
        :d="line(p.path)"
        :stroke="paint(p.colour ?? '').fill"
        :stroke-width="2.2 * unit"
        :stroke-dasharray="`${5 * unit} ${5 * unit}`"
        :opacity="0.35 + 0.6 * p.confidence"
      />
    </g>
    <g v-for="o in others" :key="o.cutting_id" class="other" data-testid="other">
      <template v-for="n in o.nodes" :key="n.node">
        <circle :cx="n.at.x" :cy="n.at.y" :r="9 * unit" stroke="#1f2f29" :stroke-width="4 * unit" />
        <circle :cx="n.at.x" :cy="n.at.y" :r="9 * unit" stroke="#fffdf6" :stroke-width="2 * unit" />
      </template>
      <text
        v-if="o.nodes[0]"
        :x="o.nodes[0].at.x + 14 * unit"
        :y="o.nodes[0].at.y + 5 * unit"
        :font-size="13 * unit"
        class="code"
        fill="#fffdf6"
        stroke="#1f2f29"
        :stroke-width="3 * unit"
      >
        {{ o.code }}
      </text>
    </g>
    <g
      v-for="{ n, p } in nodes"
      :key="n"
      class="grip"
      tabindex="0"
      role="button"
      :aria-label="`Node ${n}: drag it, or move it with the arrow keys`"
      @pointerdown="dragNode($event, n)"
      @keydown="nudge($event, n)"
      @click.stop
    >
      <circle :cx="p.x" :cy="p.y" :r="22 * unit" fill="transparent" />
      <circle :cx="p.x" :cy="p.y" :r="11 * unit" fill="#a8481f" stroke="#fffdf6" :stroke-width="2 * unit" />
      <text :x="p.x" :y="p.y + 5 * unit" text-anchor="middle" fill="#fffdf6" :font-size="14 * unit" class="n">{{ n }}</text>
    </g>
  </g>
</template>

<style scoped>
.grip {
  cursor: grab;
  touch-action: none;
}
.quiet {
  pointer-events: none;
}
.proposal {
  cursor: pointer;
}
.proposal:focus-visible,
.grip:focus-visible {
  outline: 3px solid var(--terra);
}
.other {
  pointer-events: none;
}
.other text {
  paint-order: stroke;
}
.n {
  font-family: var(--mono) !important;
  font-weight: 700;
  pointer-events: none;
}
</style>
