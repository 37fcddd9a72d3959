<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'

import { wordsOf, type Schemas, type Vessel } from '@/api/client'
import { useCorrectVessel, useHandbook, useShelf, withdraw } from '@/api/queries'
import LengthField from '@/kit/LengthField.vue'
import RefusalNote from '@/kit/RefusalNote.vue'

/** A vessel's name, place and sizes, to be put right. */
const { vessel } = defineProps<{ vessel: Vessel | undefined }>()
const emit = defineEmits<{ close: [] }>()
const { data: shelf } = useShelf()
const { data: book } = useHandbook()
const correct = useCorrectVessel()
type Words = Schemas['VesselWords']
const empty: Words = {
  name: '',
  place: '',
  kind: 'jar',
  medium: undefined,
  parts: undefined,
  width_mm: 0,
  depth_mm: 0,
  height_mm: 0,
  wall_mm: 0,
  fill_mm: 0,
  holds: 1,
}
const form = reactive<Words>({ ...empty })
const was = ref<Words>()
const failure = ref<Error>()
const sort = computed(() => book.value?.vessels.find((s) => s.kind === form.kind))
const medium = computed(() => book.value?.media.find((m) => m.medium === vessel?.medium))
/** Kinds that hold what is in it. */
const kinds = computed(() => book.value?.vessels.filter((s) => !(s.drains && medium.value?.liquid)) ?? [])
watch(
  () => vessel,
  (v) => {
    failure.value = undefined
    if (!v) return
    const place = shelf.value?.places.find((p) => p.id === v.place_id)?.name ?? ''
    was.value = wordsOf(v, place)
    Object.assign(form, was.value)
  },
  { immediate: true },
)
const about = (field: string) => correct.error.value?.about(field)
async function save() {
  if (!vessel || !was.value) return
  if (sort.value?.round) form.depth_mm = form.width_mm
  const made = await correct.mutateAsync({ about: vessel.id, was: was.value, becomes: { ...form } }).catch((e: Error) => {
    failure.value = e
  })
  if (made) emit('close')
}
async function takeAway() {
  if (!vessel) return
  try {
    await withdraw('vessel', vessel.id)
    emit('close')
  } catch (e) {
    failure.value = e as Error
  }
}
</script>

<template>
  <v-dialog :model-value="vessel !== undefined" aria-label="Change this vessel" @update:model-value="emit('close')">
    <v-card v-if="vessel" class="roomy stack">
      <h2>{{ vessel.name }}</h2>
      <p class="soft">
        {{ sort?.label }} with {{ vessel.medium }}. Tag {{ vessel.tag }}. What it was called before stays in the record.
      </p>
      <div class="two">
        <v-text-field v-model="form.name" label="Name of the vessel" :error-messages="about('name')" />
        <v-combobox
          v-model="form.place"
          label="Shelf"
          :items="shelf?.places.map((p) => p.name) ?? []"
          :error-messages="about('place')"
        />
        <v-select
          v-model="form.kind"
          label="Kind"
          :items="kinds.map((s) => ({ title: s.label, value: s.kind }))"
          :error-messages="about('kind')"
        />
        <LengthField
          v-model="form.width_mm"
          :label="sort?.round ? 'Inner diameter' : 'Inner width'"
          :error-messages="about('width_mm')"
        />
        <LengthField v-if="!sort?.round" v-model="form.depth_mm" label="Inner depth" :error-messages="about('depth_mm')" />
        <LengthField v-model="form.height_mm" label="Height" :error-messages="about('height_mm')" />
        <LengthField v-model="form.fill_mm" :label="medium?.fill ?? 'fill'" :error-messages="about('fill_mm')" />
        <v-text-field v-model.number="form.holds" type="number" label="Holds how many" :error-messages="about('holds')" />
      </div>
      <RefusalNote :error="failure ?? correct.error.value" />
      <div class="row">
        <v-btn color="primary" :loading="correct.isPending.value" @click="save">Save</v-btn>
        <v-btn variant="text" @click="emit('close')">Leave it</v-btn>
        <v-btn class="push" variant="text" @click="takeAway">Take it off the shelf</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
p {
  margin: 0;
}
@media (max-width: 700px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
