<script setup lang="ts">
import { ref } from 'vue'

import type { Schemas } from '@/api/client'
import DateField from '@/kit/DateField.vue'
import { instantOf, todayField } from '@/kit/dates'
import { lostWhy } from '@/kit/words'

/** How, when and why a cutting ended. */
const { kind, given } = defineProps<{
  kind: 'established' | 'lost' | 'parted'
  given?: Schemas['OutcomeWords'] | undefined
  busy: boolean
  save: string
}>()
const emit = defineEmits<{ save: [o: Schemas['OutcomeWords']]; drop: [] }>()
const on = ref(given ? todayField(new Date(given.on)) : todayField())
const why = ref(given?.why)
const note = ref(given?.note ?? '')
function send() {
  emit('save', {
    kind,
    // The day as it stands keeps its hour.
    on: given && todayField(new Date(given.on)) === on.value ? given.on : instantOf(on.value) || on.value,
    ...(kind === 'lost' && why.value ? { why: why.value } : {}),
    ...(note.value.trim() ? { note: note.value.trim() } : {}),
  })
}
</script>

<template>
  <div class="stack">
    <DateField v-model="on" :label="kind === 'lost' ? 'Lost on' : kind === 'parted' ? 'Parted on' : 'Grown on since'" />
    <fieldset v-if="kind === 'lost'">
      <legend>Why</legend>
      <div class="row">
        <v-btn
          v-for="w in lostWhy"
          :key="w.key"
          :variant="why === w.key ? 'flat' : 'outlined'"
          :color="why === w.key ? 'secondary' : undefined"
          :aria-pressed="why === w.key"
          @click="why = why === w.key ? undefined : w.key"
          >{{ w.label }}</v-btn
        >
      </div>
    </fieldset>
    <v-text-field v-model="note" label="Note" maxlength="500" />
    <div class="row">
      <v-btn color="primary" :loading="busy" @click="send">{{ save }}</v-btn>
      <v-btn variant="text" @click="emit('drop')">Not now</v-btn>
    </div>
  </div>
</template>

<style scoped></style>
