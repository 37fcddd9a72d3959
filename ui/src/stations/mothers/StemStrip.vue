<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'

import LyingLeaf from '@/drawing/LyingLeaf.vue'
import MmRule from '@/drawing/MmRule.vue'
import OrganBody from '@/drawing/OrganBody.vue'
import { len } from '@/kit/units'
import { buds, budWord } from '@/kit/words'

import { addNode, moveNode, round, type StemDraft } from './stemDraft'

/** The stem as a form: click adds a node, drag and arrow keys move it, letters say what it bears. */
const { draft, taken } = defineProps<{ draft: StemDraft; taken: number[]; patterned: boolean }>()
const chosen = defineModel<number>('chosen', { required: true })
const emit = defineEmits<{ addAfter: []; remove: [] }>()

const box = useTemplateRef('box')
const svg = useTemplateRef<SVGSVGElement>('svg')
const { width } = useElementSize(box)
const margin = 26
/** Pixels a mm; a long stem scrolls sideways inside its strip rather than shrink below a thumb's width. */
const scale = computed(() => Math.max(0.9, (Math.max(320, width.value) - 2 * margin) / Math.max(120, draft.lengthMm)))
const px = (mm: number) => margin + mm * scale.value
const mid = 120
const t = computed(() =>
  Math.min(['clump', 'pups'].includes(draft.organ) ? 26 : 60, Math.max(12, draft.thicknessMm * scale.value)),
)
const leaf = computed(() => Math.min(92, Math.max(44, 46 * scale.value)))

const dragging = ref<number | 'end'>()
const mmAt = (e: PointerEvent | MouseEvent) => (e.clientX - (svg.value?.getBoundingClientRect().left ?? 0) - margin) / scale.value

function press(e: PointerEvent, what: number | 'end') {
  if (draft.organ === 'leaf') {
    if (typeof what === 'number') chosen.value = what
    return
  }
  dragging.value = what
  if (typeof what === 'number') chosen.value = what
  ;(e.currentTarget as Element).setPointerCapture(e.pointerId)
}
function drag(e: PointerEvent) {
  if (dragging.value === undefined) return
  if (dragging.value === 'end') draft.lengthMm = round(Math.max(mmAt(e), (draft.nodes.at(-1)?.at ?? 0) + 1))
  else moveNode(draft, dragging.value, mmAt(e))
}
function clickStem(e: MouseEvent) {
  if (draft.organ === 'leaf') return // its marks lie where its division puts them
  const at = addNode(draft, mmAt(e))
  if (at >= 0) chosen.value = at
}
function key(e: KeyboardEvent, i: number) {
  const node = draft.nodes[i]
  if (!node || e.ctrlKey || e.metaKey || e.altKey) return
  const by = e.shiftKey ? 10 : 1
  if (draft.organ === 'leaf' && e.key !== 'b') return
  const acts: Record<string, () => void> = {
    ArrowLeft: () => moveNode(draft, i, node.at - by),
    ArrowRight: () => moveNode(draft, i, node.at + by),
    ArrowUp: () => (chosen.value = Math.min(i + 1, draft.nodes.length - 1)),
    ArrowDown: () => (chosen.value = Math.max(i - 1, 0)),
    l: () => (node.leaf = !node.leaf),
    a: () => (node.aerial_root = !node.aerial_root),
    b: () => (node.bud = buds[(buds.indexOf(node.bud) + 1) % buds.length] ?? 'dormant'),
    n: () => emit('addAfter'),
    Delete: () => emit('remove'),
  }
  const act = acts[e.key.length === 1 ? e.key.toLowerCase() : e.key]
  if (!act) return
  e.preventDefault()
  act()
}
/** The chosen node has the focus, so that keys go on working after it moved or was added. */
watch(chosen, async (i) => {
  await nextTick()
  const el = svg.value?.querySelector<SVGElement>(`[data-node="${i}"]`)
  if (el && document.activeElement?.closest('input') === null) el.focus()
})
const says = (i: number) => {
  const n = draft.nodes[i]
  return n
    ? `${len(n.at)}, ${n.leaf ? 'leaf' : 'no leaf'}, ${n.aerial_root ? 'aerial root' : 'no aerial root'}, bud ${budWord[n.bud] ?? ''}`
    : ''
}
</script>

<template>
  <div ref="box" class="strip">
    <svg
      ref="svg"
      :width="px(draft.lengthMm) + margin"
      height="232"
      role="group"
      aria-label="Stem, base left, tip right"
      @pointermove="drag"
      @pointerup="dragging = undefined"
    >
      <template v-if="['stem', 'rhizome', 'runner', 'leaf'].includes(draft.organ)">
        <text :x="margin" :y="mid + 58" font-size="13" fill="var(--ink2)">base</text>
        <text :x="px(draft.lengthMm)" :y="mid + 58" font-size="13" text-anchor="end" fill="var(--ink2)">
          {{ draft.tipIntact || draft.organ === 'leaf' ? 'tip' : 'cut end' }}
        </text>
      </template>
      <g class="stem" @click="clickStem">
        <OrganBody
          :organ="draft.organ"
          :x="margin"
          :y="mid"
          :w="draft.lengthMm * scale"
          :t="t"
          :points="draft.nodes.map((n) => px(n.at))"
          :stays="false"
          :slant="false"
          first
          last
        />
      </g>
      <rect
        class="reach"
        :x="margin"
        :y="mid - 22"
        :width="draft.lengthMm * scale"
        height="44"
        fill="transparent"
        @click="clickStem"
      />
      <g
        v-for="(node, i) in draft.nodes"
        :key="i"
        :data-node="i"
        :transform="`translate(${px(node.at)},${mid})`"
        class="node"
        :class="{ chosen: i === chosen, gone: taken.includes(i + 1) }"
        role="slider"
        tabindex="0"
        :aria-label="`Node ${i + 1}`"
        :aria-valuenow="node.at"
        :aria-valuemin="0"
        :aria-valuemax="draft.lengthMm"
        :aria-valuetext="says(i)"
        @pointerdown="press($event, i)"
        @focus="chosen = i"
        @keydown="key($event, i)"
      >
        <LyingLeaf
          v-if="node.leaf"
          :transform="`translate(0,${-t / 2})`"
          :node="i + 1"
          :length="leaf * 0.8"
          :patterned="patterned"
        />
        <path
          v-if="node.aerial_root"
          :d="`M0 ${t / 2}q-2 10 4 20`"
          fill="none"
          stroke="#a5814f"
          stroke-width="3.5"
          stroke-linecap="round"
        />
        <path
          v-if="node.bud !== 'dormant'"
          :d="`M3 ${-t / 2}q8 -4 8 ${node.bud === 'swelling' ? -10 : -20}q4 10 -2 ${node.bud === 'swelling' ? 11 : 21}z`"
          fill="#a9c579"
          stroke="var(--stem-line)"
        />
        <rect x="-22" y="-22" width="44" height="44" fill="transparent" />
        <path
          v-if="node.stripe === 'some' || node.stripe === 'strong'"
          d="M-12 -2h24"
          stroke="var(--cream)"
          :stroke-width="node.stripe === 'strong' ? 7 : 3"
        />
        <path
          v-if="node.rooted"
          :d="`M0 ${t / 2}q-5 9 1 20M3 ${t / 2}q5 9 0 18`"
          fill="none"
          stroke="#a5814f"
          stroke-width="2.4"
        />
        <rect x="-3" :y="-t / 2 - 3" width="6" :height="t + 6" rx="3" fill="var(--node)" />
        <text :y="Math.max(46, t * 0.5 + 26)" text-anchor="middle" font-size="15" font-weight="650" fill="var(--ink)">
          {{ i + 1 }}
        </text>
      </g>
      <g
        class="node"
        :transform="`translate(${px(draft.lengthMm)},${mid})`"
        aria-hidden="true"
        @pointerdown="press($event, 'end')"
      >
        <rect x="-8" y="-22" width="30" height="44" fill="transparent" />
        <path d="M4 -9v18M8 -9v18" stroke="var(--terra)" stroke-width="2" />
      </g>
      <g :transform="`translate(${margin},${mid + 74})`"><MmRule :length="draft.lengthMm" :scale="scale" /></g>
    </svg>
  </div>
</template>

<style scoped>
@media (max-width: 700px) {
  .strip {
    position: sticky;
    top: var(--bar);
    z-index: 2;
  }
}
.strip {
  overflow-x: auto;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 14px;
}
svg {
  display: block;
  touch-action: pan-x;
}
.stem,
.reach {
  cursor: copy;
}
.node {
  cursor: ew-resize;
  outline: none;
  touch-action: none;
}
.node.gone {
  opacity: 0.4;
}
.node.chosen > rect:last-of-type {
  fill: var(--terra);
}
.node:focus-visible > rect:first-of-type {
  stroke: var(--terra);
  stroke-width: 2;
}
</style>
