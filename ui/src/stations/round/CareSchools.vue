<script setup lang="ts">
import { computed } from 'vue'

import { useChooseCareSchool, useHandbook } from '@/api/queries'
import type { Schemas } from '@/api/client'
import RefusalNote from '@/kit/RefusalNote.vue'

/** The schools of care gone by: for all vessels, or for one, which may go by those of all. */
const { all, own, vesselId, abouts } = defineProps<{
  all: Schemas['Chosen']
  own?: Schemas['Chosen']
  vesselId?: string
  abouts: readonly About[]
}>()
type About = Schemas['CareSchool']['about']
const { data: book } = useHandbook()
const choose = useChooseCareSchool()
const labels: Record<About, string> = { water: 'Water is changed', air: 'A shut lid is lifted', look: 'A glance at each' }
const labelOf = (about: About, key: string | undefined) =>
  book.value?.care_schools.find((s) => s.about === about && s.key === key)?.label ?? ''
const rows = computed(() =>
  abouts.map((about) => ({
    about,
    label: labels[about],
    value: (vesselId ? own?.[about] : all[about]) ?? '',
    items: [
      ...(vesselId ? [{ title: `as all: ${labelOf(about, all[about])}`, value: '' }] : []),
      ...(book.value?.care_schools ?? [])
        .filter((s) => s.about === about)
        .map((s) => ({ title: s.label, value: s.key, props: { subtitle: s.why } })),
    ],
  })),
)
function pick(about: About, school: string, before: string) {
  if (school !== before) choose.mutate({ about, school, before, ...(vesselId ? { vessel_id: vesselId } : {}) })
}
</script>

<template>
  <div class="schools">
    <v-select
      v-for="r in rows"
      :key="r.about"
      :label="r.label"
      :items="r.items"
      :model-value="r.value"
      @update:model-value="(v: string) => pick(r.about, v, r.value)"
    />
    <RefusalNote :error="choose.error.value" />
  </div>
</template>

<style scoped>
.schools {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
  gap: 12px;
}
</style>
