<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleTime } from 'd3-scale'
import { computed, ref, useTemplateRef } from 'vue'

import type { Schemas } from '@/api/client'
import { useAhead } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import { longDate, shortDate } from '@/kit/dates'
import { count, verdictWord } from '@/kit/words'

/** The coming eight weeks: when pieces come ready, with their bands, when looks pay, and days to pot that serve several at once. */
const { data: ahead, isPending, error, refetch } = useAhead()

const box = useTemplateRef('box')
const { width } = useElementSize(box)
const wide = computed(() => Math.max(300, Math.round(width.value || 900)))
const named = computed(() => (wide.value < 560 ? 92 : 190))
const row = 30
const top = 34
const from = computed(() => new Date(ahead.value?.today ?? 0))
const to = computed(() => new Date(ahead.value?.until ?? 0))
const x = computed(() => scaleTime([from.value, to.value], [named.value, wide.value - 14]))
const at = (iso: string | undefined) =>
  Math.min(wide.value - 14, Math.max(named.value, iso ? x.value(new Date(iso)) : wide.value - 14))
const week = 7 * 86_400_000
const ticks = computed(() =>
  Array.from(
    { length: wide.value < 560 ? 4 : 8 },
    (_, i) => new Date(from.value.getTime() + i * week * (wide.value < 560 ? 2 : 1)),
  ),
)
const all = ref(false)
/** A long list is shown in part until it is asked for. */
const most = 40
const shown = computed(() => (all.value ? ahead.value?.pieces : ahead.value?.pieces.slice(0, most)) ?? [])
const high = computed(() => top + shown.value.length * row + 34)
const dark = computed(() => ahead.value?.pieces.filter((p) => p.in_the_dark).length ?? 0)
const say = (p: Schemas['AheadPiece']) =>
  p.middle && new Date(p.middle) <= from.value
    ? `${p.code}, ${verdictWord[p.verdict]}, likely ready by now`
    : `${p.code}, ${verdictWord[p.verdict]}, ready about ${p.middle ? shortDate(p.middle) : 'later'}`
const looks = computed(() => ahead.value?.looks ?? [])
</script>

<template>
  <div class="page">
    <h1>The coming eight weeks</h1>
    <AskState v-if="!ahead" :pending="isPending" :error="error" what="the coming weeks" @retry="refetch()" />
    <template v-else>
      <p v-if="!ahead.pieces.length && !ahead.later.length" class="panel">
        Nothing stands that roots. <router-link to="/cut">Cut</router-link> and <router-link to="/set">set</router-link> pieces,
        and their weeks are drawn here.
      </p>
      <div v-else class="columns">
        <section ref="box" aria-label="When pieces come ready">
          <svg
            :viewBox="`0 0 ${wide} ${high}`"
            role="group"
            :aria-label="`When ${count(ahead.pieces.length, 'piece', 'pieces')} come ready`"
          >
            <rect
              v-for="d in ahead.dark"
              :key="d.from"
              :x="at(d.from)"
              :y="top - 8"
              :width="Math.max(2, at(d.to) - at(d.from))"
              :height="high - top - 18"
              class="dark"
            />
            <text v-if="ahead.dark[0]" :x="at(ahead.dark[0].from) + 4" y="12" class="small">dark half of the year</text>
            <g v-for="t in ticks" :key="t.getTime()">
              <line :x1="x(t)" :x2="x(t)" :y1="top - 8" :y2="high - 26" class="grid" />
              <text :x="x(t)" :y="high - 8" class="small" text-anchor="middle">
                {{ t.getDate() }} {{ t.toLocaleDateString('en-GB', { month: 'short' }) }}
              </text>
            </g>
            <g v-for="p in ahead.potting" :key="p.on">
              <line :x1="at(p.on)" :x2="at(p.on)" :y1="top - 8" :y2="high - 26" class="potting" />
              <text :x="at(p.on) + 4" :y="top - 12" class="pot">{{ p.pieces.length }}</text>
            </g>
            <g v-for="(p, i) in shown" :key="p.id" :aria-label="say(p)">
              <router-link :to="{ name: 'cutting', params: { id: p.id } }">
                <text x="0" :y="top + i * row + 16" class="code">{{ p.code }}</text>
              </router-link>
              <text v-if="named > 100" x="100" :y="top + i * row + 16" class="small">{{ verdictWord[p.verdict] }}</text>
              <line
                :x1="at(p.first)"
                :x2="at(p.last)"
                :y1="top + i * row + 11"
                :y2="top + i * row + 11"
                class="band"
                :style="{ stroke: `var(--${p.verdict})` }"
              />
              <rect :x="at(p.middle) - 2" :y="top + i * row + 2" width="4" height="18" class="middle" />
            </g>
            <line :x1="named" :x2="named" :y1="top - 8" :y2="high - 26" class="today" />
          </svg>
          <p v-if="shown.length < ahead.pieces.length">
            <v-btn size="small" variant="outlined" @click="all = true">Show all {{ ahead.pieces.length }}</v-btn>
          </p>
          <p class="soft">
            A bar holds the day it is ready 8 times in 10, the mark is the middle. By a model of cuttings like these.
            <router-link to="/expecting">How it is worked out</router-link>
          </p>
          <p v-if="dark">
            {{ dark === 1 ? 'One piece comes' : `${dark} pieces come` }} ready in the dark half of the year: give light and warmth
            after potting, or let what can wait stand until spring.
          </p>
          <p v-if="ahead.rescue.length">
            To rescue first:
            <template v-for="(p, i) in ahead.rescue" :key="p.id"
              ><template v-if="i">, </template
              ><router-link :to="{ name: 'cutting', params: { id: p.id } }"
                ><span class="code">{{ p.code }}</span></router-link
              ></template
            >.
          </p>
          <p v-if="ahead.later.length" class="soft">
            {{
              ahead.later.length === 1
                ? 'One more comes later, or may never'
                : `${ahead.later.length} more come later, or may never`
            }}:
            <template v-for="(p, i) in ahead.later" :key="p.id"
              ><template v-if="i">, </template
              ><router-link :to="{ name: 'cutting', params: { id: p.id } }"
                ><span class="code">{{ p.code }}</span></router-link
              ></template
            >.
          </p>
        </section>
        <div class="beside">
          <section aria-label="Days to pot">
            <h2>Days to pot</h2>
            <p v-if="!ahead.potting.length" class="soft">Nothing comes surely enough ready by then.</p>
            <ol>
              <li v-for="d in ahead.potting" :key="d.on">
                <b>{{ longDate(d.on) }}</b>: {{ count(d.pieces.length, 'piece', 'pieces') }}
                <span
                  ><template v-for="(n, i) in d.pieces" :key="n.id"
                    ><template v-if="i">, </template
                    ><router-link :to="{ name: 'cutting', params: { id: n.id } }"
                      ><span class="code">{{ n.code }}</span></router-link
                    ></template
                  ></span
                >
              </li>
            </ol>
          </section>
          <section aria-label="Looks that pay">
            <h2>Looks that pay</h2>
            <p v-if="!looks.length" class="soft">None is planned; what asks for a look today is on the shelf.</p>
            <ol>
              <li v-for="d in looks" :key="d.on">
                <b>{{ shortDate(d.on) }}</b>:
                <template v-for="(n, i) in d.pieces" :key="n.id"
                  ><template v-if="i">, </template
                  ><router-link :to="{ name: 'cutting', params: { id: n.id } }"
                    ><span class="code">{{ n.code }}</span></router-link
                  ></template
                >
              </li>
            </ol>
          </section>
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(0, 2.2fr) minmax(0, 1fr);
  gap: 30px;
  align-items: start;
}
.beside {
  display: grid;
  gap: 18px;
}
svg {
  width: 100%;
  height: auto;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  border-top: 1px solid var(--line);
  padding: 7px 0;
}
.dark {
  fill: var(--wood);
  opacity: 0.1;
}
.grid {
  stroke: var(--line);
}
.potting {
  stroke: var(--ready);
  stroke-width: 2;
  stroke-dasharray: 2 4;
}
.pot {
  fill: var(--ready);
  font-weight: 700;
  font-size: 13px;
}
.band {
  stroke-width: 8;
  opacity: 0.6;
}
.middle {
  fill: var(--ink);
}
.today {
  stroke: var(--terra);
  stroke-dasharray: 3 3;
}
.small {
  font-size: 13px;
  fill: var(--ink2);
}
text.code {
  font: 600 13.5px var(--mono);
  fill: var(--ink);
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: 1fr;
  }
}
</style>
