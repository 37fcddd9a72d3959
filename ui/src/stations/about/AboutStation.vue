<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'

import { Refusal, unreachable } from '@/api/client'
import AskState from '@/kit/AskState.vue'
import { count } from '@/kit/words'

/** What this is, under which licence it may be used, and what others made that it is built from. */
interface Licences {
  own: string
  list: { name: string; version: string; licence: string; part: string; text: number }[]
  texts: string[]
}
const { data, isPending, error, refetch } = useQuery({
  queryKey: ['licences'],
  queryFn: async () => {
    const answer = await fetch('/licences.json').catch(() => undefined)
    if (!answer?.ok) throw new Refusal(unreachable, answer?.status ?? 0)
    return (await answer.json()) as Licences
  },
  staleTime: Infinity,
})
const part = ref('')
/** Texts are long: one is drawn when it is opened. */
const opened = ref(new Set<string>())
const parts = computed(() => [...new Set(data.value?.list.map((l) => l.part) ?? [])].sort())
const shown = computed(() => data.value?.list.filter((l) => !part.value || l.part === part.value) ?? [])
</script>

<template>
  <div class="page stack about">
    <h1>About Clear Jar</h1>
    <p>
      For people who multiply rare tropical houseplants: it measures, reckons, schedules, keeps the record and judges, and shows
      why. It advises; it does not know your plant.
    </p>
    <AskState :pending="isPending" :error="error" what="the licences" @retry="refetch()" />
    <template v-if="data">
      <section class="panel stack" aria-label="Licence">
        <h2>Licence</h2>
        <p>Apache License 2.0, the Clear Jar authors. You may use it, change it and pass it on under its terms.</p>
        <details>
          <summary>The whole licence</summary>
          <pre tabindex="0">{{ data.own }}</pre>
        </details>
      </section>
      <section class="panel stack" aria-label="What it is built from">
        <div class="row">
          <h2>What it is built from</h2>
          <label class="push"
            >Which
            <select v-model="part">
              <option value="">all</option>
              <option v-for="p in parts" :key="p" :value="p">{{ p }}</option>
            </select></label
          >
        </div>
        <p class="soft">{{ count(shown.length, 'part', 'parts') }}, each under its own licence. Open one to read it.</p>
        <ul>
          <li v-for="l in shown" :key="`${l.name} ${l.version}`">
            <details @toggle="opened.add(l.name)">
              <summary>
                <b>{{ l.name }}</b> {{ l.version }} <span class="soft">{{ l.part }}, {{ l.licence }}</span>
              </summary>
              <pre v-if="opened.has(l.name)" tabindex="0">{{
                data.texts[l.text] || `${l.licence}; its package brings no text of its own.`
              }}</pre>
            </details>
          </li>
        </ul>
      </section>
    </template>
  </div>
</template>

<style scoped>
.about {
  grid-template-columns: minmax(0, 1fr);
}
p {
  margin: 0;
  max-width: 70ch;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  border-top: 1px solid var(--line);
}
section {
  min-width: 0;
}
summary {
  box-sizing: border-box;
  min-height: var(--touch);
  padding: 10px 0;
  overflow-wrap: anywhere;
  cursor: pointer;
}
pre {
  overflow: auto;
  max-height: 340px;
  margin: 0 0 12px;
  padding: 12px;
  border: 1px solid var(--line);
  border-radius: var(--corner);
  background: var(--paper);
  font-size: var(--small);
  white-space: pre-wrap;
}
select {
  min-height: var(--touch);
  border: 1px solid var(--ink2);
  border-radius: var(--corner);
  padding: 0 8px;
  background: var(--paper);
}
</style>
