<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'

import { photoUrl, type Look, type Schemas } from '@/api/client'
import { useChooseSchool, useCutting, useEnd, useRecordLook } from '@/api/queries'
import PatternDefs from '@/drawing/PatternDefs.vue'
import AskState from '@/kit/AskState.vue'
import BasisNote from '@/kit/BasisNote.vue'
import { bothDates, shortDate } from '@/kit/dates'
import { useOpened } from '@/kit/opened'
import RefusalNote from '@/kit/RefusalNote.vue'
import { useSteps } from '@/kit/steps'
import VerdictSign from '@/kit/VerdictSign.vue'
import { len, said } from '@/kit/units'
import { cameWord, count, kindWord, verdictWord } from '@/kit/words'

import CutBackDialog from './CutBackDialog.vue'
import EndForm from './EndForm.vue'
import ForesightCard from './ForesightCard.vue'
import GrowthChart from './GrowthChart.vue'
import HistoryList from './HistoryList.vue'
import PartDialog from './PartDialog.vue'
import PassOn from './PassOn.vue'
import PiecePortrait from './PiecePortrait.vue'
import QuestionCard from './QuestionCard.vue'
import RestCard from './RestCard.vue'

const route = useRoute()
const { data: page, isPending, error, refetch } = useCutting(() => String(route.params['id']))
const c = computed(() => page.value?.cutting)
const j = computed(() => c.value?.judgement)
/** While it rots nothing else is to be expected of it; once young plants are on it, they are what is potted. */
const foreseen = computed(() =>
  j.value?.verdict === 'rescue' || j.value?.ground.startsWith('young') ? undefined : page.value?.foreseen,
)
/** The verdict first; then the piece, its curve, its photos and its history. */
const step = useSteps(4, () => page.value !== undefined)

const school = useChooseSchool()
const record = useRecordLook()
const end = useEnd()
const failure = computed(() => school.error.value ?? record.error.value ?? end.error.value)

const mark: Record<string, string> = { met: '+', unmet: '\u2212', unknown: '?', contrary: '!' }
const standing: Record<string, string> = { met: 'met', unmet: 'not met', unknown: 'unknown', contrary: 'against' }

function answer(seen: Look) {
  if (!c.value) return
  record.mutate({
    cutting_id: c.value.id,
    looked_at: new Date().toISOString(),
    seen: { ...seen, roots: seen.roots ?? [], buds: seen.buds ?? [] },
  })
}
function choose(key: string) {
  if (!c.value || !j.value) return
  school.mutate({ cutting_id: c.value.id, school: key as Schemas['SchoolChoice']['school'], before: j.value.school })
}
const closing = ref<'established' | 'lost'>()
async function close(o: Schemas['OutcomeWords']) {
  if (!c.value) return
  const made = await end.mutateAsync({ cutting_id: c.value.id, ...o }).catch(() => undefined)
  if (made) closing.value = undefined
}
const cuttingBack = ref(false)
const parting = ref(false)
const partingOpened = useOpened(() => parting.value)
/** Young plants can be parted from it, or it can be cut in two. */
const mayPart = computed(
  () =>
    !ended.value &&
    Boolean(c.value?.set_on ?? c.value?.potted_on) &&
    ((page.value?.words.keeps ?? false) || (page.value?.nodes_left.length ?? 0) > 1),
)
/** Potting against the verdict is asked about once more, with what speaks against it. */
const againstIt = ref(false)
/** After a look, its sisters are near: the one that asks for a look first. */
const nextSister = computed(() => {
  if (!route.query['looked']) return undefined
  const alive = page.value?.sisters.filter((s) => !['done', 'lost', 'growing_on'].includes(s.verdict)) ?? []
  return alive.find((s) => s.verdict === 'look') ?? alive[0]
})

const photos = computed(() => page.value?.looks.filter((l) => l.photo) ?? [])
const photoAt = ref<number>()
const shown = computed(() => photos.value[photoAt.value ?? photos.value.length - 1])
const days = (n: number) => (n === 1 ? '1 day' : `${n} days`)
const ended = computed(() => ['done', 'lost'].includes(j.value?.verdict ?? ''))
</script>

<template>
  <div class="page">
    <PatternDefs />
    <AskState :pending="isPending" :error="error" what="this cutting" @retry="refetch()" />
    <div v-if="page && c && j" class="columns">
      <section class="who">
        <h1 class="code">{{ c.code }}</h1>
        <p class="soft">
          <router-link :to="{ name: 'mother', params: { id: c.mother_id } }">{{ c.mother_name }}</router-link>,
          {{ kindWord[c.kind] ?? c.kind }}, {{ count(page.nodes_left.length, page.words.point, page.words.points)
          }}<template v-if="page.nodes_left.length < c.nodes.length"> left of {{ c.nodes.length }}</template
          >.
          <template v-if="c.potted_on"
            >In a {{ len(c.pot?.top_mm ?? 0) }} pot, {{ c.place_name }}, potted {{ bothDates(c.potted_on) }}.</template
          >
          <template v-else-if="c.set_on"
            >{{ c.vessel_name }}, {{ c.place_name }}, {{ c.medium }}, {{ days(j.age_days) }}.</template
          >
          <template v-else-if="j.to_pot">It has roots of its own.</template>
          <template v-else>Not set yet.</template>
        </p>
        <PiecePortrait v-if="step > 0" :cutting="c" :vessel="page.vessel" />
        <PassOn v-if="step > 0" class="below" :cutting="c" />
      </section>

      <section class="verdict" aria-label="Verdict">
        <p class="code only-phone">{{ c.code }}</p>
        <div class="head">
          <VerdictSign :verdict="j.verdict" :progress="j.likely ?? j.progress" :size="46" />
          <div>
            <h2 :style="{ color: `var(--${j.verdict})` }">{{ verdictWord[j.verdict] }}</h2>
            <p v-if="j.next_look || foreseen" class="soft">
              <b v-if="foreseen">{{ foreseen.words }}</b>{{ ' ' }}
              <template v-if="j.next_look">Look again {{ bothDates(j.next_look) }}.</template>
              <template v-if="j.do_not_open_until"> Do not open or dig before {{ bothDates(j.do_not_open_until) }}.</template>
            </p>
          </div>
        </div>
        <p v-if="nextSister" class="panel row next" role="status">
          <span
            >Looked. Its sister <span class="code">{{ nextSister.code }}</span>
            {{ nextSister.verdict === 'look' ? 'asks for a look too' : 'stands near' }}.</span
          >
          <v-btn size="small" color="primary" :to="{ name: 'look', params: { id: nextSister.id } }"
            >Look at {{ nextSister.code }}</v-btn
          >
        </p>
        <p v-for="w in j.contradictions" :key="w" class="caution" role="alert"><b>These two do not fit.</b> {{ said(w) }}</p>
        <p class="sentence">{{ said(j.sentence) }}</p>
        <p v-for="w in j.warnings" :key="w" class="caution">{{ said(w) }}</p>
        <ul v-if="j.ways" class="panel ways" aria-label="Ways on">
          <li v-for="w in j.ways" :key="w.way">{{ said(w.says) }}</li>
        </ul>
        <ol v-if="j.steps" class="panel steps" aria-label="What to do">
          <li v-for="s in j.steps" :key="s">{{ said(s) }}</li>
        </ol>
        <QuestionCard
          v-if="j.question"
          :question="j.question"
          :priced="foreseen?.questions ?? []"
          :cutting="c.id"
          :busy="record.isPending.value"
          @answer="answer"
        />
        <div v-if="!c.potted_on && !ended" class="row schools" role="group" aria-label="School: when is it ready?">
          <button
            v-for="s in page.schools"
            :key="s.school.key"
            type="button"
            :aria-pressed="s.school.key === j.school"
            :class="{ on: s.school.key === j.school }"
            :title="`${s.school.when}. ${s.school.why}; ${s.school.cost}.`"
            @click="choose(s.school.key)"
          >
            {{ s.school.label }}: <b :style="{ color: `var(--${s.verdict})` }">{{ verdictWord[s.verdict] }}</b>
          </button>
        </div>
        <ForesightCard
          v-if="step > 1 && foreseen"
          :foreseen="foreseen"
          :school="page.schools.find((s) => s.school.key === j?.school)?.school.label.toLowerCase() ?? ''"
        />
        <table v-if="j.reasons.length">
          <caption class="sr">
            Evidence
          </caption>
          <tbody>
            <tr v-for="r in j.reasons" :key="r.key" :class="r.standing">
              <td class="mark" aria-hidden="true">{{ mark[r.standing] }}</td>
              <th scope="row">
                {{ said(r.wanted) }}<span class="sr"> {{ standing[r.standing] }}</span
                ><BasisNote v-if="r.basis" class="why" :basis="r.basis" />
              </th>
              <td class="found">
                {{ said(r.found) }}<small v-if="r.on">{{ shortDate(r.on) }}</small>
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="j.after && !ended" class="soft">
          It grows on with about {{ Math.round(100 * j.after.stays) }} in 100, by what was seen since potting. A new leaf comes by
          {{ shortDate(j.after.leaf_by) }} in nine of ten that grow on.
        </p>
        <p class="soft">What would change it: {{ said(j.changes) }}</p>
        <RefusalNote :error="failure" />
        <div class="row">
          <v-btn v-if="j.verdict === 'rescue'" color="primary" @click="cuttingBack = true">It was cut back</v-btn>
          <v-btn
            v-if="!c.set_on && !c.potted_on && !ended"
            :color="j.to_pot ? undefined : 'primary'"
            :variant="j.to_pot ? 'outlined' : 'flat'"
            :to="{ name: 'set', query: { cutting: c.id } }"
            >Set it</v-btn
          >
          <v-btn v-if="j.act === 'uncover' && c.vessel_id" color="primary" :to="{ name: 'vessel', params: { id: c.vessel_id } }"
            >Note it at its vessel</v-btn
          >
          <v-btn v-if="j.to_pot" color="primary" :to="{ name: 'potup', query: { cutting: c.id } }">Pot up</v-btn>
          <v-btn
            v-if="(c.set_on || c.potted_on) && !ended"
            :color="j.to_pot || j.act === 'uncover' || j.act === 'part' || j.verdict === 'rescue' ? undefined : 'primary'"
            :variant="j.to_pot || j.act === 'uncover' || j.act === 'part' || j.verdict === 'rescue' ? 'outlined' : 'flat'"
            :to="{ name: 'look', params: { id: c.id } }"
            >Look: photo or by hand</v-btn
          >
          <v-btn v-if="c.set_on && !c.potted_on && !ended" variant="outlined" :to="{ name: 'set', query: { cutting: c.id } }"
            >Move to another vessel</v-btn
          >
          <v-btn
            v-if="c.set_on && !c.potted_on && !ended && !j.to_pot && j.act !== 'part'"
            variant="text"
            @click="againstIt = true"
          >
            Pot it all the same
          </v-btn>
          <v-btn v-if="c.set_on && !ended && j.verdict !== 'rescue'" variant="text" @click="cuttingBack = true"
            >It was cut back</v-btn
          >
          <v-btn
            v-if="(c.potted_on || j.act === 'uncover' || j.ground === 'uncovered') && !ended"
            variant="outlined"
            @click="closing = 'established'"
            >It has grown on</v-btn
          >
          <v-btn
            v-if="mayPart"
            :color="j.act === 'part' ? 'primary' : undefined"
            :variant="j.act === 'part' ? 'flat' : 'text'"
            @click="parting = true"
            >{{ page.words.keeps || page.words.pose === 'crown' ? `Part the ${page.words.young_many}` : 'Cut it in two' }}</v-btn
          >
          <v-btn
            v-if="c.potted_on && c.where !== 'given' && c.fate !== 'lost'"
            variant="text"
            :to="{ name: 'potup', query: { move: '1', cuttings: c.id } }"
            >Into a wider pot</v-btn
          >
          <v-btn v-if="!ended" variant="text" @click="closing = 'lost'">It is lost</v-btn>
        </div>
        <section v-if="page.aftercare.length && !ended" class="panel" aria-label="Aftercare">
          <h3>The weeks after potting</h3>
          <ul class="care">
            <li v-for="s in page.aftercare" :key="s.day" :class="{ past: s.past }">
              <b>{{ shortDate(s.on) }}</b><span>{{ said(s.text) }}{{ s.done && s.day > 0 ? ' Seen to.' : '' }}</span>
            </li>
          </ul>
          <p v-if="page.not_normal" class="soft small">
            {{ said(page.not_normal)
            }}<template v-if="page.shock_until"> Yellowing and droop are shock until {{ shortDate(page.shock_until) }}.</template>
          </p>
        </section>
        <GrowthChart
          v-if="step > 1 && page.longest.length"
          :points="page.longest"
          :judgement="j"
          :wanted="page.wanted"
          :today="j.age_days"
          :potted="Boolean(c.potted_on)"
        />
      </section>

      <section class="photos" aria-label="Photos and history">
        <template v-if="step > 1 && shown?.photo">
          <router-link :to="{ name: 'look', params: { id: c.id }, query: { look: shown.id } }">
            <img
              :src="photoUrl(shown.photo.id, 1600, shown.photo.turn)"
              :alt="`Photo of ${c.code} on ${shortDate(shown.looked_at)}`"
              :width="shown.photo.width_px"
              :height="shown.photo.height_px"
            />
          </router-link>
          <div class="row strip">
            <button
              v-for="(l, i) in photos"
              :key="l.id"
              type="button"
              :class="{ on: l === shown }"
              :aria-label="`Photo of ${shortDate(l.looked_at)}`"
              @click="photoAt = i"
            >
              <img v-if="l.photo" :src="photoUrl(l.photo.id, 320, l.photo.turn)" alt="" />
            </button>
          </div>
          <p class="soft small">
            {{ bothDates(shown.looked_at) }}. {{ count(shown.seen.roots.length, 'root', 'roots')
            }}<template v-if="shown.longest_mm">, longest {{ len(shown.longest_mm) }}</template
            >. Open it to see or change the traces. {{ shown.photo.remark }}
          </p>
        </template>
        <p v-else-if="step > 1" class="panel soft">
          No photo yet. Same spot, same light, same distance each time, with the tag in the frame.
        </p>
        <RestCard v-if="step > 1 && foreseen" :rests="foreseen.rests" :group="page.group.key" />
        <HistoryList v-if="step > 2" :page="page" />
        <p v-if="page.parent" class="small">
          Parted from
          <router-link :to="{ name: 'cutting', params: { id: page.parent.id } }"
            ><span class="code">{{ page.parent.code }}</span></router-link
          ><template v-if="c.came">, {{ cameWord[c.came] }}</template
          >.
        </p>
        <p v-if="page.parts.length" class="small">
          Parted from it:
          <template v-for="(s, i) in page.parts" :key="s.id"
            ><template v-if="i">, </template
            ><router-link :to="{ name: 'cutting', params: { id: s.id } }"
              ><span class="code">{{ s.code }}</span> {{ verdictWord[s.verdict] }}</router-link
            ><template v-if="s.came"> ({{ cameWord[s.came] }})</template></template
          >
        </p>
        <p v-if="step > 2 && page.sisters.length" class="small">
          Sisters:
          <template v-for="(s, i) in page.sisters" :key="s.id"
            ><template v-if="i">, </template
            ><router-link :to="{ name: 'cutting', params: { id: s.id } }"
              ><span class="code">{{ s.code }}</span> {{ verdictWord[s.verdict] }}</router-link
            ></template
          >
        </p>
        <p v-for="k in step > 2 ? page.cautions : []" :key="k.key" class="caution small">{{ k.text }}</p>
      </section>
    </div>
    <v-dialog
      :model-value="closing !== undefined"
      :aria-label="closing === 'lost' ? 'It is lost' : 'It has grown on'"
      @update:model-value="closing = undefined"
    >
      <v-card class="roomy stack">
        <h2>{{ closing === 'lost' ? 'Close it as lost' : 'Close it as established' }}</h2>
        <p>
          {{
            closing === 'lost'
              ? 'Its record stays, so that the rates stay honest.'
              : 'A new leaf after potting: success is counted when it has grown on.'
          }}
        </p>
        <EndForm
          v-if="closing"
          :kind="closing"
          :busy="end.isPending.value"
          save="Close the record"
          @save="close"
          @drop="closing = undefined"
        />
        <RefusalNote :error="end.error.value" />
      </v-card>
    </v-dialog>
    <v-dialog v-model="againstIt" aria-label="Pot it all the same">
      <v-card v-if="c && j" class="roomy stack">
        <h2>Pot it all the same?</h2>
        <p class="caution">{{ j.caution || 'The verdict is not to pot it yet.' }}</p>
        <p>{{ said(j.sentence) }}</p>
        <div class="row">
          <v-btn variant="outlined" :to="{ name: 'potup', query: { cutting: c.id } }">Yes, I know my plant</v-btn>
          <v-btn color="primary" @click="againstIt = false">Not now</v-btn>
        </div>
      </v-card>
    </v-dialog>
    <CutBackDialog v-if="page && step > 3" v-model="cuttingBack" :page="page" />
    <PartDialog v-if="page && partingOpened" v-model="parting" :page="page" />
  </div>
</template>

<style scoped>
.ways,
.steps {
  margin: 0;
  padding-left: 34px;
  font-size: var(--beside);
}
.only-phone {
  display: none;
  font-size: 24px;
}
@media (max-width: 980px) {
  .only-phone {
    display: block;
  }
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 0.85fr) minmax(0, 1.5fr) minmax(0, 0.9fr);
  gap: 26px;
  align-items: start;
}
p {
  margin: 0;
}
.verdict {
  display: grid;
  gap: 12px;
}
.head {
  display: flex;
  gap: 14px;
  align-items: center;
}
.head h2 {
  font-size: 32px;
}
.sentence {
  font-size: 17px;
}
.schools {
  gap: 8px;
}
.schools button {
  border: 1px solid var(--line);
  background: var(--card);
  border-radius: var(--card-corner);
  padding: 6px 12px;
  min-height: var(--touch);
  font-size: var(--beside);
}
.schools button.on {
  border: 2px solid var(--ink);
}
table {
  width: 100%;
  border-collapse: collapse;
}
tr {
  border-top: 1px solid var(--line);
}
th {
  text-align: left;
  font-weight: 500;
  padding: 7px 8px 7px 0;
}
.why {
  display: block;
  font-size: 12.5px;
}
.mark {
  width: 26px;
  font-weight: 800;
  font-size: 18px;
  color: var(--wait);
}
.met .mark {
  color: var(--ready);
}
.unknown .mark {
  color: var(--look);
}
.contrary .mark {
  color: var(--rescue);
}
.found {
  text-align: right;
  font: 600 14.5px var(--mono);
  max-width: 190px;
}
.found small {
  display: block;
  font: 400 12.5px var(--text);
  color: var(--ink2);
}
.photos {
  display: grid;
  gap: 10px;
}
.photos img {
  width: 100%;
  height: auto;
  border-radius: var(--card-corner);
  display: block;
}
.strip {
  gap: 6px;
}
.strip button {
  width: 56px;
  height: 56px;
  overflow: hidden;
  border-radius: var(--corner);
  border: 2px solid transparent;
}
.strip button.on {
  border-color: var(--terra);
}
.strip img {
  height: 100%;
  object-fit: cover;
  border-radius: 0;
}
.small {
  font-size: 14.5px;
}
.next {
  background: var(--warm);
}
.care {
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
  display: grid;
  gap: 6px;
  font-size: var(--beside);
}
.care li {
  display: grid;
  grid-template-columns: 92px 1fr;
}
.care .past {
  color: var(--ink2);
  text-decoration: line-through;
  text-decoration-thickness: 1px;
}
@media (max-width: 980px) {
  .columns {
    grid-template-columns: 1fr;
  }
  .verdict {
    order: -1;
  }
  .who {
    order: 0;
  }
  .head h2 {
    font-size: 27px;
  }
}
</style>
