<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { newId, type MappedStem } from '@/api/client'
import { queryClient, useMapStem, useMother, useStem } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { buds, budWord } from '@/kit/words'

import { addNode, draftOf, emptyDraft, round, setInternode, stemOf, type StemDraft } from './stemDraft'
import StemStrip from './StemStrip.vue'

const route = useRoute()
const router = useRouter()
const motherId = computed(() => String(route.params['motherId']))
const isNew = route.params['id'] === 'new'
const { data: mother, error: motherError, isPending: motherPending, refetch } = useMother(motherId)
const { data: known } = useStem(() => String(route.params['id']), !isNew)

interface Kept {
  stemId: string
  factId: string
  version: number
  draft: StemDraft
  touched: boolean
}
/** The drawing is the form, and it survives a reload until it is saved. */
const blank = (): Kept => ({
  stemId: isNew ? newId() : String(route.params['id']),
  factId: newId(),
  version: 0,
  draft: emptyDraft(),
  touched: false,
})
const kept = useStorage<Kept>(`clearjar.draft.stem.${isNew ? `new.${motherId.value}` : String(route.params['id'])}`, blank())
const draft = computed(() => kept.value.draft)
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

const typed = ref('')
watch(
  [internode, chosen],
  () => {
    typed.value = String(internode.value)
  },
  { immediate: true },
)
function typeInternode() {
  setInternode(draft.value, chosen.value, Number(typed.value))
}

function addAfter() {
  const d = draft.value
  const from = d.nodes[chosen.value]?.at ?? d.nodes.at(-1)?.at ?? 0
  const next = d.nodes[chosen.value + 1]?.at
  const at = chosen.value >= 0 && next !== undefined ? (from + next) / 2 : from + 40
  chosen.value = addNode(d, at)
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
  const { stemId, factId, version } = kept.value
  const body = { fact_id: factId, mother_id: motherId.value, version, map: stemOf(draft.value) }
  const made = await save.mutateAsync({ id: stemId, body }).catch(() => undefined)
  if (!made) {
    kept.value.factId = newId()
    return
  }
  queryClient.setQueryData(['stems', made.id], made)
  kept.value = isNew ? blank() : { ...blank(), version: made.version, draft: draftOf(made.map) }
  await router.push({ name: 'mother', params: { id: motherId.value } })
}
function takeTheirs() {
  if (!theirs.value) return
  kept.value = { ...kept.value, factId: newId(), version: theirs.value.version, draft: draftOf(theirs.value.map), touched: false }
  save.reset()
}
function keepMine() {
  if (!theirs.value) return
  kept.value = { ...kept.value, factId: newId(), version: theirs.value.version }
  save.reset()
  void keep()
}
</script>

<template>
  <div class="page stack">
    <AskState :pending="motherPending" :error="motherError" what="the mother" @retry="refetch()" />
    <template v-if="mother && kept">
      <div class="row">
        <h1>{{ isNew ? 'Map a stem' : `Stem ${known?.letter ?? ''}` }}</h1>
        <router-link class="soft" :to="{ name: 'mother', params: { id: mother.id } }">{{ mother.name }}</router-link>
      </div>
      <p class="soft hint">
        The stem lies with its base to the left. Click it where a node is; drag a node, or type the mm below it. Node 1 is the one
        nearest the base.
      </p>
      <StemStrip
        v-model:chosen="chosen"
        :draft="draft"
        :taken="taken"
        :patterned="mother.pattern !== 'plain'"
        @add-after="addAfter"
        @remove="remove"
      />

      <div class="row controls">
        <v-btn variant="outlined" @click="addAfter">Add a node</v-btn>
        <v-text-field
          class="short"
          :model-value="draft.lengthMm"
          type="number"
          label="Whole stem, mm"
          min="1"
          @change="(e: Event) => (draft.lengthMm = Number((e.target as HTMLInputElement).value))"
        />
        <v-text-field
          class="short"
          :model-value="draft.thicknessMm"
          type="number"
          label="Thickness, mm"
          min="1"
          @change="(e: Event) => (draft.thicknessMm = Number((e.target as HTMLInputElement).value))"
        />
        <v-checkbox v-model="draft.tipIntact" label="Growing tip is there" hide-details density="compact" />
      </div>

      <section v-if="node" class="panel" :aria-label="`Node ${chosen + 1}`">
        <div class="row">
          <h2>Node {{ chosen + 1 }}</h2>
          <span v-if="taken.includes(chosen + 1)" class="soft">already cut: it stays in the map</span>
          <v-text-field v-model="typed" class="short" type="number" label="mm below it" @change="typeInternode" />
          <v-btn
            :variant="node.leaf ? 'flat' : 'outlined'"
            :color="node.leaf ? 'secondary' : undefined"
            :aria-pressed="node.leaf"
            @click="node.leaf = !node.leaf"
            >Leaf</v-btn
          >
          <v-btn
            :variant="node.aerial_root ? 'flat' : 'outlined'"
            :color="node.aerial_root ? 'secondary' : undefined"
            :aria-pressed="node.aerial_root"
            @click="node.aerial_root = !node.aerial_root"
          >
            Aerial root
          </v-btn>
          <v-btn-toggle v-model="node.bud" mandatory color="secondary" aria-label="Bud">
            <v-btn v-for="b in buds" :key="b" :value="b">{{ budWord[b] }}</v-btn>
          </v-btn-toggle>
          <v-btn variant="text" color="error" @click="remove">Take it off the map</v-btn>
        </div>
      </section>

      <RefusalNote :error="save.error.value">
        <div v-if="theirs" class="row mt-2">
          <v-btn size="small" variant="outlined" @click="takeTheirs">Show what stands now</v-btn>
          <v-btn size="small" variant="outlined" @click="keepMine">Save mine over it, as version {{ theirs.version + 1 }}</v-btn>
        </div>
      </RefusalNote>
      <div class="row">
        <v-btn color="primary" :loading="save.isPending.value" @click="keep">Save the map</v-btn>
        <span class="soft">{{ draft.nodes.length }} nodes, {{ Math.round(draft.lengthMm) }} mm</span>
      </div>
    </template>
  </div>
</template>

<style scoped>
.hint {
  margin: 0;
}
.short {
  max-width: 150px;
  min-width: 120px;
}
.controls {
  align-items: center;
}
</style>
