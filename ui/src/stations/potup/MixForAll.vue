<script setup lang="ts">
import { computed, ref } from 'vue'

import type { Schemas } from '@/api/client'
import { useChooseNumber, usePlannerNumbers } from '@/api/queries'
import RefusalNote from '@/kit/RefusalNote.vue'
import { percent } from '@/kit/words'

/** The mixes for all pots of the table, and their parts as the grower mixes them. */
const { mixes, settling } = defineProps<{ mixes: Schemas['Mixture'][]; settling: number }>()
const { data: numbers } = usePlannerNumbers()
const choose = useChooseNumber()
const editing = ref('')
const numberOf = (key: string) => numbers.value?.numbers.find((r) => r.number.key === key)
const total = computed(() => mixes.reduce((sum, m) => sum + m.ml, 0))
function set(key: string, text: string) {
  const before = numberOf(key)
  const value = Number(text.replace(',', '.'))
  if (before && Number.isFinite(value) && value !== before.number.value) choose.mutate({ key, kind: 'value', value, before })
}
</script>

<template>
  <section class="stack" aria-label="Mix">
    <h2>Mix</h2>
    <p class="soft">{{ Math.round(total) }} ml in all, {{ percent(settling) }} of it for settling. Never compact it.</p>
    <div v-for="m in mixes" :key="m.key" class="stack one">
      <p class="soft">{{ m.why }}</p>
      <ul>
        <li v-for="p in m.parts" :key="p.key">
          <b class="code">{{ p.name }}</b>
          <label v-if="editing === m.key"
            ><input
              type="number"
              min="0"
              max="20"
              step="0.5"
              :value="p.parts"
              :aria-label="`parts of ${p.name}`"
              @change="set(p.key, ($event.target as HTMLInputElement).value)"
            />
            parts</label
          >
          <span v-else>{{ Math.round(p.ml) }} ml</span>
        </li>
      </ul>
      <div class="row small">
        <button type="button" @click="editing = editing === m.key ? '' : m.key">
          {{ editing === m.key ? 'done' : 'change the parts' }}
        </button>
        <router-link :to="{ name: 'mix', query: { of: 'parts' } }">Mixing corner</router-link>
      </div>
    </div>
    <RefusalNote :error="choose.error.value" />
  </section>
</template>

<style scoped>
h2 {
  font-size: 17px;
}
p {
  margin: 0;
}
.one {
  gap: 6px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
  border: 1px solid var(--line);
  border-radius: 9px;
  background: var(--card);
  min-height: 34px;
  padding: 2px 12px;
  font-size: 15px;
}
input {
  width: 64px;
  min-height: 32px;
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 0 6px;
  background: var(--paper);
}
.small {
  font-size: 14px;
}
.small button,
.small a {
  text-decoration: underline;
  min-height: var(--touch);
  display: inline-flex;
  align-items: center;
}
</style>
