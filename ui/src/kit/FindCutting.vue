<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import type { Cutting, Vessel } from '@/api/client'
import { useFind } from '@/api/queries'

import VerdictSign from './VerdictSign.vue'
import { verdictWord } from './words'

/** Finds a cutting by code, name, vessel or tag, also what has ended or was given away; and vessels, empty ones too. */
const open = defineModel<boolean>({ required: true })
const { cuttings, vessels } = defineProps<{ cuttings: Cutting[]; vessels: Vessel[] }>()
const emit = defineEmits<{ vessel: [v: Vessel] }>()
const router = useRouter()
const asked = ref('')
const at = ref(0)
const later = refDebounced(asked, 120)
const { data: elsewhere } = useFind(later)

interface Hit {
  key: string
  code: string
  says: string
  go: () => void
  verdict?: Cutting['judgement']
}
const words = computed(() => asked.value.toLowerCase().split(/\s+/).filter(Boolean))
const has = (text: string) => words.value.every((w) => text.toLowerCase().includes(w))
const show = (id: string) => void router.push({ name: 'cutting', params: { id } })
const hits = computed<Hit[]>(() => {
  const here: Hit[] = cuttings
    .filter((c) => has(`${c.code} ${c.tag} ${c.mother_name} ${c.vessel_name} ${c.place_name}`))
    .map((c) => ({
      key: c.id,
      code: c.code,
      says: `${verdictWord[c.judgement.verdict]}, ${c.mother_name}${c.vessel_name ? `, ${c.vessel_name}` : ''}`,
      go: () => show(c.id),
      verdict: c.judgement,
    }))
  if (!words.value.length) return here
  const known = new Set(here.map((h) => h.key))
  const gone: Hit[] = (elsewhere.value?.cuttings ?? [])
    .filter((c) => !known.has(c.id) && has(`${c.code} ${c.tag} ${c.mother_name}`))
    .map((c) => ({ key: c.id, code: c.code, says: `${c.says}, ${c.mother_name}`, go: () => show(c.id) }))
  const jars: Hit[] = vessels
    .filter((v) => has(`${v.name} ${v.tag}`))
    .map((v) => ({ key: v.id, code: v.tag, says: `${v.name}, ${v.medium}: change it`, go: () => emit('vessel', v) }))
  return [...here, ...gone, ...jars]
})
const most = 12
const found = computed(() => hits.value.slice(0, most))
watch(asked, () => (at.value = 0))
watch(open, (now) => {
  if (now) asked.value = ''
})

function go(h: Hit | undefined) {
  if (!h) return
  open.value = false
  h.go()
}
</script>

<template>
  <v-dialog v-model="open" aria-label="Find a cutting">
    <v-card class="roomy">
      <v-text-field
        v-model="asked"
        label="Code, name or vessel"
        autofocus
        @keydown.enter="go(found[at])"
        @keydown.down.prevent="at = Math.min(at + 1, found.length - 1)"
        @keydown.up.prevent="at = Math.max(at - 1, 0)"
      />
      <ul>
        <li v-for="(h, i) in found" :key="h.key">
          <button type="button" :class="{ at: i === at }" @click="go(h)">
            <VerdictSign v-if="h.verdict" :verdict="h.verdict.verdict" :progress="h.verdict.progress" :size="20" />
            <b class="code">{{ h.code }}</b>
            <span>{{ h.says }}</span>
          </button>
        </li>
      </ul>
      <p v-if="hits.length > most || elsewhere?.more" class="soft" role="status">
        {{ found.length }} of {{ hits.length }}{{ elsewhere?.more ? ' and more' : '' }}: say more of what you look for.
      </p>
      <p v-if="!found.length" class="soft" role="status">Nothing has that in its code, name or vessel.</p>
    </v-card>
  </v-dialog>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 8px 0 0;
  max-height: 50vh;
  overflow: auto;
}
button {
  display: flex;
  gap: 10px;
  align-items: center;
  width: 100%;
  min-height: var(--touch);
  text-align: left;
  padding: 2px 8px;
  border-radius: var(--corner);
}
button.at,
button:hover {
  background: var(--warm);
}
span {
  color: var(--ink2);
}
</style>
