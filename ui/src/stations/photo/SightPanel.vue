<script setup lang="ts">
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { shortDate } from '@/kit/dates'
import RefusalNote from '@/kit/RefusalNote.vue'
import { len } from '@/kit/units'

import type { LookDraft, RootColour } from './lookDraft'

/** What the photo gives: whose tag, what scale, which roots; and the next thing to do. */
const { draft, sighting, proposals, nextNode, working, words, healthy } = defineProps<{
  draft: LookDraft
  sighting: Schemas['Sighting'] | undefined
  proposals: number
  nextNode: number | undefined
  working: boolean
  problem: Error | undefined
  /** How a piece of its kind is spoken of. */
  words: Schemas['KindRow']
  /** Other cuttings in the same photo. */
  others: Schemas['OtherSeen'][]
  photoId: string
  /** It stands in water. */
  liquid: boolean
  /** The colours healthy roots of its group have. */
  healthy: RootColour[]
}>()
defineEmits<{ acceptAll: []; stop: []; again: []; nodes: [] }>()

const seen = computed(() => sighting?.seen)
const tag = computed(() => {
  const tags = seen.value?.tags ?? []
  if (!tags.length) return ''
  return tags
    .map((t) => {
      const short = t.payload.replace(/^CJ1:(V:)?/, '')
      if (t.mine) return `Tag ${short}: this is it.`
      return t.whose
        ? `Tag ${short} is ${t.whose}, not this one: check whose photo this is.`
        : `Tag ${short} is read; whose it is is not known here.`
    })
    .join(' ')
})
const scale = computed(() => {
  const s = draft.sight
  if (!s) return ''
  const from = s.tag ? `the tag, ${len(s.tag.symbol_mm, 1)} wide` : 'the edges of the vessel'
  return `Scale from ${from}${s.left ? (s.dragged ? '; its edges as you set them' : '; the edges of the vessel were found, drag them where they are off') : ''}.`
})
const colours = computed(() => {
  const now = seen.value?.colour
  return now && !healthy.includes(now) ? [...healthy, now] : healthy
})
const step = computed(() => (working ? `${sighting?.step || 'waiting for its turn'} …` : ''))
</script>

<template>
  <div class="panel stack" data-testid="sight">
    <div class="row">
      <h2>The photo measures itself</h2>
      <v-btn v-if="working" size="small" variant="outlined" class="push" @click="$emit('stop')">Stop</v-btn>
    </div>
    <p v-if="working" role="status" class="row">
      <v-progress-circular aria-label="Looking at the photo" indeterminate size="20" width="3" color="primary" /><span>{{
        step
      }}</span>
    </p>
    <p v-if="sighting?.state === 'stopped'" class="soft">
      Stopped. <button type="button" class="link" @click="$emit('again')">Look again</button>
    </p>
    <p v-if="sighting?.remark" class="caution">{{ sighting.remark }}</p>
    <template v-if="seen">
      <p v-if="tag">{{ tag }}</p>
      <p v-if="nextNode !== undefined" class="ask">
        Tap {{ words.point }} {{ nextNode }} on the photo{{ nextNode === 1 ? ', the lowest one' : '' }}. Marked once, the roots
        are found from it.
      </p>
      <p v-if="draft.carried && nextNode === undefined">
        The {{ words.point }}s are carried over from {{ shortDate(draft.carried) }}: drag them where they are off.
      </p>
      <p v-if="scale">{{ scale }}</p>
      <div v-if="liquid && draft.sight?.left" class="row">
        <template v-if="draft.waterY === undefined">
          <span class="soft">All roots are taken to hang in water.</span>
          <button type="button" class="link" @click="draft.waterY = draft.sight.left.a.y">Some are above it</button>
        </template>
        <template v-else>
          <span class="soft">Drag the blue line to where the water meets the left edge: above it is air.</span>
          <button type="button" class="link" @click="draft.waterY = undefined">All are in water</button>
        </template>
      </div>
      <p v-for="s in seen.says" :key="s" class="caution">{{ s }}</p>
      <div v-if="proposals" class="row">
        <v-btn color="primary" @click="$emit('acceptAll')">Take up all {{ proposals }}</v-btn>
        <span class="soft">or tap those that are right. Dashed lines are proposals: nothing is recorded of them.</span>
      </div>
      <p v-else-if="draft.sight && !draft.roots.length" class="soft">
        No roots were found alone. Tap the tip of a root on the photo: its line runs to its {{ words.point }}.
      </p>
      <div v-if="draft.sight" class="row" role="group" aria-label="Its roots are mostly">
        <span class="soft">Its roots are mostly</span>
        <button
          v-for="c in colours"
          :key="c"
          type="button"
          class="choice"
          :aria-pressed="(draft.rootsAre ?? seen.colour) === c"
          @click="draft.rootsAre = c"
        >
          {{ c }}
        </button>
      </div>
      <div v-if="others.length" class="others">
        <span class="soft">Also in this photo, their roots kept apart where their {{ words.point }}s are marked:</span>
        <ul>
          <li v-for="o in others" :key="o.cutting_id">
            <router-link :to="{ name: 'look', params: { id: o.cutting_id }, query: { photo: photoId } }">
              <span class="code">{{ o.code }}</span>
            </router-link>
            <span class="soft">{{ o.looked ? 'looked at' : o.nodes.length ? 'marked earlier' : 'not marked' }}</span>
          </li>
        </ul>
      </div>
      <p v-if="seen.total && seen.total.length_mm > 10" class="soft">
        About {{ len(seen.total.length_mm) }} of roots are seen in all ({{ len(seen.total.low_mm) }} to
        {{ len(seen.total.high_mm) }}), those that cannot be told apart with them.
      </p>
      <p v-if="seen.water" class="soft">The water looks {{ seen.water }}.</p>
    </template>
    <RefusalNote :error="problem" />
  </div>
</template>

<style scoped>
p {
  margin: 0;
}
.others ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
}
.others li {
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 32px;
}
.ask {
  font-weight: 650;
  color: var(--terra);
}
.link {
  text-decoration: underline;
  min-height: 32px;
}
</style>
