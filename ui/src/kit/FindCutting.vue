<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import type { Cutting } from '@/api/client'

import VerdictSign from './VerdictSign.vue'
import { verdictWord } from './words'

/** Finds a cutting by code, name, vessel or tag. */
const open = defineModel<boolean>({ required: true })
const { cuttings } = defineProps<{ cuttings: Cutting[] }>()
const router = useRouter()
const asked = ref('')
const at = ref(0)

const found = computed(() => {
  const words = asked.value.toLowerCase().split(/\s+/).filter(Boolean)
  return cuttings
    .filter((c) => {
      const text = `${c.code} ${c.tag} ${c.mother_name} ${c.vessel_name} ${c.place_name}`.toLowerCase()
      return words.every((w) => text.includes(w))
    })
    .slice(0, 12)
})
watch(asked, () => (at.value = 0))
watch(open, (now) => {
  if (now) asked.value = ''
})

function go(c: Cutting | undefined) {
  if (!c) return
  open.value = false
  void router.push({ name: 'cutting', params: { id: c.id } })
}
</script>

<template>
  <v-dialog v-model="open" aria-label="Find a cutting">
    <v-card class="pa-4">
      <v-text-field
        v-model="asked"
        label="Code, name or vessel"
        autofocus
        @keydown.enter="go(found[at])"
        @keydown.down.prevent="at = Math.min(at + 1, found.length - 1)"
        @keydown.up.prevent="at = Math.max(at - 1, 0)"
      />
      <ul>
        <li v-for="(c, i) in found" :key="c.id">
          <button type="button" :class="{ at: i === at }" @click="go(c)">
            <VerdictSign :verdict="c.judgement.verdict" :progress="c.judgement.progress" :size="20" />
            <b class="code">{{ c.code }}</b>
            <span
              >{{ verdictWord[c.judgement.verdict] }}, {{ c.mother_name
              }}<template v-if="c.vessel_name">, {{ c.vessel_name }}</template></span
            >
          </button>
        </li>
      </ul>
      <p v-if="!found.length" class="soft" role="status">No cutting has that in its code, name or vessel.</p>
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
  min-height: 44px;
  text-align: left;
  padding: 2px 8px;
  border-radius: 8px;
}
button.at,
button:hover {
  background: var(--warm);
}
span {
  color: var(--ink2);
}
</style>
