<script setup lang="ts">
import { useIntersectionObserver } from '@vueuse/core'
import { ref, useTemplateRef } from 'vue'

import type { Cutting, Vessel } from '@/api/client'

import ShelfVessel from './ShelfVessel.vue'

/** One shelf of the room. A crowded room draws a shelf when it comes near the screen, and keeps it drawn. */
const { place, eager } = defineProps<{
  place: { id: string; name: string; heightMm: number; vessels: { vessel: Vessel; cuttings: Cutting[] }[]; pots: Cutting[] }
  scale: number
  eager: boolean
}>()
const active = defineModel<string | undefined>('active')
const box = useTemplateRef('box')
const near = ref(false)
const { stop } = useIntersectionObserver(
  box,
  ([entry]) => {
    if (!entry?.isIntersecting) return
    near.value = true
    stop()
  },
  { rootMargin: '500px' },
)
</script>

<template>
  <section ref="box" class="place" :aria-label="place.name">
    <h2>{{ place.name }}</h2>
    <div v-if="eager || near" class="plank">
      <ShelfVessel
        v-for="v in place.vessels"
        :key="v.vessel.id"
        v-model:active="active"
        :vessel="v.vessel"
        :cuttings="v.cuttings"
        :scale="scale"
        :height-mm="place.heightMm"
      />
      <ShelfVessel
        v-for="c in place.pots"
        :key="c.id"
        v-model:active="active"
        :cuttings="[c]"
        :scale="scale"
        :height-mm="place.heightMm"
      />
    </div>
    <div v-else :style="{ height: `${(place.heightMm * scale + 130) * Math.ceil(place.vessels.length / 5)}px` }"></div>
  </section>
</template>

<style scoped>
.place {
  margin-bottom: 14px;
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
