<script setup lang="ts">
import { onKeyStroke, useSwipe, useWindowSize } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'

import PatternDefs from '@/drawing/PatternDefs.vue'
import AskState from '@/kit/AskState.vue'
import { capital } from '@/kit/words'

import CareSchools from './CareSchools.vue'
import PotRounds from './PotRounds.vue'
import RoundCard from './RoundCard.vue'
import RoundEnd from './RoundEnd.vue'
import { useWalk } from './walk'

/** Today's care as a walk: one vessel a card, one tap when all is well. */
const walk = useWalk()
const { cards, card, index, left, handled, finished, done, failed, acts, signs, cover, moreActs, canSee, coverWords, says } = walk
const { height } = useWindowSize()
const narrow = computed(() => height.value < 900)
const more = ref(false)
const putting = ref(false)
const reason = ref('')
const reasons = ['no time', 'nothing to do it with', 'better left alone']
watch(
  () => card.value?.vessel.id,
  () => {
    more.value = putting.value = false
    reason.value = ''
  },
)
function off(why: string) {
  if (why.trim()) walk.putOff(why.trim())
}
const picture = useTemplateRef<HTMLInputElement>('picture')
const shot = ref('')
async function photographed(e: Event) {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file || !card.value) return
  shot.value = card.value.vessel.id
  await walk.photograph(file)
}
const minutes = computed(() => {
  const s = walk.secondsLeft.value
  return s < 90 ? `about ${Math.max(5, Math.round(s / 5) * 5)} s left` : `about ${Math.round(s / 60)} min left`
})

/** A letter for each act and sign, shown on a wide screen. */
const letters: Record<string, string> = {
  change_water: 'w',
  top_up: 't',
  water: 'w',
  mist: 'm',
  air: 'a',
  feel: 'f',
  clear: 'x',
  cloudy: 'c',
  smells: 's',
  low: 'l',
  mould: 'o',
  pooled: 'p',
  condensation: 'd',
  dry: 'y',
  leaf_dropped: 'r',
  drooping: 'g',
}
onKeyStroke((e) => {
  const el = e.target instanceof HTMLElement ? e.target : undefined
  if (e.ctrlKey || e.metaKey || e.altKey || el?.closest('input, textarea, select, [contenteditable]')) return
  const c = card.value
  if (e.key === 'u') return walk.undo()
  if (!c) return
  const onControl = el?.closest('a, button') !== null && el !== undefined
  if (e.key === 'Enter' && !onControl) {
    e.preventDefault()
    walk.note()
  } else if (e.key === 'ArrowRight' || e.key === 'j') walk.go(1)
  else if (e.key === 'ArrowLeft' || e.key === 'k') walk.go(-1)
  else if (e.key === 'n') putting.value = true
  else if (e.key === 'h') picture.value?.click()
  else if (e.key === 'e') more.value = !more.value
  else if (e.key === 'i') walk.othersFirm.value = !walk.othersFirm.value
  else if (e.key === 'b') {
    more.value = coverWords.value.length > 1
    const now = coverWords.value.findIndex((w) => w.state === (cover.value ?? c.stop.cover))
    const next = coverWords.value[(now + 1) % coverWords.value.length]
    if (next) cover.value = next.state
  } else {
    const act = [...c.stop.tasks.map((t) => t.act), ...moreActs.value.map((a) => a.act)].find((a) => letters[a] === e.key)
    const sign = canSee.value.find((s) => letters[s.sign] === e.key)
    if (act) walk.toggleAct(act)
    else if (sign) walk.toggleSign(sign.sign)
  }
})

const swiped = useTemplateRef<HTMLElement>('swiped')
useSwipe(swiped, {
  threshold: 70,
  onSwipeEnd: (_, direction) => {
    if (direction === 'left') walk.go(1)
    if (direction === 'right') walk.go(-1)
  },
})
const state = (i: number) => {
  const c = cards.value[i]
  if (!c) return ''
  return c === card.value ? 'now' : c.stop.put_off ? 'off' : handled(c) ? 'done' : ''
}
</script>

<template>
  <div class="round" :class="{ walking: card }">
    <PatternDefs />
    <h1 class="sr">Round</h1>
    <AskState :pending="walk.isPending.value" :error="walk.error.value" what="the round" @retry="walk.retry()" />
    <div v-for="(f, i) in failed" :key="i" class="caution" role="alert">
      <strong>{{ f.name }}</strong>: {{ f.why }}
      <button type="button" @click="failed.splice(i, 1)">I have read it</button>
    </div>
    <template v-if="cards.length">
      <div
        class="ring"
        role="progressbar"
        :aria-valuenow="cards.length - left.length"
        aria-valuemin="0"
        :aria-valuemax="cards.length"
        :aria-label="`${cards.length - left.length} of ${cards.length} done`"
      >
        <span v-for="(c, i) in cards" :key="c.vessel.id" :class="state(i)"></span>
      </div>
      <p v-if="card" class="place">
        <span>{{ card.place }}, {{ index + 1 }} of {{ cards.length }}</span
        ><span>{{ minutes }}</span>
      </p>
    </template>
    <template v-if="card">
      <div ref="swiped" class="swiped"><RoundCard :walk="walk" :most="narrow ? 190 : 300" /></div>
      <div class="differs" role="group" aria-label="What differs">
        <button v-for="a in moreActs" :key="a.act" type="button" :aria-pressed="acts.has(a.act)" @click="walk.toggleAct(a.act)">
          {{ a.done }}<kbd>{{ letters[a.act] }}</kbd>
        </button>
        <button
          v-for="s in canSee"
          :key="s.sign"
          type="button"
          class="sign"
          :aria-pressed="signs.has(s.sign)"
          @click="walk.toggleSign(s.sign)"
        >
          {{ s.label }}<kbd>{{ letters[s.sign] }}</kbd>
        </button>
        <button type="button" @click="picture?.click()">
          {{ shot === card.vessel.id ? 'photo taken' : 'photo' }}<kbd>h</kbd>
        </button>
        <input
          ref="picture"
          class="sr"
          type="file"
          accept="image/*"
          capture="environment"
          tabindex="-1"
          aria-label="Photo of the vessel"
          @change="photographed"
        />
        <button type="button" :aria-expanded="putting" @click="putting = !putting">not today<kbd>n</kbd></button>
        <button type="button" :aria-expanded="more" @click="more = !more">more<kbd>e</kbd></button>
      </div>
      <div v-if="putting" class="differs reasons" role="group" aria-label="Why not today">
        <button v-for="r in reasons" :key="r" type="button" @click="off(r)">{{ r }}</button>
        <v-text-field v-model="reason" label="Another reason" maxlength="200" @keydown.enter="off(reason)" />
        <button v-if="reason.trim()" type="button" @click="off(reason)">Put it off</button>
      </div>
      <div v-if="more" class="differs" role="group" aria-label="The cover">
        <button
          v-for="w in coverWords"
          :key="w.state"
          type="button"
          :aria-pressed="(cover ?? card.stop.cover) === w.state"
          @click="walk.toggleCover(w.state)"
        >
          {{ w.label }}<kbd v-if="w.state === coverWords[0]?.state">b</kbd>
        </button>
        <router-link :to="{ name: 'vessel', params: { id: card.vessel.id } }">move, empty, its history</router-link>
      </div>
      <div class="thumb">
        <button type="button" :disabled="index === 0" @click="walk.go(-1)">back</button>
        <button type="button" class="well" @click="walk.note()">{{ capital(says) }}</button>
        <button type="button" :disabled="!done.length" @click="walk.undo()">undo</button>
      </div>
    </template>
    <template v-else-if="finished">
      <PotRounds
        v-if="walk.round.value?.pots.length"
        :pots="walk.round.value.pots"
        :cuttings="walk.shelf.value?.cuttings ?? []"
        :places="walk.shelf.value?.places ?? []"
        class="pots"
      />
      <RoundEnd :walk="walk" />
      <div v-if="done.length" class="row"><v-btn variant="outlined" @click="walk.undo()">Undo the last one</v-btn></div>
      <section v-if="walk.round.value && walk.shelf.value?.vessels.length" class="how">
        <h2>How you care</h2>
        <p class="soft">
          Growers differ: what is due follows what you go by. A vessel may go its own way, on its page.
          <router-link :to="{ name: 'files', hash: '#calendar' }">Rounds in your calendar.</router-link>
        </p>
        <CareSchools :all="walk.round.value.schools" :abouts="['water', 'air', 'look']" />
      </section>
    </template>
  </div>
</template>

<style scoped>
.round {
  max-width: 720px;
  margin: 0 auto;
  padding: 12px 14px 20px;
}
.ring {
  display: flex;
  gap: 3px;
}
.ring span {
  flex: 1;
  height: 6px;
  border-radius: 3px;
  background: var(--line);
}
.ring .done {
  background: var(--ready);
}
.ring .off {
  background: var(--ink2);
}
.ring .now {
  background: var(--terra);
}
.place {
  display: flex;
  justify-content: space-between;
  margin: 6px 2px 8px;
  color: var(--ink2);
  font-size: var(--small);
}
.differs {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(84px, 1fr));
  gap: 7px;
  margin-top: 10px;
}
.differs button,
.differs a,
.thumb button {
  min-height: var(--touch);
  border: 1px solid var(--line);
  border-radius: var(--card-corner);
  background: var(--card);
  font-size: var(--small);
  font-weight: 550;
  line-height: 1.15;
  padding: 4px 5px;
  position: relative;
}
.differs a {
  display: grid;
  place-items: center;
  text-align: center;
  grid-column: span 2;
}
.differs button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
  border-color: var(--ink);
}
.reasons > :nth-child(4) {
  grid-column: span 2;
}
kbd {
  font: 550 12px var(--mono);
  opacity: 0.7;
  position: absolute;
  right: 5px;
  bottom: 2px;
}
.thumb {
  display: grid;
  grid-template-columns: 1fr 2.6fr 1fr;
  gap: 8px;
  margin-top: 14px;
  position: sticky;
  bottom: 8px;
}
.thumb button {
  min-height: 62px;
  font-size: var(--beside);
}
.thumb .well {
  background: var(--terra);
  color: var(--paper);
  border-color: var(--terra);
  font: 650 18px/1.15 var(--head);
}
.thumb button:disabled {
  color: var(--ink2);
  opacity: 0.6;
}
.pots {
  margin: 12px 0 16px;
}
.how {
  margin-top: 18px;
}
.caution {
  margin-bottom: 8px;
}
.caution button {
  text-decoration: underline;
  min-height: var(--touch);
}
@media (max-width: 700px) {
  kbd {
    display: none;
  }
  .round {
    padding: 8px 10px 8px;
  }
  /* What the thumb taps stands in one place on every card, above the bar. */
  .walking {
    display: flex;
    flex-direction: column;
    min-height: calc(100dvh - var(--bar) - 57px - env(safe-area-inset-bottom));
    padding-bottom: 0;
  }
  .thumb {
    bottom: calc(57px + env(safe-area-inset-bottom));
    background: var(--paper);
    padding: 6px 0 8px;
    margin: auto 0 0;
  }
}
</style>
