<script setup lang="ts">
import { computed } from 'vue'

import type { Cutting, Schemas, Vessel } from '@/api/client'
import { useHandbook, useShelf, useTrySetting } from '@/api/queries'
import { said } from '@/kit/units'
import VesselScene from '@/stations/round/VesselScene.vue'

import type { Fresh } from './VesselForm.vue'

/** One vessel with the pieces that are to stand in it, to scale, and how they are set there. */
const { vessel, pieces, setNodes } = defineProps<{
  /** A vessel that is here, or a new one. */
  vessel: Vessel | Fresh
  pieces: Cutting[]
  setNodes: Record<string, number>
}>()
const emit = defineEmits<{ level: [mm: number] }>()
const { data: shelf } = useShelf()
const { data: book } = useHandbook()
const here = computed(() => ('id' in vessel ? (vessel as Vessel) : undefined))
const sort = computed(() => book.value?.vessels.find((s) => s.kind === vessel.kind))
const medium = computed(() => book.value?.media.find((m) => m.medium === vessel.medium))
const wish = computed<Schemas['SettingWish'] | undefined>(() => {
  if (!medium.value || !(vessel.width_mm > 0 && vessel.height_mm > vessel.fill_mm)) return undefined
  const list = pieces.map((p) => ({ cutting_id: p.id, set_nodes: setNodes[p.id] ?? 0 }))
  if (here.value) return { vessel_id: here.value.id, pieces: list }
  const { kind, medium: of, width_mm, height_mm, wall_mm, fill_mm, holds } = vessel
  const depth_mm = sort.value?.round ? width_mm : vessel.depth_mm
  return { vessel: { kind, medium: of, width_mm, depth_mm, height_mm, wall_mm, fill_mm, holds }, pieces: list }
})
const { data: answer, error } = useTrySetting(wish)
const drawn = computed<Vessel | undefined>(() => {
  if (here.value) return here.value
  const s = sort.value
  if (!s || !(vessel.width_mm > 0 && vessel.height_mm > 0)) return undefined
  const usual = (medium.value?.cover ? s.covers[0] : s.covers.at(-1))?.state ?? 'off'
  return {
    ...vessel,
    id: 'new',
    place_id: '',
    tag: '',
    shape: s.shape,
    floor_mm: s.floor_mm,
    taper: s.taper,
    round: s.round,
    clear: !medium.value?.hidden,
    cover_usual: usual,
  } as Vessel
})
const all = computed(() => [
  ...(shelf.value?.cuttings.filter(
    (c) => c.where === 'vessel' && c.vessel_id === here.value?.id && !pieces.some((p) => p.id === c.id),
  ) ?? []),
  ...pieces.map((p) => ({ ...p, set_nodes: setNodes[p.id] ?? p.set_nodes, uncovered: uncovered.value, seen: p.seen })),
])
const uncovered = computed(() => (answer.value?.how.length ? answer.value.how.every((h) => h.uncovered) : false))
const water = computed(() => answer.value?.fit.water)
const strip = computed(() => pieces.filter((p) => p.piece.strip.length))
</script>

<template>
  <section class="panel stack" :aria-label="vessel.name || 'A new vessel'">
    <div class="two">
      <figure>
        <VesselScene v-if="drawn" :vessel="drawn" :cuttings="all" :most="360" :keep="water" />
        <figcaption class="soft">
          <strong>{{ vessel.name || 'A new vessel' }}</strong>, to scale. {{ answer?.how[0]?.shows }}
        </figcaption>
      </figure>
      <div class="stack">
        <div v-for="h in answer?.how ?? []" :key="h.codes.join()">
          <h2>
            How to set {{ answer && answer.how.length > 1 ? h.codes.join(', ') : 'it' }} in {{ vessel.medium }} in a
            {{ sort?.label }}
          </h2>
          <ol>
            <li v-for="s in h.steps" :key="s">{{ said(s) }}</li>
            <li v-for="p in strip.filter((x) => h.codes.includes(x.code))" :key="p.id">
              {{ p.code }}: strip the leaf of node {{ p.piece.strip.join(' and ') }}: it would sit in the {{ vessel.medium }} and
              rot.
            </li>
          </ol>
        </div>
        <div v-if="water" class="water">
          <p>
            <strong>{{ said(water.says) }}</strong>
          </p>
          <p v-if="Math.abs(vessel.fill_mm - water.level_mm) > 0.5" class="soft">
            It is noted as standing {{ said(`${Math.round(vessel.fill_mm)} mm`) }} high.
            <button type="button" class="link" @click="emit('level', water.level_mm)">
              It stands {{ said(`${Math.round(water.level_mm)} mm`) }} high now
            </button>
          </p>
        </div>
        <p v-if="answer" class="soft">
          Room for {{ answer.fit.room }}{{ sort?.round && answer.fit.room >= 20 ? ' or more' : '' }} at the usual distance.
        </p>
        <p v-for="t in answer?.fit.trouble ?? []" :key="t" class="caution">{{ said(t) }}</p>
        <template v-for="h in answer?.how ?? []" :key="h.codes.join()">
          <p v-if="h.unusual" class="caution">{{ h.unusual }}</p>
        </template>
        <p
          v-for="c in [...new Map((answer?.how ?? []).flatMap((h) => h.cautions).map((x) => [x.key, x])).values()]"
          :key="c.key"
          class="caution"
        >
          {{ c.text }}
        </p>
        <p v-if="error" class="soft">{{ error.message }}</p>
      </div>
    </div>
  </section>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.2fr);
  gap: 16px;
  align-items: start;
}
figure {
  margin: 0;
}
ol {
  padding-left: 20px;
  margin: 6px 0 0;
}
p {
  margin: 0;
}
.link {
  text-decoration: underline;
  min-height: 32px;
}
@media (max-width: 800px) {
  .two {
    grid-template-columns: 1fr;
  }
  .link {
    min-height: var(--touch);
  }
}
</style>
