<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed, ref } from 'vue'

import { type Cutting, type Look, type Schemas } from '@/api/client'
import { useRecordLook } from '@/api/queries'
import { closedUntil } from '@/kit/closed'
import { longDate, shortDate } from '@/kit/dates'
import { useInTurn } from '@/kit/inTurn'
import RefusalNote from '@/kit/RefusalNote.vue'
import VerdictSign from '@/kit/VerdictSign.vue'
import { said } from '@/kit/units'
import { verdictWord } from '@/kit/words'

/** Today: the verdicts in order of urgency, each with its one sentence and its next act. */
const { shelf, loose } = defineProps<{ shelf: Schemas['Shelf']; loose: Cutting[] }>()
const active = defineModel<string | undefined>('active')

const record = useRecordLook()
/** On a phone the ones that only wait fold away, so that the shelf is near. */
const narrow = useMediaQuery('(max-width: 900px)')
const acts = computed(() => shelf.cuttings.filter((c) => c.judgement.asks && (c.where !== 'unset' || c.judgement.to_pot)))
const rest = computed(() => shelf.cuttings.filter((c) => !c.judgement.asks))
/** A long list is shown in part, until it is asked for; what must be done first comes first. */
const most = 30
const allActs = ref(false)
const actsNow = computed(() => (allActs.value ? acts.value : acts.value.slice(0, most)))
const actsShown = useInTurn(actsNow, 4, 3)
const all = ref(false)
const unfolded = ref(false)
/** The one whose line is opened on a phone. */
const opened = ref('')
const actTo = (c: Cutting) => {
  if (c.judgement.to_pot) return { name: 'potup', query: { cutting: c.id } }
  if (c.judgement.verdict === 'rescue' || c.judgement.act === 'part' || c.judgement.question?.answers.length)
    return { name: 'cutting', params: { id: c.id } }
  return { name: 'look', params: { id: c.id } }
}
const actWord = (c: Cutting) =>
  c.judgement.to_pot
    ? 'Pot up'
    : c.judgement.verdict === 'rescue'
      ? 'Rescue'
      : c.judgement.act === 'uncover'
        ? 'Uncover'
        : c.judgement.act === 'part'
          ? 'Part'
          : 'Look'
/** Closed vessels in which nothing is to be seen yet, with the day on which opening first pays. */
const sealed = computed(() => {
  const by = new Map<string, Cutting[]>()
  for (const c of shelf.cuttings)
    if (c.vessel_id && c.where === 'vessel') by.set(c.vessel_id, [...(by.get(c.vessel_id) ?? []), c])
  return [...by]
    .flatMap(([id, cuttings]) => {
      const until = closedUntil(cuttings)
      return until ? [{ id, name: cuttings[0]?.vessel_name ?? '', until }] : []
    })
    .sort((a, b) => a.until.localeCompare(b.until))
})
const restNow = computed(() => (all.value ? rest.value : rest.value.slice(0, most)))

const restShown = useInTurn(restNow, 0, 4)

const summary = computed(() => {
  const n = (...v: string[]) => shelf.cuttings.filter((c) => v.includes(c.judgement.verdict)).length
  const say = (many: number, one: string, more: string) => (many ? [`${many} ${many === 1 ? one : more}`] : [])
  const parts = [
    ...say(n('ready', 'overdue'), 'to pot', 'to pot'),
    ...say(n('rescue'), 'to rescue', 'to rescue'),
    ...say(n('look'), 'needs a look', 'need a look'),
    ...say(n('wait'), 'waits', 'wait'),
    ...say(n('growing_on'), 'grows on', 'grow on'),
  ]
  return parts.length ? `${parts.join(', ')}.` : 'Nothing to do today.'
})

function answer(cutting: Cutting, seen: Look) {
  record.mutate({
    cutting_id: cutting.id,
    looked_at: new Date().toISOString(),
    seen: { ...seen, roots: seen.roots ?? [], buds: seen.buds ?? [] },
  })
}
</script>

<template>
  <aside aria-label="Today" :style="{ minHeight: actsShown.length < actsNow.length ? `${actsNow.length * 104}px` : undefined }">
    <h2>{{ longDate(shelf.today) }}</h2>
    <p class="soft">{{ summary }}</p>
    <p class="soft">
      <router-link to="/ahead">The coming weeks</router-link>
    </p>
    <RefusalNote :error="record.error.value" />
    <p v-if="loose.length" class="loose">
      {{ loose.length }} {{ loose.length === 1 ? 'piece is' : 'pieces are' }} cut and not set yet.
      <v-btn size="small" color="primary" to="/set">Set {{ loose.length === 1 ? 'it' : 'them' }}</v-btn>
    </p>
    <ol>
      <li
        v-for="c in actsShown"
        :key="c.id"
        :class="{ active: active === c.id, line: narrow }"
        @mouseenter="active = c.id"
        @mouseleave="active = undefined"
      >
        <VerdictSign
          :verdict="c.judgement.verdict"
          :progress="c.judgement.likely ?? c.judgement.progress"
          :size="narrow ? 24 : 30"
        />
        <template v-if="narrow">
          <button type="button" class="open" :aria-expanded="opened === c.id" @click="opened = opened === c.id ? '' : c.id">
            <span class="code">{{ c.code }}</span>
            <span class="brief"
              ><span class="sr">{{ verdictWord[c.judgement.verdict] }}: </span>{{ said(c.judgement.brief) }}</span
            >
          </button>
          <v-btn
            size="small"
            :color="c.judgement.to_pot || c.judgement.verdict === 'rescue' ? 'primary' : undefined"
            :variant="c.judgement.to_pot || c.judgement.verdict === 'rescue' ? 'flat' : 'outlined'"
            :to="actTo(c)"
            >{{ actWord(c) }}</v-btn
          >
        </template>
        <div v-if="!narrow || opened === c.id" class="whole">
          <router-link :to="{ name: 'cutting', params: { id: c.id } }">
            <strong :style="{ color: `var(--${c.judgement.verdict})` }">{{ verdictWord[c.judgement.verdict] }}</strong>
            <span class="code">{{ c.code }}</span>
          </router-link>
          <p>{{ said(c.judgement.sentence) }}</p>
          <div class="row">
            <v-btn v-if="c.judgement.to_pot" size="small" color="primary" :to="{ name: 'potup', query: { cutting: c.id } }">
              Pot up
            </v-btn>
            <v-btn
              v-else-if="c.judgement.verdict === 'rescue' || c.judgement.act === 'uncover' || c.judgement.act === 'part'"
              size="small"
              color="primary"
              :to="{ name: 'cutting', params: { id: c.id } }"
            >
              What to do
            </v-btn>
            <template v-else-if="c.judgement.question?.answers.length">
              <v-btn
                v-for="a in c.judgement.question.answers"
                :key="a.label"
                size="small"
                variant="outlined"
                color="primary"
                :disabled="record.isPending.value"
                @click="answer(c, a.look)"
              >
                {{ a.label }}
              </v-btn>
            </template>
            <v-btn v-else size="small" variant="outlined" color="primary" :to="{ name: 'look', params: { id: c.id } }"
              >Look now</v-btn
            >
          </div>
        </div>
      </li>
      <li v-for="v in sealed" :key="v.id" class="line">
        <VerdictSign verdict="wait" :progress="0" :size="24" />
        <router-link :to="{ name: 'vessel', params: { id: v.id } }" class="open">
          <span class="code">{{ v.name }}</span>
          <span class="brief">leave it closed until {{ shortDate(v.until) }}</span>
        </router-link>
      </li>
    </ol>
    <p v-if="actsNow.length < acts.length">
      <v-btn size="small" variant="outlined" @click="allActs = true">Show all {{ acts.length }} that ask for something</v-btn>
    </p>
    <details :open="!narrow" @toggle="unfolded ||= ($event.target as HTMLDetailsElement).open">
      <summary>{{ rest.length }} wait or grow on</summary>
      <ol v-if="!narrow || unfolded">
        <li
          v-for="c in restShown"
          :key="c.id"
          class="quiet"
          :class="{ active: active === c.id }"
          @mouseenter="active = c.id"
          @mouseleave="active = undefined"
        >
          <VerdictSign :verdict="c.judgement.verdict" :progress="c.judgement.likely ?? c.judgement.progress" :size="22" />
          <div>
            <router-link :to="{ name: 'cutting', params: { id: c.id } }">
              <strong :style="{ color: `var(--${c.judgement.verdict})` }">{{ verdictWord[c.judgement.verdict] }}</strong>
              <span class="code">{{ c.code }}</span>
            </router-link>
            <p>{{ said(narrow ? c.judgement.brief : c.judgement.sentence) }}</p>
          </div>
        </li>
      </ol>
      <v-btn v-if="restNow.length < rest.length" size="small" variant="outlined" @click="all = true"
        >Show all {{ rest.length }}</v-btn
      >
    </details>
  </aside>
</template>

<style scoped>
aside {
  border-left: 1px solid var(--line);
  background: var(--card);
  padding: 16px 18px;
  position: sticky;
  top: var(--bar);
  max-height: calc(100vh - var(--bar));
  overflow-y: auto;
}
aside > p {
  margin: 2px 0 10px;
}
ol,
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  display: grid;
  grid-template-columns: 36px 1fr;
  gap: 8px;
  padding: 11px 6px;
  border-top: 1px solid var(--line);
  align-items: start;
}
li.active {
  background: var(--warm);
}
li a {
  text-decoration: none;
  display: inline-flex;
  gap: 8px;
  align-items: baseline;
  min-height: 26px;
}
li a:hover {
  text-decoration: underline;
}
li p {
  margin: 0;
  color: var(--ink2);
  font-size: var(--beside);
  line-height: 1.32;
}
li .row {
  margin-top: 7px;
  gap: 7px;
}
li .row:empty {
  display: none;
}
li.line {
  grid-template-columns: 26px minmax(0, 1fr) auto;
  align-items: center;
  padding: 5px 6px;
  min-height: 54px;
}
.open {
  display: grid;
  gap: 0;
  text-align: left;
  min-height: var(--touch);
  align-content: center;
  color: inherit;
}
li.line a.open {
  display: grid;
  gap: 0;
}
.brief {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: var(--beside);
  color: var(--ink2);
}
.line .whole {
  grid-column: 1 / -1;
}
.quiet {
  padding: 7px 6px;
}
.quiet p {
  font-size: var(--small);
}
.loose {
  background: var(--warm);
  padding: 8px 10px;
  border-radius: var(--corner);
}
details {
  border-top: 1px solid var(--line);
  padding: 10px 6px;
}
@media (max-width: 900px) {
  aside {
    border-left: 0;
    border-bottom: 1px solid var(--line);
    position: static;
    max-height: none;
  }
}
</style>
