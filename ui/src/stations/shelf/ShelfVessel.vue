<script setup lang="ts">
import { computed, useTemplateRef, type Component } from 'vue'
import { useRouter } from 'vue-router'

import type { Cutting, Schemas, Vessel } from '@/api/client'
import PieceDrawing from '@/drawing/PieceDrawing.vue'
import PotDrawing from '@/drawing/PotDrawing.vue'
import VesselDrawing from '@/drawing/VesselDrawing.vue'
import { closedUntil } from '@/kit/closed'
import { shortDate } from '@/kit/dates'
import { useNear } from '@/kit/near'
import PaperTag from '@/kit/PaperTag.vue'
import { len, said } from '@/kit/units'

import CuttingNumbers from './CuttingNumbers.vue'
import DueMark from './DueMark.vue'
import { placedIn } from './placing'

/** One vessel, or one pot, with what stands in it, to scale on its piece of the plank; its tags below. */
const { vessel, stop, cuttings, scale, heightMm, eager } = defineProps<{
  vessel?: Vessel
  /** What is due at it, once that is known. */
  stop?: Schemas['Stop'] | undefined
  cuttings: Cutting[]
  scale: number
  heightMm: number
  /** In a room that is not crowded everything is drawn in the end; in a crowded one what comes near the screen. */
  eager: boolean
}>()
const active = defineModel<string | undefined>('active')
const router = useRouter()
const near = useNear(useTemplateRef<HTMLElement>('box'), eager)

const pot = computed(() => cuttings[0]?.pot)
const width = computed(() => vessel?.width_mm ?? pot.value?.top_mm ?? 90)
const tagColumns = computed(() => (cuttings.length > 2 ? (cuttings.length > 6 ? 3 : 2) : 1))
/** A slot is whole centimetres wide, so that the rule runs on from one to the next. */
const slotMm = computed(() => Math.ceil(Math.max(width.value + 40, (tagColumns.value * 134 + 8) / scale) / 10) * 10)

const placed = computed(() => placedIn(vessel, cuttings))
const holder = computed<Record<string, unknown>>(() =>
  vessel
    ? {
        vessel: stop ? { ...vessel, cover: stop.cover } : vessel,
        seen: stop?.seen ?? [],
        uncovered: cuttings.length > 0 && cuttings.every((c) => c.uncovered),
      }
    : { pot: pot.value },
)
const closed = computed(() => closedUntil(cuttings))
const name = computed(() => vessel?.name ?? `${len(pot.value?.top_mm ?? 0)} pot`)
</script>

<template>
  <figure ref="box" :style="{ width: `${slotMm * scale}px` }">
    <svg
      :width="slotMm * scale"
      :height="heightMm * scale"
      :viewBox="`${-slotMm / 2} ${-heightMm} ${slotMm} ${heightMm}`"
      role="img"
      :aria-label="`${name}: ${cuttings.map((c) => `${c.code}, ${said(c.judgement.sentence)}`).join(' ') || 'empty'}`"
    >
      <component :is="(vessel ? VesselDrawing : PotDrawing) as Component" v-if="near" v-bind="holder">
        <g
          v-for="p in placed"
          :key="p.cutting.id"
          :transform="`translate(${p.x},${-p.up})${p.flip ? ' scale(-1,1)' : ''}`"
          class="piece"
          :class="{ dim: active && active !== p.cutting.id && cuttings.some((c) => c.id === active) }"
          @mouseenter="active = p.cutting.id"
          @mouseleave="active = undefined"
          @click="router.push({ name: 'cutting', params: { id: p.cutting.id } })"
        >
          <PieceDrawing :piece="p.piece" :walls="p.walls" :clear="p.clear" />
        </g>
      </component>
    </svg>
    <div class="edge" :style="{ backgroundSize: `${10 * scale}px 6px, ${50 * scale}px 11px` }" aria-hidden="true"></div>
    <figcaption>
      <router-link v-if="vessel" :to="{ name: 'vessel', params: { id: vessel.id } }" :aria-label="`${name}: its page`">{{
        name
      }}</router-link><template v-else>{{ name }}</template>
      <small v-if="closed" class="closed"
        >{{ cuttings.every((c) => c.uncovered) ? 'leave alone' : 'closed' }} until {{ shortDate(closed) }}</small
      >
      <DueMark v-if="vessel && stop" :stop="stop" :vessel="vessel" />
    </figcaption>
    <div class="tags" :style="{ minHeight: `${Math.ceil(cuttings.length / tagColumns) * 49 + 3}px` }">
      <div
        v-for="c in eager || near ? cuttings : []"
        :key="c.id"
        @mouseenter="active = c.id"
        @mouseleave="active = undefined"
        @focusin="active = c.id"
        @focusout="active = undefined"
      >
        <PaperTag :cutting="c" :active="active === c.id" />
        <CuttingNumbers v-if="active === c.id" :cutting="c" />
      </div>
    </div>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  display: flex;
  flex-direction: column;
  position: relative;
}
svg {
  display: block;
  overflow: visible;
}
.piece {
  cursor: pointer;
  transition: opacity 0.15s;
}
.piece.dim {
  opacity: 0.45;
}
.edge {
  height: 15px;
  border-top: 3px solid var(--wood);
  background-repeat: repeat-x;
  background-image:
    linear-gradient(90deg, var(--wood) 1px, transparent 1px), linear-gradient(90deg, var(--wood-ink) 1px, transparent 1px);
}
figcaption {
  font-size: 13px;
  color: var(--ink2);
  text-align: center;
  padding: 0 4px 4px;
}
figcaption a {
  display: inline-block;
  min-height: 24px;
  color: inherit;
  text-decoration: none;
}
@media (max-width: 700px) {
  figcaption a {
    line-height: var(--touch);
    min-width: var(--touch);
  }
}
figcaption a:hover {
  text-decoration: underline;
}
.tags {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  justify-content: center;
  padding-bottom: 8px;
}
.tags > div {
  position: relative;
}
.closed {
  display: block;
  font-size: 12.5px;
  color: var(--ink2);
}
</style>
