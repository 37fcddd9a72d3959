<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Vessel } from '@/api/client'
import { useShelf } from '@/api/queries'

/** The vessels there are, shelf by shelf, to be tapped: one, or several to spread pieces over. */
const chosen = defineModel<string[]>({ required: true })
const { data: shelf } = useShelf()
const asked = ref('')
/** So many are shown at once; others are found by name. */
const most = 40
const standing = computed(() => {
  const n = new Map<string, number>()
  for (const c of shelf.value?.cuttings ?? [])
    if (c.where === 'vessel' && c.vessel_id) n.set(c.vessel_id, (n.get(c.vessel_id) ?? 0) + 1)
  return n
})
const of = (v: Vessel) => standing.value.get(v.id) ?? 0
const fitting = computed(() => {
  const words = asked.value.toLowerCase().split(/\s+/).filter(Boolean)
  return (shelf.value?.vessels ?? []).filter((v) => {
    const text = `${v.name} ${v.medium ?? ''}`.toLowerCase()
    return words.every((w) => text.includes(w)) || chosen.value.includes(v.id)
  })
})
const shown = computed(() => {
  const first = fitting.value.filter((v, i) => i < most || chosen.value.includes(v.id))
  return (shelf.value?.places ?? [])
    .map((p) => ({ place: p, vessels: first.filter((v) => v.place_id === p.id) }))
    .filter((p) => p.vessels.length)
})
const hidden = computed(() => Math.max(0, fitting.value.length - most))
function tap(id: string) {
  chosen.value = chosen.value.includes(id)
    ? chosen.value.filter((v) => v !== id)
    : [...chosen.value.filter((v) => v !== 'new'), id]
}
</script>

<template>
  <div class="stack" role="group" aria-label="Into which vessel">
    <v-text-field v-if="(shelf?.vessels.length ?? 0) > 12" v-model="asked" label="Find a vessel" clearable maxlength="80" />
    <div v-for="p in shown" :key="p.place.id">
      <h3>{{ p.place.name }}</h3>
      <div class="row">
        <button
          v-for="v in p.vessels"
          :key="v.id"
          type="button"
          class="choice"
          :class="{ full: of(v) >= v.holds }"
          :aria-pressed="chosen.includes(v.id)"
          @click="tap(v.id)"
        >
          {{ v.name }}<small>{{ v.medium }}, {{ of(v) }} of {{ v.holds }}{{ of(v) >= v.holds ? ', full' : '' }}</small>
        </button>
      </div>
    </div>
    <p v-if="hidden" class="soft">And {{ hidden }} more: find them by name.</p>
    <div>
      <button
        type="button"
        class="choice"
        :aria-pressed="chosen.includes('new')"
        @click="chosen = chosen.includes('new') ? [] : ['new']"
      >
        A new vessel
      </button>
    </div>
  </div>
</template>

<style scoped>
.row {
  gap: 7px;
  margin-top: 6px;
}
h3 {
  font-size: var(--small);
  color: var(--ink2);
}
.choice {
  border-radius: var(--card-corner);
  text-align: left;
  line-height: 1.2;
  font-weight: 550;
}
small {
  display: block;
  font-size: 13px;
  font-weight: 400;
}
.full[aria-pressed='false'] {
  color: var(--ink2);
  border-style: dashed;
}
p {
  margin: 0;
}
</style>
