<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { type CuttingPage, type Schemas } from '@/api/client'
import { usePart } from '@/api/queries'
import CautionNotes from '@/kit/CautionNotes.vue'
import CountField from '@/kit/CountField.vue'
import DateField from '@/kit/DateField.vue'
import { instantOf, todayField } from '@/kit/dates'
import LengthField from '@/kit/LengthField.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { capital, cameWord } from '@/kit/words'

/** Young plants are parted from a piece, or a rooted piece is cut in two: each is a plant of its own from then on, with its own code. */
const open = defineModel<boolean>({ required: true })
const { page } = defineProps<{ page: CuttingPage }>()
const part = usePart()
const words = computed(() => page.words)
const c = computed(() => page.cutting)

interface Row {
  node: number
  leaves: number
  /** Undefined until it is said: nothing is noted that was not entered. */
  rooted: boolean | undefined
  longest: number | null
  pattern: Schemas['PartedPlant']['pattern'] | ''
}
const rows = ref<Row[]>([])
const on = ref(todayField())
const ends = ref(false)
const note = ref('')
const left = computed(() => page.nodes_left)
const row = (node: number): Row => ({ node, leaves: 0, rooted: undefined, longest: null, pattern: '' })
/** Where nodes go with it, one piece is taken from the top: all nodes from this one up. */
watch(
  open,
  (now) => {
    if (!now) return
    on.value = todayField()
    ends.value = false
    note.value = ''
    part.reset()
    const counted = (c.value.seen.plantlets ?? []).flatMap((y) => Array.from({ length: y.count }, () => row(y.node)))
    const last = left.value.at(-1) ?? 1
    if (words.value.keeps) rows.value = counted.length ? counted : [row(left.value[0] ?? 1)]
    else {
      const at = c.value.seen.roots.filter((r) => r.node === last && r.order === 1)
      rows.value = [
        { ...row(last), rooted: at.length > 0 ? true : undefined, longest: Math.max(0, ...at.map((r) => r.length_mm)) || null },
      ]
    }
  },
  { immediate: true },
)
const along = computed(() => !words.value.keeps && words.value.pose !== 'crown')
const patterned = computed(() => c.value.pattern !== 'plain')
/** Of each it is said whether it has roots. */
const unsaid = computed(() => rows.value.filter((r) => r.rooted === undefined && !r.longest).length)
const most = computed(() => left.value.slice(along.value ? 1 : 0))
async function save() {
  const made = await part
    .mutateAsync({
      cutting_id: c.value.id,
      parted_on: instantOf(on.value) || on.value,
      parts: rows.value.map((r) => ({
        node: r.node,
        ...(along.value ? { to: left.value.at(-1) ?? r.node } : {}),
        leaves: r.leaves,
        rooted: (r.rooted ?? false) || Boolean(r.longest),
        ...(r.longest ? { roots: [r.longest] } : {}),
        ...(r.pattern ? { pattern: r.pattern } : {}),
      })),
      ...(ends.value ? { ends: true } : {}),
      ...(note.value.trim() ? { note: note.value.trim() } : {}),
    })
    .catch(() => undefined)
  if (made) open.value = false
}
</script>

<template>
  <v-dialog v-model="open" :aria-label="`Part the ${words.young_many}`" max-width="680">
    <v-card class="roomy stack">
      <h2>{{ along ? 'Cut it in two' : `Part the ${words.young_many}` }}</h2>
      <p v-if="words.keeps" class="soft">
        Each becomes a plant of its own, called after {{ c.code }}. The {{ words.body }} keeps its place and may give more.
      </p>
      <p v-else-if="along" class="caution">
        A fresh wound in mix invites rot: let it dry, and do not do it just before potting a rare one. What stays keeps the code
        {{ c.code }}; what comes off is called after it.
      </p>
      <p v-else class="caution">
        At most a fifth of the roots may go; tease young ones apart by hand. What stays keeps the code {{ c.code }}.
      </p>
      <CautionNotes v-if="!words.keeps" :hazards="['blade', 'alcohol']" />
      <DateField v-model="on" label="On" />
      <fieldset v-for="(r, i) in rows" :key="i" class="one">
        <legend>{{ along ? 'What comes off' : `${capital(words.young)} ${page.parts.length + i + 1}` }}</legend>
        <div v-if="most.length > 1 || along" class="row" role="group" :aria-label="`At which ${words.point}`">
          <button
            v-for="n in most"
            :key="n"
            type="button"
            class="choice"
            :aria-pressed="along ? n >= r.node : n === r.node"
            @click="r.node = n"
          >
            {{ words.point }} {{ n }}
          </button>
        </div>
        <div class="row">
          <CountField v-model="r.leaves" label="Leaves" :min="0" :max="30" />
          <div class="row" role="group" aria-label="Roots of its own">
            <button type="button" class="choice" :aria-pressed="r.rooted === true || Boolean(r.longest)" @click="r.rooted = true">
              has roots
            </button>
            <button
              type="button"
              class="choice"
              :aria-pressed="r.rooted === false && !r.longest"
              @click="((r.rooted = false), (r.longest = null))"
            >
              none yet
            </button>
          </div>
          <LengthField v-model="r.longest" label="Longest root" />
        </div>
        <div v-if="patterned" class="row" role="group" aria-label="Its pattern">
          <button
            v-for="(word, key) in cameWord"
            :key="key"
            type="button"
            class="choice"
            :aria-pressed="r.pattern === key"
            @click="r.pattern = r.pattern === key ? '' : key"
          >
            {{ word }}
          </button>
        </div>
        <button v-if="rows.length > 1" type="button" class="drop" @click="rows.splice(i, 1)">not this one</button>
      </fieldset>
      <button v-if="!along" type="button" class="choice" @click="rows.push(row(most[0] ?? 1))">One more {{ words.young }}</button>
      <label v-if="words.keeps" class="row check"
        ><input v-model="ends" type="checkbox" /> Nothing is left of the {{ words.body }} that could give more</label
      >
      <v-text-field v-model="note" label="Note" maxlength="500" />
      <RefusalNote :error="part.error.value" />
      <p v-if="unsaid" class="soft">Say of {{ rows.length === 1 ? 'it' : 'each' }} whether it has roots of its own.</p>
      <div class="row">
        <v-btn color="primary" :loading="part.isPending.value" :disabled="unsaid > 0" @click="save">{{
          along ? 'It is cut in two' : rows.length === 1 ? 'It is parted' : `All ${rows.length} are parted`
        }}</v-btn>
        <v-btn variant="text" @click="open = false">Not now</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.one {
  border-top: 1px solid var(--line);
  padding-top: 8px;
  display: grid;
  gap: 8px;
}
.check {
  min-height: var(--touch);
  gap: 8px;
}
.drop {
  text-decoration: underline;
  min-height: var(--touch);
  text-align: left;
}
p {
  margin: 0;
}
</style>
