<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed, ref } from 'vue'

import { type Cutting, type Look, type Schemas } from '@/api/client'
import { useRecordLook } from '@/api/queries'
import { longDate } from '@/kit/dates'
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
const acts = computed(() => shelf.cuttings.filter((c) => c.judgement.asks && c.where !== 'unset'))
const rest = computed(() => shelf.cuttings.filter((c) => !c.judgement.asks))
/** A long list is shown in part, until it is asked for; what must be done first comes first. */
const most = 30
const allActs = ref(false)
const actsNow = computed(() => (allActs.value ? acts.value : acts.value.slice(0, most)))
const actsShown = useInTurn(actsNow, 4, 3)
const all = ref(false)
const unfolded = ref(false)
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
    <RefusalNote :error="record.error.value" />
    <p v-if="loose.length" class="loose">
      {{ loose.length }} {{ loose.length === 1 ? 'piece is' : 'pieces are' }} cut and not set yet.
      <v-btn size="small" color="primary" to="/set">Set {{ loose.length === 1 ? 'it' : 'them' }}</v-btn>
    </p>
    <ol>
      <li
        v-for="c in actsShown"
        :key="c.id"
        :class="{ active: active === c.id }"
        @mouseenter="active = c.id"
        @mouseleave="active = undefined"
      >
        <VerdictSign :verdict="c.judgement.verdict" :progress="c.judgement.progress" />
        <div>
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
              v-else-if="c.judgement.verdict === 'rescue'"
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
          <VerdictSign :verdict="c.judgement.verdict" :progress="c.judgement.progress" :size="22" />
          <div>
            <router-link :to="{ name: 'cutting', params: { id: c.id } }">
              <strong :style="{ color: `var(--${c.judgement.verdict})` }">{{ verdictWord[c.judgement.verdict] }}</strong>
              <span class="code">{{ c.code }}</span>
            </router-link>
            <p>{{ said(c.judgement.sentence) }}</p>
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
