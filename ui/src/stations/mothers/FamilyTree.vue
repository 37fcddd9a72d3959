<script setup lang="ts">
import { computed } from 'vue'

import type { MappedStem, Mother } from '@/api/client'
import { shortDate } from '@/kit/dates'
import { count } from '@/kit/words'

import CutPieces from './CutPieces.vue'

/** From the mother over her stems and cuts down to what became of each piece, and the mothers raised from them. */
const { mother } = defineProps<{ mother: Mother }>()

const by = computed(() => new Map(mother.cuttings.map((c) => [c.id, c])))
const cuts = (s: MappedStem) => mother.cuts.filter((c) => c.stem_id === s.id)
</script>

<template>
  <ul class="tree" aria-label="Family tree">
    <li v-for="s in mother.stems" :key="s.id">
      <p>
        <b class="code">{{ mother.code }}-{{ s.letter }}</b>
        <span v-if="s.map.sprang" class="soft"> grew back from {{ s.map.sprang.letter }}{{ s.map.sprang.node }}</span>
        <span v-if="!cuts(s).length" class="soft"> never cut</span>
      </p>
      <ul v-if="cuts(s).length">
        <li v-for="c in cuts(s)" :key="c.id">
          <p class="soft">
            <template v-if="c.parted_from"
              >parted from <span class="code">{{ c.parted_from }}</span></template
            ><template v-else>cut</template> {{ shortDate(c.on) }}, {{ count(c.cuttings.length, 'piece', 'pieces') }}
          </p>
          <CutPieces :cut="c" :known="by" :daughters="mother.daughters" />
        </li>
      </ul>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.tree ul {
  padding-left: 22px;
}
.tree li {
  position: relative;
}
.tree ul > li::before {
  content: '';
  position: absolute;
  left: -14px;
  top: 0;
  bottom: 0;
  border-left: 2px solid var(--wood);
}
.tree ul > li:last-child::before {
  bottom: auto;
  height: 14px;
}
.tree ul > li::after {
  content: '';
  position: absolute;
  left: -14px;
  top: 13px;
  width: 10px;
  border-top: 2px solid var(--wood);
}
p {
  margin: 3px 0;
}
</style>
