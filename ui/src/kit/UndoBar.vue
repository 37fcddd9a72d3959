<script setup lang="ts">
import { ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { lastAct } from './lastAct'

/** On every screen: what was noted last, and a way to take it back. */
const router = useRouter()
const busy = ref(false)
const said = ref('')
const failed = ref('')
watch(lastAct, (act) => {
  failed.value = ''
  if (act) said.value = ''
})
async function undo() {
  const act = lastAct.value
  if (!act) return
  busy.value = true
  try {
    if (act.leaves && router.currentRoute.value.params['id']) await router.push('/')
    await act.undo()
    said.value = 'Taken back.'
    lastAct.value = undefined
  } catch (e) {
    failed.value = e instanceof Error ? e.message : 'It could not be taken back.'
  } finally {
    busy.value = false
  }
}
function close() {
  lastAct.value = undefined
  said.value = ''
}
</script>

<template>
  <div v-if="lastAct || said" class="bar" role="status">
    <span>{{ failed || (lastAct ? lastAct.says : said) }}</span>
    <button v-if="lastAct" type="button" class="undo" :disabled="busy" @click="undo">Undo</button>
    <button type="button" class="close" aria-label="Close this note" @click="close">&times;</button>
  </div>
</template>

<style scoped>
.bar {
  position: fixed;
  left: 520px;
  right: 300px;
  top: 3px;
  z-index: 1010;
  display: flex;
  gap: 10px;
  align-items: center;
  justify-content: center;
  width: fit-content;
  margin: 0 auto;
  background: var(--ink);
  color: var(--paper);
  border-radius: 12px;
  padding: 4px 6px 4px 16px;
  font-size: var(--beside);
}
.undo {
  font-weight: 700;
  text-decoration: underline;
  min-height: var(--touch);
  padding: 0 10px;
}
.close {
  width: 44px;
  height: 44px;
  font-size: 22px;
}
@media (max-width: 1150px) {
  .bar {
    left: 16px;
    right: 16px;
    top: 60px;
  }
}
@media (max-width: 700px) {
  .bar {
    left: 8px;
    right: 8px;
    top: auto;
    width: auto;
    justify-content: space-between;
    bottom: calc(66px + env(safe-area-inset-bottom));
    max-width: none;
  }
}
</style>
