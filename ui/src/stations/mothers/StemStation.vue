<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { newId, type MappedStem } from '@/api/client'
import { useHandbook, useMapStem, useMother, useStem } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import LengthField from '@/kit/LengthField.vue'
import { len, said } from '@/kit/units'
import { buds, budWord, organs, organWord, pointsOf, stripeWord, woodWord } from '@/kit/words'

import PhotoBackdrop from './PhotoBackdrop.vue'
import {
  addNode,
  beginAs,
  divideLeaf,
  draftOf,
  emptyDraft,
  round,
  setInternode,
  setLength,
  stemOf,
  type StemDraft,
} from './stemDraft'
import StemStrip from './StemStrip.vue'

const route = useRoute()
const router = useRouter()
const motherId = computed(() => String(route.params['motherId']))
const isNew = route.params['id'] === 'new'
const { data: mother, error: motherError, isPending: motherPending, refetch } = useMother(motherId)
const { data: known } = useStem(() => String(route.params['id']), !isNew)

interface Kept {
  stemId: string
  version: number
  draft: StemDraft
  touched: boolean
}
/** The drawing is the form, and it survives a reload until it is saved. */
const blank = (): Kept => ({
  stemId: isNew ? newId() : String(route.params['id']),
  version: 0,
  draft: emptyDraft(),
  touched: false,
})
const draftKey = `clearjar.draft.stem.${isNew ? `new.${motherId.value}` : String(route.params['id'])}`
const kept = useStorage<Kept>(draftKey, blank())
const draft = computed(() => kept.value.draft)
// A draft kept by an earlier version does not say what lies on the bench.
draft.value.organ ??= 'stem'
watch(
  known,
  (stem) => {
    if (stem && !kept.value.touched) kept.value = { ...kept.value, version: stem.version, draft: draftOf(stem.map) }
  },
  { immediate: true },
)
const taken = computed(() => known.value?.taken.map((t) => t.node) ?? [])

const chosen = ref(-1)
const node = computed(() => draft.value.nodes[chosen.value])
const internode = computed(() => (node.value ? round(node.value.at - (draft.value.nodes[chosen.value - 1]?.at ?? 0)) : 0))
const touch = () => (kept.value.touched = true)
watch(draft, touch, { deep: true, flush: 'sync' })

function typeInternode(mm: number) {
  setInternode(draft.value, chosen.value, mm)
}

function addAfter() {
  const d = draft.value
  const from = d.nodes[chosen.value]?.at ?? d.nodes.at(-1)?.at ?? 0
  const next = d.nodes[chosen.value + 1]?.at
  const at = chosen.value >= 0 && next !== undefined ? (from + next) / 2 : from + 40
  chosen.value = addNode(d, at)
}
/** A node tapped on the photo. */
function addAt(mm: number) {
  const at = addNode(draft.value, mm)
  if (at >= 0) chosen.value = at
}
const { data: book } = useHandbook()
const rule = computed(() => book.value?.organs.find((o) => o.organ === draft.value.organ))
/** Into how many parts a leaf is cut; 0 for as many as the grower likes. */
const partsOf = (form: string) => book.value?.leaf_forms.find((f) => f.form === form)?.parts ?? 1
const forms = computed(() => book.value?.leaf_forms ?? [])
const leafPieces = ref(3)
const along = computed(() => ['stem', 'rhizome', 'runner'].includes(draft.value.organ))
const sprangFrom = computed({
  get: () => draft.value.sprang?.letter ?? '',
  set: (letter: string) => (draft.value.sprang = letter ? { letter, node: draft.value.sprang?.node ?? 1 } : undefined),
})
const otherStems = computed(() => mother.value?.stems.filter((s) => s.id !== kept.value.stemId) ?? [])
function step(by: number) {
  if (node.value) setInternode(draft.value, chosen.value, Math.max(1, round(internode.value + by)))
}
const setStripe = (v: string | null) => {
  if (!node.value) return
  if (v) node.value.stripe = v as NonNullable<typeof node.value.stripe>
  else delete node.value.stripe
}
function remove() {
  draft.value.nodes.splice(chosen.value, 1)
  chosen.value = Math.min(chosen.value, draft.value.nodes.length - 1)
}

const save = useMapStem()
const theirs = computed(() =>
  save.error.value?.status === 409 ? (save.error.value.theirs as MappedStem | undefined) : undefined,
)

async function keep() {
  const { stemId, version } = kept.value
  const body = { mother_id: motherId.value, version, map: stemOf(draft.value) }
  const made = await save
    .mutateAsync({ id: stemId, body, before: version ? known.value?.map : undefined }, draftKey)
    .catch(() => undefined)
  if (!made) return
  kept.value = isNew ? blank() : { ...blank(), version: made.version, draft: draftOf(made.map) }
  await router.push({ name: 'mother', params: { id: motherId.value } })
}
function takeTheirs() {
  if (!theirs.value) return
  kept.value = { ...kept.value, version: theirs.value.version, draft: draftOf(theirs.value.map), touched: false }
  save.reset()
}
function keepMine() {
  if (!theirs.value) return
  kept.value = { ...kept.value, version: theirs.value.version }
  save.reset()
  void keep()
}
</script>

<template>
  <div class="page stack">
    <AskState :pending="motherPending" :error="motherError" what="the mother" @retry="refetch()" />
    <template v-if="mother && kept">
      <div class="row">
        <h1>{{ isNew ? 'Map a stem' : `${organWord[draft.organ]} ${known?.letter ?? ''}` }}</h1>
        <router-link class="soft" :to="{ name: 'mother', params: { id: mother.id } }">{{ mother.name }}</router-link>
      </div>
      <div class="row">
        <v-select
          class="organ"
          label="What lies on the bench"
          :model-value="draft.organ"
          :items="organs.map((o) => ({ title: organWord[o], value: o }))"
          @update:model-value="beginAs(draft, $event)"
        />
        <p class="soft hint">
          <template v-if="along"
            >It lies with its base to the left. Click it where a node is; drag a node, or type the length below it. Node 1 is
            nearest the base.</template
          >
          <template v-else-if="draft.organ === 'leaf'"
            >{{ said(forms.find((f) => f.form === (draft.form ?? 'whole'))?.take ?? '') }} Say how it is divided: its marks lay
            themselves.</template
          >
          <template v-else-if="rule">A mark is {{ rule.growing_point }}. How many: {{ said(rule.how_many) }}.</template>
        </p>
      </div>
      <div v-if="draft.organ === 'leaf'" class="row">
        <v-select
          class="form"
          label="How it is divided"
          :model-value="draft.form ?? 'whole'"
          :items="forms.map((f) => ({ title: f.label, value: f.form, props: { subtitle: f.pieces } }))"
          @update:model-value="(f: NonNullable<StemDraft['form']>) => divideLeaf(draft, f, leafPieces, partsOf(f))"
        />
        <v-text-field
          v-if="draft.form && !partsOf(draft.form)"
          v-model.number="leafPieces"
          class="short"
          type="number"
          label="Pieces"
          min="2"
          max="20"
          @change="divideLeaf(draft, draft.form, leafPieces, 0)"
        />
      </div>
      <PhotoBackdrop
        :length-mm="draft.lengthMm"
        :nodes="draft.nodes.map((n) => n.at)"
        @node="addAt"
        @whole="setLength(draft, $event)"
      />
      <StemStrip
        v-model:chosen="chosen"
        :draft="draft"
        :taken="taken"
        :patterned="mother.pattern !== 'plain'"
        @add-after="addAfter"
        @remove="remove"
      />

      <div class="row controls">
        <v-btn v-if="draft.organ !== 'leaf'" variant="outlined" @click="addAfter">{{
          along ? 'Add a node' : 'Add a growing point'
        }}</v-btn>
        <LengthField class="short" :model-value="draft.lengthMm" label="Length" @changed="setLength(draft, $event)" />
        <LengthField
          class="short"
          :model-value="draft.thicknessMm"
          label="Thickness"
          @changed="(mm: number) => (draft.thicknessMm = mm)"
        />
        <v-checkbox
          v-if="draft.organ === 'stem' || draft.organ === 'rhizome'"
          v-model="draft.tipIntact"
          label="Growing tip is there"
          hide-details
          density="compact"
        />
        <v-select
          v-if="draft.organ === 'stem'"
          class="wood"
          label="How hard it is"
          :model-value="draft.wood ?? 'green'"
          :items="Object.entries(woodWord).map(([value, title]) => ({ title, value }))"
          @update:model-value="draft.wood = $event as StemDraft['wood']"
        />
        <template v-if="otherStems.length">
          <v-select
            v-model="sprangFrom"
            class="wood"
            label="Grew back from"
            :items="[
              { title: 'the base', value: '' },
              ...otherStems.map((s) => ({ title: `stem ${s.letter}`, value: s.letter })),
            ]"
          />
          <v-text-field
            v-if="draft.sprang"
            v-model.number="draft.sprang.node"
            class="short"
            type="number"
            label="its node"
            min="1"
            max="60"
          />
        </template>
      </div>

      <section v-if="node" class="panel node-panel" :aria-label="`Node ${chosen + 1}`">
        <div class="row">
          <h2>Node {{ chosen + 1 }}</h2>
          <span v-if="taken.includes(chosen + 1)" class="soft">already cut: it stays in the map</span>
          <LengthField
            v-if="draft.organ !== 'leaf'"
            :key="chosen"
            class="short mm"
            :model-value="internode"
            label="Below it"
            @changed="typeInternode"
          />
          <span v-if="draft.organ !== 'leaf'" class="steps" role="group" aria-label="Internode">
            <v-btn variant="outlined" aria-label="5 mm less below it" @click="step(-5)">&minus;5</v-btn>
            <v-btn variant="outlined" aria-label="5 mm more below it" @click="step(5)">+5</v-btn>
          </span>
          <v-btn
            v-if="along"
            :variant="node.leaf ? 'flat' : 'outlined'"
            :color="node.leaf ? 'secondary' : undefined"
            :aria-pressed="node.leaf"
            @click="node.leaf = !node.leaf"
            >Leaf</v-btn
          >
          <v-btn
            v-if="along"
            :variant="node.aerial_root ? 'flat' : 'outlined'"
            :color="node.aerial_root ? 'secondary' : undefined"
            :aria-pressed="node.aerial_root"
            @click="node.aerial_root = !node.aerial_root"
          >
            Aerial root
          </v-btn>
          <v-btn
            v-if="rule?.crowned"
            :variant="node.rooted ? 'flat' : 'outlined'"
            :color="node.rooted ? 'secondary' : undefined"
            :aria-pressed="node.rooted ?? false"
            @click="node.rooted = !node.rooted"
            >Own roots</v-btn
          >
          <v-select
            v-if="mother.pattern !== 'plain'"
            class="wood"
            label="Pattern at the node"
            clearable
            :model-value="node.stripe ?? null"
            :items="Object.entries(stripeWord).map(([value, title]) => ({ title, value }))"
            @update:model-value="setStripe"
          />
          <v-btn-toggle v-model="node.bud" mandatory color="secondary" aria-label="Bud">
            <v-btn v-for="b in buds" :key="b" :value="b">{{ budWord[b] }}</v-btn>
          </v-btn-toggle>
          <v-btn v-if="draft.organ !== 'leaf'" variant="text" color="error" @click="remove">Take it off the map</v-btn>
        </div>
      </section>

      <RefusalNote :error="save.error.value">
        <div v-if="theirs" class="row below">
          <v-btn size="small" variant="outlined" @click="takeTheirs">Show what stands now</v-btn>
          <v-btn size="small" variant="outlined" @click="keepMine">Save mine over it, as version {{ theirs.version + 1 }}</v-btn>
        </div>
      </RefusalNote>
      <div class="row">
        <v-btn color="primary" :disabled="!draft.nodes.length" :loading="save.isPending.value" @click="keep">Save the map</v-btn>
        <span class="soft">{{ pointsOf(draft.organ, draft.nodes.length) }}, {{ len(draft.lengthMm) }}</span>
      </div>
    </template>
  </div>
</template>

<style scoped>
.hint {
  margin: 0;
}
.short {
  max-width: 158px;
  min-width: 136px;
}
.controls {
  align-items: center;
}
.organ,
.wood {
  max-width: 190px;
  min-width: 160px;
}
@media (max-width: 700px) {
  .mm {
    min-width: 90px;
    max-width: 96px;
  }
}
.form {
  max-width: 320px;
}
.steps {
  display: none;
  gap: 6px;
}
.page {
  grid-template-columns: minmax(0, 1fr);
}
/* One thumb: what is done to a node lies at the foot of the screen. */
@media (max-width: 700px) {
  .steps {
    display: inline-flex;
  }
  .hint {
    display: none;
  }
  .node-panel {
    position: sticky;
    bottom: 64px;
    z-index: 3;
    max-height: 36vh;
    padding: 8px 12px;
    overflow: auto;
    box-shadow: 0 -4px 16px rgb(0 0 0 / 0.12);
  }
}
</style>
