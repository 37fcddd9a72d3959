<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { useCorrectPlace, useOrderPlaces, useShelf } from '@/api/queries'
import RefusalNote from '@/kit/RefusalNote.vue'

/** The name of a shelf, to be put right, and when it is walked to on the round. */
const { place } = defineProps<{ place: { id: string; name: string } }>()
const open = defineModel<boolean>({ required: true })
const { data: shelf } = useShelf()
const correct = useCorrectPlace()
const order = useOrderPlaces()
const name = ref('')
const ids = computed(() => shelf.value?.places.map((p) => p.id) ?? [])
const at = ref(0)
watch(
  open,
  (now) => {
    if (!now) return
    name.value = place.name
    at.value = ids.value.indexOf(place.id)
    correct.reset()
    order.reset()
  },
  { immediate: true },
)
const places = computed(() =>
  ids.value.map((_, i) => ({
    title: i === 0 ? 'first' : i === ids.value.length - 1 ? 'last' : `as number ${i + 1}`,
    value: i,
  })),
)
async function save() {
  const before = [...ids.value]
  if (name.value !== place.name) {
    const made = await correct
      .mutateAsync({ about: place.id, was: { name: place.name }, becomes: { name: name.value } })
      .catch(() => undefined)
    if (!made) return
  }
  if (at.value !== before.indexOf(place.id)) {
    const next = before.filter((id) => id !== place.id)
    next.splice(at.value, 0, place.id)
    const made = await order.mutateAsync({ places: next, before }).catch(() => undefined)
    if (!made) return
  }
  open.value = false
}
</script>

<template>
  <v-dialog v-model="open" aria-label="Rename the shelf">
    <v-card class="roomy stack">
      <h2>Rename the shelf</h2>
      <v-text-field
        v-model="name"
        label="Name of the shelf"
        maxlength="80"
        :error-messages="correct.error.value?.about('name')"
      />
      <v-select v-if="ids.length > 1" v-model="at" label="On the round it is walked to" :items="places" />
      <RefusalNote :error="correct.error.value ?? order.error.value" />
      <div class="row">
        <v-btn color="primary" :loading="correct.isPending.value || order.isPending.value" @click="save">Save</v-btn>
        <v-btn variant="text" @click="open = false">Leave it</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>
