<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Cutting, Schemas } from '@/api/client'
import { leafBlade, leafLength, leafPattern } from '@/drawing/geometry'
import PieceDrawing from '@/drawing/PieceDrawing.vue'
import PotDrawing from '@/drawing/PotDrawing.vue'
import { pieceOf } from '@/drawing/pieceOf'
import LengthField from '@/kit/LengthField.vue'
import { shortDate } from '@/kit/dates'
import { len, said } from '@/kit/units'
import { count } from '@/kit/words'
import { placedIn, reach } from '@/stations/shelf/placing'

import type { TablePot } from './table'

/** One pot of the table: from the side and from above, to the scale of the table; who stands in it, and what pot it is. */
const { pot, cuttings, at, others, scale, materials, recipes } = defineProps<{
  pot: TablePot
  cuttings: Cutting[]
  /** Which of the pots it is, from 0; others are how the pots are called. */
  at: number
  others: string[]
  /** Pixels a mm. */
  scale: number
  materials: Schemas['MaterialRow'][]
  recipes: Schemas['MixRow'][]
}>()
const emit = defineEmits<{
  put: [id: string, to: number]
  off: [id: string]
  pot: [pot: Schemas['Pot']]
  mix: [key: string]
}>()

/** As they will stand. */
const standing = computed<Cutting[]>(() =>
  cuttings.map((c, i) => {
    const place = pot.places[i]
    return { ...c, pot: pot.pot, ...(place ? { stand: place } : {}) }
  }),
)
const placed = computed(() => placedIn(undefined, standing.value))
const tall = computed(() => reach(undefined, standing.value))
const half = computed(() => Math.max(pot.pot.top_mm / 2 + 18, 70))
const wide = computed(() => Math.ceil((half.value * 2) / 10) * 10)
const radius = computed(() => pot.pot.top_mm / 2)
const above = computed(() =>
  standing.value.map((c, i) => {
    const p = pieceOf(c)
    const s = pot.places[i]
    return {
      id: c.id,
      code: c.code,
      x: s?.x_mm ?? 0,
      y: -(s?.y_mm ?? 0),
      turn: -(s?.degrees ?? 0),
      leaf: Math.min(leafLength(p), radius.value * 0.8),
      crown: p.pose === 'crown',
      patterned: p.patterned,
      stake: s?.stake ?? false,
    }
  }),
)
const topHalf = computed(() => radius.value + (cuttings.length > 1 ? 24 : 12))
const active = ref('')
const held = ref('')
const mother = computed(() => {
  const names = [...new Set(cuttings.map((c) => c.mother_name))]
  return names.length === 1 ? names[0] : count(names.length, 'kind', 'kinds')
})
const material = computed(() => materials.find((m) => m.key === (pot.pot.material ?? 'plastic'))?.label ?? '')
const title = computed(
  () =>
    `${len(pot.pot.top_mm)} ${pot.pot.material === 'net' ? 'basket' : pot.pot.material === 'clay' ? 'clay pot' : 'pot'}, ${cuttings.length > 1 ? `${cuttings.length} of ` : ''}${mother.value}`,
)
const over = ref(false)
const drop = (e: DragEvent) => {
  over.value = false
  const id = e.dataTransfer?.getData('text/plain')
  if (id && !pot.plants.includes(id)) emit('put', id, at)
}
const lift = (e: DragEvent, id: string) => e.dataTransfer?.setData('text/plain', id)
const sized = (what: Partial<Schemas['Pot']>) => emit('pot', { ...pot.pot, ...what })
const to = (i: number) => {
  emit('put', held.value, i)
  held.value = ''
}
</script>

<template>
  <article
    class="pot"
    :class="{ over }"
    :aria-label="title"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="drop"
  >
    <h2>{{ title }}</h2>
    <svg
      :width="wide * scale"
      :height="(tall + 2) * scale"
      :viewBox="`${-wide / 2} ${-tall} ${wide} ${tall + 2}`"
      role="img"
      :aria-label="`From the side, to scale: ${len(pot.pot.top_mm)} across, ${len(pot.pot.depth_mm)} deep, roots at their measured length`"
    >
      <PotDrawing :pot="pot.pot" cut>
        <g v-for="p in placed" :key="p.cutting.id" :transform="`translate(${p.x},${-p.up})${p.flip ? ' scale(-1,1)' : ''}`">
          <line
            v-if="p.cutting.stand?.stake"
            x1="4"
            y1="6"
            x2="4"
            :y2="-Math.max(60, p.clear + 70)"
            stroke="var(--wood-ink)"
            stroke-width="1.6"
          />
          <g :opacity="active && active !== p.cutting.id ? 0.4 : 1">
            <PieceDrawing :piece="p.piece" :walls="p.walls" :clear="p.clear" />
          </g>
        </g>
      </PotDrawing>
    </svg>
    <div
      class="edge"
      :style="{ width: `${wide * scale}px`, backgroundSize: `${10 * scale}px 6px, ${50 * scale}px 11px` }"
      aria-hidden="true"
    ></div>
    <svg
      class="above"
      :width="topHalf * 2 * scale"
      :height="topHalf * 2 * scale"
      :viewBox="`${-topHalf} ${-topHalf} ${topHalf * 2} ${topHalf * 2}`"
      role="img"
      :aria-label="`From above: ${pot.says}`"
    >
      <circle :r="radius" fill="var(--mix-above)" stroke="var(--pot)" stroke-width="3" />
      <g
        v-for="p in above"
        :key="p.id"
        :transform="`translate(${p.x},${p.y}) rotate(${p.turn})`"
        :opacity="active && active !== p.id ? 0.35 : 1"
      >
        <g v-for="turn in p.crown ? [0, 120, 240] : [0]" :key="turn" :transform="`rotate(${turn})`">
          <path :d="leafBlade(p.leaf)" fill="var(--leaf)" stroke="var(--leaf-line)" stroke-width="0.8" />
          <path v-if="p.patterned" :d="leafPattern(p.leaf)" fill="var(--cream)" />
        </g>
        <circle r="4.4" fill="var(--node)" stroke="var(--stem-line)" stroke-width="0.6" />
        <circle v-if="p.stake" cx="-5" cy="5" r="1.8" fill="var(--wood-ink)" />
      </g>
    </svg>
    <p class="soft">{{ said(pot.says) }}</p>
    <p v-if="pot.alone" class="soft">{{ pot.alone }}</p>
    <p v-for="c in pot.cautions" :key="c" class="caution">{{ said(c) }}</p>
    <div class="row who" role="group" :aria-label="`In the ${title}`">
      <button
        v-for="(c, i) in cuttings"
        :key="c.id"
        type="button"
        class="choice"
        draggable="true"
        :aria-pressed="held === c.id"
        @dragstart="lift($event, c.id)"
        @mouseenter="active = c.id"
        @mouseleave="active = ''"
        @focus="active = c.id"
        @blur="active = ''"
        @click="held = held === c.id ? '' : c.id"
      >
        <span class="code">{{ c.code }}</span> {{ c.longest_mm ? len(c.longest_mm) : ''
        }}<span v-if="pot.places[i]?.stake" class="soft">, stake</span> <span class="sr">: where to?</span>
      </button>
    </div>
    <div v-if="held" class="row where" role="group" :aria-label="`Where ${cuttings.find((c) => c.id === held)?.code ?? ''} goes`">
      <template v-for="(name, i) in others" :key="i">
        <button v-if="i !== at" type="button" class="choice" @click="to(i)">to the {{ name }}</button>
      </template>
      <button v-if="cuttings.length > 1" type="button" class="choice" @click="to(others.length)">a pot of its own</button>
      <button type="button" class="choice" @click="emit('off', held)">off the table</button>
    </div>
    <details>
      <summary>{{ len(pot.pot.depth_mm) }} deep, {{ material }}, {{ Math.round(pot.mix_ml) }} ml: another pot or mix</summary>
      <div class="form">
        <LengthField :model-value="pot.pot.top_mm" label="Across" @changed="(v) => sized({ top_mm: v })" />
        <LengthField :model-value="pot.pot.bottom_mm" label="Bottom" @changed="(v) => sized({ bottom_mm: v })" />
        <LengthField :model-value="pot.pot.depth_mm" label="Depth" @changed="(v) => sized({ depth_mm: v })" />
        <v-select
          :model-value="pot.pot.material ?? 'plastic'"
          label="Made of"
          :items="materials.map((m) => ({ title: m.label, value: m.key }))"
          @update:model-value="(v: Schemas['MaterialRow']['key']) => sized({ material: v })"
        />
        <v-select
          :model-value="pot.mix"
          label="Mix"
          :items="recipes.map((m) => ({ title: m.label, value: m.key }))"
          @update:model-value="(v: string) => emit('mix', v)"
        />
        <label class="row"
          ><input type="checkbox" :checked="pot.pot.closed ?? false" @change="sized({ closed: !pot.pot.closed })" /> no hole in
          its bottom</label
        >
      </div>
    </details>
    <details>
      <summary>How, and why this pot</summary>
      <p>{{ said(pot.how) }}</p>
      <p v-for="r in pot.reasons" :key="r">{{ said(r) }}</p>
      <p v-for="(s, i) in pot.places.filter((p) => p.bury_mm > 0)" :key="i">
        {{ s.name }}: its base {{ len(s.bury_mm) }} below the surface{{
          s.stake ? '; steady it with a stake or a soft tie' : ''
        }}.
      </p>
    </details>
    <details>
      <summary>The weeks after</summary>
      <ul>
        <li v-for="s in pot.after" :key="s.day">
          <b>{{ shortDate(s.on) }}</b> {{ s.text }}
        </li>
      </ul>
    </details>
  </article>
</template>

<style scoped>
.pot {
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 14px;
  padding: 14px 16px;
  display: flex;
  flex-direction: column;
  gap: 8px;
  max-width: 100%;
}
.pot.over {
  border-color: var(--terra);
}
h2 {
  font-size: 17px;
}
svg {
  display: block;
  margin: 0 auto;
  max-width: 100%;
  height: auto;
  overflow: visible;
}
.edge {
  height: 13px;
  margin: -8px auto 0;
  max-width: 100%;
  border-top: 3px solid var(--wood);
  background-repeat: repeat-x;
  background-image:
    linear-gradient(90deg, var(--wood) 1px, transparent 1px), linear-gradient(90deg, var(--wood-ink) 1px, transparent 1px);
}
p,
ul {
  margin: 0;
}
ul {
  padding-left: 18px;
}
.who,
.where {
  gap: 6px;
}
.form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(120px, 1fr));
  gap: 10px;
  padding-top: 8px;
}
details > p {
  margin-top: 6px;
}
summary {
  min-height: 28px;
  cursor: pointer;
}
@media (max-width: 700px) {
  summary {
    min-height: var(--touch);
    padding: 9px 0;
  }
}
</style>
