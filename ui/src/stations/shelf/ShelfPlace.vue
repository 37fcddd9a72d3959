<script setup lang="ts">
import { useIntersectionObserver } from '@vueuse/core'
import { ref, useTemplateRef } from 'vue'

import type { Cutting, Vessel } from '@/api/client'
import { useCorrectPlace } from '@/api/queries'
import RefusalNote from '@/kit/RefusalNote.vue'

import ShelfVessel from './ShelfVessel.vue'

/** One shelf of the room. A crowded room draws a shelf when it comes near the screen, and keeps it drawn. */
const { place, eager } = defineProps<{
  place: { id: string; name: string; heightMm: number; vessels: { vessel: Vessel; cuttings: Cutting[] }[]; pots: Cutting[] }
  scale: number
  eager: boolean
}>()
const active = defineModel<string | undefined>('active')
const emit = defineEmits<{ vessel: [v: Vessel] }>()
const correct = useCorrectPlace()
const renaming = ref(false)
const name = ref('')
function rename() {
  name.value = place.name
  correct.reset()
  renaming.value = true
}
async function saveName() {
  const made = await correct
    .mutateAsync({ about: place.id, was: { name: place.name }, becomes: { name: name.value } })
    .catch(() => undefined)
  if (made) renaming.value = false
}
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
    <div class="row head">
      <h2>{{ place.name }}</h2>
      <button type="button" :aria-label="`Rename the shelf ${place.name}`" @click="rename">rename</button>
    </div>
    <div v-if="eager || near" class="plank">
      <ShelfVessel
        v-for="v in place.vessels"
        :key="v.vessel.id"
        v-model:active="active"
        :vessel="v.vessel"
        :cuttings="v.cuttings"
        :scale="scale"
        :height-mm="place.heightMm"
        @change="emit('vessel', v.vessel)"
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
    <v-dialog v-model="renaming" aria-label="Rename the shelf">
      <v-card class="pa-5 stack">
        <h2>Rename the shelf</h2>
        <v-text-field
          v-model="name"
          label="Name of the shelf"
          maxlength="80"
          :error-messages="correct.error.value?.about('name')"
        />
        <RefusalNote :error="correct.error.value" />
        <div class="row">
          <v-btn color="primary" :loading="correct.isPending.value" @click="saveName">Save</v-btn>
          <v-btn variant="text" @click="renaming = false">Leave it</v-btn>
        </div>
      </v-card>
    </v-dialog>
    <div
      v-if="!eager && !near"
      :style="{ height: `${(place.heightMm * scale + 130) * Math.ceil(place.vessels.length / 5)}px` }"
    ></div>
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
.head button {
  font-size: 13px;
  color: var(--ink2);
  text-decoration: underline;
  min-height: 28px;
}
@media (max-width: 700px) {
  .head button {
    min-height: 44px;
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
