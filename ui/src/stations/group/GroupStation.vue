<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleTime } from 'd3-scale'
import { computed, ref, useTemplateRef } from 'vue'
import { useRoute } from 'vue-router'

import { useGroup } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import { shortDate } from '@/kit/dates'
import { count, percent } from '@/kit/words'
import RestCard from '@/stations/cutting/RestCard.vue'

/** One growth group: the grower's records beside the starting values, and forecasts as they were issued against what came. */
const route = useRoute()
const { data: page, isPending, error, refetch } = useGroup(() => String(route.params['id']))

const box = useTemplateRef('box')
const { width } = useElementSize(box)
const wide = computed(() => Math.max(300, Math.round(width.value || 900)))
const named = 110
const row = 26
const all = ref(false)
const most = 30
const came = computed(() => page.value?.issued.filter((f) => f.came) ?? [])
const open = computed(() => page.value?.issued.filter((f) => !f.came) ?? [])
const shown = computed(() => (all.value ? came.value : came.value.slice(0, most)))
const days = computed(() =>
  shown.value.flatMap((f) => [f.on, f.last ?? f.middle, f.came ?? f.middle].map((d) => new Date(d).getTime())),
)
const x = computed(() =>
  scaleTime([new Date(Math.min(...days.value)), new Date(Math.max(...days.value))], [named, wide.value - 14]),
)
const at = (iso: string) => x.value(new Date(iso))
</script>

<template>
  <div class="page stack">
    <AskState v-if="!page" :pending="isPending" :error="error" what="the group" @retry="refetch()" />
    <template v-else>
      <h1>{{ page.group.name }}</h1>
      <p class="soft">{{ page.group.members }}. {{ page.group.note }}</p>
      <section class="panel stack" aria-label="Starting values and your records">
        <h2>Starting values and your records</h2>
        <p class="soft">
          What you note of roots shifts the times, the pace and the chances for the next pieces of this group in the same medium.
          It is reckoned on the first look of each day.
        </p>
        <div class="media">
          <RestCard v-for="m in page.media" :key="m.medium" :rests="m.rests" :title="`In ${m.medium}`" />
        </div>
      </section>
      <section class="panel stack" aria-label="What came, kind by kind">
        <h2>What came, kind by kind</h2>
        <p class="soft">
          Counted when it has grown on after potting. A plant that was parted from a leaf, a clump or a stem counts for the piece
          it came off.
        </p>
        <p v-if="!page.kinds.length" class="soft">No piece of this group was cut yet.</p>
        <div v-else class="scroll" tabindex="0" role="region" aria-label="Counts">
          <table>
            <thead>
              <tr>
                <th scope="col">Kind</th>
                <th scope="col">Pieces</th>
                <th scope="col">Came</th>
                <th scope="col">Plants</th>
                <th scope="col">A piece</th>
                <th scope="col">Months</th>
                <th scope="col">Open</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="k in page.kinds" :key="k.kind">
                <th scope="row">{{ k.label }}</th>
                <td>{{ k.pieces }}</td>
                <td>
                  <template v-if="k.pieces"
                    >{{ percent(k.came / k.pieces) }}
                    <small class="soft">{{ percent(k.low) }} to {{ percent(k.high) }}</small></template
                  >
                </td>
                <td>{{ k.plants }}</td>
                <td>{{ k.pieces ? (k.plants / k.pieces).toFixed(1) : '' }}</td>
                <td>{{ k.months ? k.months.toFixed(1) : '' }}</td>
                <td>{{ k.open }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
      <section ref="box" class="panel stack" aria-label="Forecasts against what came">
        <h2>Forecasts as they were issued, against what came</h2>
        <p v-if="!came.length" class="soft">
          None has come yet: {{ count(open.length, 'forecast stands', 'forecasts stand') }} open. A forecast is held against the
          first look at which all that its school wants was seen.
        </p>
        <template v-else>
          <p>
            {{ page.held }} of {{ page.came }} came within their band; 8 in 10 should, when there are many.
            {{ open.length }} still open.
          </p>
          <svg
            :viewBox="`0 0 ${wide} ${shown.length * row + 8}`"
            role="group"
            :aria-label="`${page.held} of ${page.came} forecasts held`"
          >
            <g v-for="(f, i) in shown" :key="`${f.id} ${f.school}`">
              <router-link :to="{ name: 'cutting', params: { id: f.id } }">
                <text x="0" :y="i * row + 18" class="code">{{ f.code }}</text>
              </router-link>
              <line :x1="at(f.on)" :x2="at(f.first ?? f.on)" :y1="i * row + 13" :y2="i * row + 13" class="wait" />
              <line :x1="at(f.first ?? f.on)" :x2="at(f.last ?? f.middle)" :y1="i * row + 13" :y2="i * row + 13" class="band" />
              <rect :x="at(f.middle) - 1.5" :y="i * row + 5" width="3" height="16" class="middle" />
              <circle v-if="f.came" :cx="at(f.came)" :cy="i * row + 13" r="5.500" :class="f.held ? 'held' : 'missed'">
                <title>{{ f.code }}, {{ f.school }}: issued {{ shortDate(f.on) }}, came {{ shortDate(f.came) }}</title>
              </circle>
            </g>
          </svg>
          <p class="soft">Bar: 8 in 10; mark: the middle; dot: the look that saw it, filled when it lay within.</p>
          <p v-if="shown.length < came.length">
            <v-btn size="small" variant="outlined" @click="all = true">Show all {{ came.length }}</v-btn>
          </p>
        </template>
      </section>
    </template>
  </div>
</template>

<style scoped>
p {
  margin: 0;
}
.media {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 26px;
}
svg {
  width: 100%;
  height: auto;
}
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  padding: 5px 14px 5px 0;
  border-top: 1px solid var(--line);
  font-weight: 450;
}
thead th {
  color: var(--ink2);
  border-top: 0;
}
.wait {
  stroke: var(--line);
  stroke-width: 2;
}
.band {
  stroke: var(--wait);
  stroke-width: 7;
  opacity: 0.55;
}
.middle {
  fill: var(--ink);
}
.held {
  fill: var(--ready);
}
.missed {
  fill: var(--card);
  stroke: var(--rescue);
  stroke-width: 2.5;
}
text.code {
  font: 600 13.5px var(--mono);
  fill: var(--ink);
}
</style>
