<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { useShelf } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import PaperTag from '@/kit/PaperTag.vue'

import ManyEnd from './ManyEnd.vue'
import ManyLook from './ManyLook.vue'

/** Several pieces at once: looked at, moved, potted or closed on one screen. Those of a vessel, or those that are named. */
const route = useRoute()
const router = useRouter()
const { data: shelf, isPending, error, refetch } = useShelf()
const named = computed(() => {
  const q = route.query['cuttings']
  return typeof q === 'string' ? q.split(',').filter(Boolean) : undefined
})
const vesselId = computed(() => (typeof route.query['vessel'] === 'string' ? route.query['vessel'] : undefined))
const vessel = computed(() => shelf.value?.vessels.find((v) => v.id === vesselId.value))
const pieces = computed(
  () =>
    shelf.value?.cuttings.filter((c) =>
      named.value ? named.value.includes(c.id) : vesselId.value ? c.where === 'vessel' && c.vessel_id === vesselId.value : false,
    ) ?? [],
)
const out = ref<string[]>([])
const chosen = computed(() => pieces.value.filter((c) => !out.value.includes(c.id)))
const flip = (id: string) => (out.value = out.value.includes(id) ? out.value.filter((c) => c !== id) : [...out.value, id])
type Act = 'look' | 'lost'
const act = ref<Act>(route.query['do'] === 'lost' ? 'lost' : 'look')
const acts: { key: Act; label: string }[] = [
  { key: 'look', label: 'Look at them' },
  { key: 'lost', label: 'Lost' },
]
const pot = () => void router.push({ name: 'potup', query: { cuttings: chosen.value.map((c) => c.id).join(',') } })
const move = () => void router.push({ name: 'set', query: { cutting: chosen.value.map((c) => c.id).join(',') } })
</script>

<template>
  <div class="page stack">
    <h1>{{ vessel ? `All in ${vessel.name}` : 'Several at once' }}</h1>
    <AskState :pending="isPending" :error="error" what="these pieces" @retry="refetch()" />
    <template v-if="shelf">
      <p v-if="!pieces.length" class="panel">None of these stands any more. <router-link to="/">To the shelf.</router-link></p>
      <template v-else>
        <div class="row" role="group" aria-label="Which of them">
          <div v-for="c in pieces" :key="c.id" class="one" :class="{ out: out.includes(c.id) }">
            <PaperTag :cutting="c" />
            <button
              v-if="pieces.length > 1"
              type="button"
              :aria-pressed="!out.includes(c.id)"
              :aria-label="`${out.includes(c.id) ? 'not this one' : 'this one'}: ${c.code}`"
              @click="flip(c.id)"
            >
              {{ out.includes(c.id) ? 'not this one' : 'this one' }}
            </button>
          </div>
        </div>
        <div class="row" role="group" aria-label="What to do">
          <button v-for="a in acts" :key="a.key" type="button" class="choice" :aria-pressed="act === a.key" @click="act = a.key">
            {{ a.label }}
          </button>
          <button type="button" class="choice" :disabled="!chosen.length" @click="pot">Pot them</button>
          <button type="button" class="choice" :disabled="!chosen.length" @click="move">Set elsewhere</button>
        </div>
        <div class="panel">
          <ManyLook v-if="act === 'look'" :pieces="chosen" />
          <ManyEnd v-else :pieces="chosen" @drop="act = 'look'" />
        </div>
      </template>
    </template>
  </div>
</template>

<style scoped>
.one {
  display: grid;
  justify-items: center;
}
.one button {
  min-height: var(--touch);
  font-size: var(--small);
  text-decoration: underline;
  color: var(--ink2);
}
.out {
  opacity: 0.55;
}
</style>
