<script setup lang="ts">
import { defineAsyncComponent, ref, useTemplateRef } from 'vue'

import type { Cutting, Schemas, Vessel } from '@/api/client'
import { useNear } from '@/kit/near'
import { useOpened } from '@/kit/opened'

import ShelfVessel from './ShelfVessel.vue'

/** One shelf of the room. A crowded room draws a shelf when it comes near the screen, and keeps it drawn. */
const { place, stops, eager } = defineProps<{
  place: { id: string; name: string; heightMm: number; vessels: { vessel: Vessel; cuttings: Cutting[] }[]; pots: Cutting[][] }
  /** What is due, by vessel, once that is known. */
  stops: Map<string, Schemas['Stop']>
  scale: number
  eager: boolean
}>()
const active = defineModel<string | undefined>('active')
const PlaceDialog = defineAsyncComponent(() => import('./PlaceDialog.vue'))
const renaming = ref(false)
const opened = useOpened(() => renaming.value)
const box = useTemplateRef<HTMLElement>('box')
const near = useNear(box, eager)
</script>

<template>
  <section ref="box" class="place" :aria-label="place.name">
    <div class="row head">
      <h2>{{ place.name }}</h2>
      <button type="button" :aria-label="`Rename the shelf ${place.name}`" @click="renaming = true">rename</button>
      <router-link :to="{ name: 'place', params: { id: place.id } }" :aria-label="`its air, of ${place.name}`"
        >its air</router-link
      >
    </div>
    <div v-if="near" class="plank">
      <ShelfVessel
        v-for="v in place.vessels"
        :key="v.vessel.id"
        v-model:active="active"
        :vessel="v.vessel"
        :stop="stops.get(v.vessel.id)"
        :cuttings="v.cuttings"
        :scale="scale"
        :eager="eager"
        :height-mm="place.heightMm"
      />
      <ShelfVessel
        v-for="pot in place.pots"
        :key="pot[0]?.pot_id ?? ''"
        v-model:active="active"
        :cuttings="pot"
        :scale="scale"
        :eager="eager"
        :height-mm="place.heightMm"
      />
    </div>
    <PlaceDialog v-if="opened" v-model="renaming" :place="place" />
    <div v-if="!near" :style="{ height: `${(place.heightMm * scale + 130) * Math.ceil(place.vessels.length / 5)}px` }"></div>
  </section>
</template>

<style scoped>
.place {
  margin-bottom: 14px;
}
.head {
  gap: 10px;
  align-items: baseline;
}
.head button,
.head a {
  font-size: 13px;
  color: var(--ink2);
  text-decoration: underline;
  min-height: 28px;
}
@media (max-width: 700px) {
  .head button,
  .head a {
    min-height: var(--touch);
    line-height: var(--touch);
  }
}
.place h2 {
  font-size: 17px;
}
.plank {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-start;
}
</style>
