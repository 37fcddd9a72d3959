<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'

import { api, take, type Schemas } from '@/api/client'
import RefusalNote from '@/kit/RefusalNote.vue'
import { percent } from '@/kit/words'

import CountField from '@/kit/CountField.vue'

/** How many pieces to take so that enough are left: the chance of one piece comes from the plan. */
const { chance } = defineProps<{ chance: number }>()
const plants = ref(3)
const certainty = ref(90)
const records = ref(0)
const own = ref<number>()
const each = computed({ get: () => own.value ?? Math.round(chance * 100), set: (v: number) => (own.value = v) })
const answer = ref<Schemas['HowManyAnswer']>()
const error = ref<Error>()
const ask = useDebounceFn(async () => {
  try {
    answer.value = await take(
      api.POST('/api/how-many', {
        body: { plants: plants.value, certainty: certainty.value / 100, chance: each.value / 100, records: records.value },
      }),
    )
    error.value = undefined
  } catch (e) {
    error.value = e as Error
  }
}, 60)
watch([plants, certainty, records, each], () => void ask(), { immediate: true })
</script>

<template>
  <section class="panel stack" aria-label="How many to take">
    <h2>How many to take</h2>
    <div class="asks">
      <CountField v-model="plants" label="Plants wanted" :min="1" :max="1000" />
      <CountField v-model="certainty" label="How sure" :min="50" :max="99" :step="5" unit="%" />
      <CountField v-model="each" label="Chance of one piece" :min="1" :max="100" unit="%" />
      <CountField v-model="records" label="Known from how many pieces (0: take it as sure)" :min="0" :max="1000" unit="pieces" />
    </div>
    <RefusalNote :error="error" />
    <p v-if="answer" role="status">
      <b>Take {{ answer.pieces }}</b
      >: {{ percent(answer.reached) }} sure of {{ plants }} or more.
      <template v-if="answer.naive < answer.pieces"
        >Reckoning without luck one would take {{ answer.naive }}, and be {{ percent(answer.naive_reached) }} sure.</template
      >
      <template v-if="records">
        On {{ records }} pieces the true chance may lie anywhere from {{ percent(answer.low_chance) }} to
        {{ percent(answer.high_chance) }}.</template
      >
    </p>
  </section>
</template>

<style scoped>
.asks {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 8px 24px;
}
p {
  margin: 0;
}
</style>
