<script setup lang="ts">
import { computed } from 'vue'

import { useMothers } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import { pointsOf } from '@/kit/words'

import StemPicture from '@/drawing/StemPicture.vue'

const { data: mothers, isPending, error, refetch } = useMothers()
const stems = computed(
  () => mothers.value?.flatMap((mother) => mother.stems.map((stem) => ({ mother, stem, left: stem.standing }))) ?? [],
)
</script>

<template>
  <div class="page stack">
    <h1>Cut</h1>
    <p class="soft">
      Choose the stem that lies on the bench. Cut on a day when the plant is turgid; water the mother generously one to two days
      before.
    </p>
    <AskState :pending="isPending" :error="error" what="the stems" @retry="refetch()" />
    <p v-if="mothers && !stems.length" class="panel">
      No stem is mapped yet. <router-link to="/mothers">Choose a mother and map one of its stems</router-link>, then come back.
    </p>
    <ul>
      <li v-for="{ mother, stem, left } in stems" :key="stem.id">
        <router-link class="panel" :to="{ name: 'cut-stem', params: { id: stem.id } }">
          <StemPicture
            :stem="stem.map"
            :standing="stem.standing"
            :end-mm="stem.end_mm"
            :height="92"
            :patterned="mother.pattern !== 'plain'"
          />
          <b class="code">{{ mother.code }}-{{ stem.letter }}</b> {{ mother.name }}
          <span class="soft">{{ pointsOf(stem.organ, left) }} {{ left === 1 ? 'stands' : 'stand' }}</span>
        </router-link>
      </li>
    </ul>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: 14px;
}
a.panel {
  display: block;
  text-decoration: none;
}
a.panel:hover {
  border-color: var(--terra);
}
a.panel span {
  display: block;
}
</style>
