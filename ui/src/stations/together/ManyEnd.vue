<script setup lang="ts">
import { ref, watch } from 'vue'

import { newId, type Cutting, type Schemas } from '@/api/client'
import { useMany } from '@/api/many'
import EndForm from '@/stations/cutting/EndForm.vue'

import Refused from './RefusedOnes.vue'

/** Many lost at once, on one day and for one reason. */
const { pieces } = defineProps<{ pieces: Cutting[] }>()
const emit = defineEmits<{ drop: [] }>()
const outcomes = useMany('outcome', 'outcome')
const chosen = ref<string[]>([])
watch(
  () => pieces.map((c) => c.id).join(),
  () => (chosen.value = chosen.value.filter((id) => pieces.some((c) => c.id === id))),
)
const flip = (id: string) =>
  (chosen.value = chosen.value.includes(id) ? chosen.value.filter((c) => c !== id) : [...chosen.value, id])
const told = ref('')
async function save(o: Schemas['OutcomeWords']) {
  const kept = await outcomes.send(
    pieces
      .filter((c) => chosen.value.includes(c.id))
      .map((c) => ({ name: c.code, content: { ...o, id: newId(), cutting_id: c.id } })),
    (list) => `${list.map((k) => k.name).join(', ')} ${list.length === 1 ? 'was' : 'were'} closed as lost.`,
  )
  told.value = kept.length ? `Closed: ${kept.map((k) => k.name).join(', ')}.` : ''
}
</script>

<template>
  <section class="stack" aria-label="Lost">
    <p class="soft">Which of them are lost? Still firm and green is waiting, not dead.</p>
    <div class="row" role="group" aria-label="Lost ones">
      <button
        v-for="c in pieces"
        :key="c.id"
        type="button"
        class="choice"
        :aria-pressed="chosen.includes(c.id)"
        @click="flip(c.id)"
      >
        <span class="code">{{ c.code }}</span>
      </button>
    </div>
    <EndForm
      v-if="chosen.length"
      kind="lost"
      :busy="outcomes.isPending.value"
      :save="chosen.length === 1 ? 'Close the one record' : `Close ${chosen.length} records`"
      @save="save"
      @drop="emit('drop')"
    />
    <p v-if="told" role="status">{{ told }}</p>
    <Refused :refused="outcomes.refused.value" :waits="outcomes.waits.value" />
  </section>
</template>

<style scoped>
p {
  margin: 0;
}
</style>
