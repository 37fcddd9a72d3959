<script setup lang="ts">
import { ref, watch } from 'vue'

import { useCorrectPlace } from '@/api/queries'
import RefusalNote from '@/kit/RefusalNote.vue'

/** The name of a shelf, to be put right. */
const { place } = defineProps<{ place: { id: string; name: string } }>()
const open = defineModel<boolean>({ required: true })
const correct = useCorrectPlace()
const name = ref('')
watch(
  open,
  (now) => {
    if (!now) return
    name.value = place.name
    correct.reset()
  },
  { immediate: true },
)
async function save() {
  const made = await correct
    .mutateAsync({ about: place.id, was: { name: place.name }, becomes: { name: name.value } })
    .catch(() => undefined)
  if (made) open.value = false
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
      <RefusalNote :error="correct.error.value" />
      <div class="row">
        <v-btn color="primary" :loading="correct.isPending.value" @click="save">Save</v-btn>
        <v-btn variant="text" @click="open = false">Leave it</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>
