<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { computed, watch } from 'vue'
import { useRouter } from 'vue-router'

import { newId, type Schemas } from '@/api/client'
import { useBringIn, useHandbook, useMothers, useShelf } from '@/api/queries'
import CautionNotes from '@/kit/CautionNotes.vue'
import DateField from '@/kit/DateField.vue'
import { instantOf, todayField } from '@/kit/dates'
import LengthField from '@/kit/LengthField.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { capital, kindWord } from '@/kit/words'

/** A piece one owns already: bought, traded, found in a jar. A few taps, and it stands on the shelf. */
type Brought = Schemas['Brought']
type VesselKind = Schemas['VesselSort']['kind']
interface Draft {
  name: string
  motherId: string
  group: string
  kind: Brought['kind'] | ''
  form: Brought['form'] | ''
  nodes: number
  leaves: number
  ownRoots: boolean
  since: string
  knownTo: Brought['known_to']
  vessel: string
  vesselName: string
  place: string
  longest: number | null
}
const blank = (): Draft => ({
  name: '',
  motherId: '',
  group: '',
  kind: '',
  form: '',
  nodes: 0,
  leaves: -1,
  ownRoots: false,
  since: todayField(),
  knownTo: 'day',
  vessel: '',
  vesselName: '',
  place: '',
  longest: null,
})
const draftKey = 'clearjar.draft.brought'
const d = useStorage<Draft>(draftKey, blank())
const router = useRouter()
const { data: book } = useHandbook()
const { data: mothers } = useMothers()
const { data: shelf } = useShelf()
const bring = useBringIn()

const group = computed(() => book.value?.groups.find((g) => g.key === d.value.group))
const kinds = computed(() => {
  const own = group.value?.kinds ?? []
  const all = book.value?.kinds.map((k) => k.kind) ?? []
  return [...own, ...all.filter((k) => !own.includes(k))] as Brought['kind'][]
})
const row = computed(() => book.value?.kinds.find((k) => k.kind === d.value.kind))
/** Her group comes with a mother that is here. */
watch(
  () => d.value.motherId,
  (id) => {
    const m = mothers.value?.find((x) => x.id === id)
    if (m) Object.assign(d.value, { group: m.group.key, name: m.name })
  },
)
watch(
  () => d.value.kind,
  (k) => {
    if (k === 'leaf') {
      d.value.form ||= group.value?.pulls_leaf ? 'pulled' : 'whole'
      if (!d.value.nodes) d.value.nodes = 1
      if (d.value.leaves < 0) d.value.leaves = 0
    }
    if (k === 'wet_stick') d.value.leaves = 0
  },
)
const sorts = computed(() => book.value?.vessels ?? [])
const free = computed(
  () =>
    shelf.value?.vessels.map((v) => ({
      title: `${v.name}, ${v.medium}, ${shelf.value?.cuttings.filter((c) => c.vessel_id === v.id && c.where === 'vessel').length ?? 0} of ${v.holds}`,
      value: v.id,
    })) ?? [],
)
const isNew = computed(() => d.value.vessel.startsWith('new:'))
const newKind = computed(() => d.value.vessel.slice(4) as VesselKind)
/** A new vessel is called after what it is, with the next number, until it gets a name. */
const proposed = computed(() => {
  const label = capital(sorts.value.find((s) => s.kind === newKind.value)?.label ?? 'vessel')
  const n = (shelf.value?.vessels.filter((v) => v.kind === newKind.value).length ?? 0) + 1
  return `${label} ${n}`
})
const place = computed(() => d.value.place || shelf.value?.places[0]?.name || 'Window sill')
const missing = computed(() => {
  if (!d.value.name.trim()) return 'its name'
  if (!d.value.group) return 'its growth group'
  if (!d.value.kind) return 'what kind of piece it is'
  if (!d.value.nodes) return `how many ${row.value?.points ?? 'nodes'} it has`
  if (d.value.leaves < 0) return 'how many leaves it has'
  return ''
})
const counts = [1, 2, 3, 4, 5, 6, 7, 8]

/** The new vessel's own id; the piece and it come in together. */
const vesselId = newId()
async function save() {
  const v = d.value
  const usual = sorts.value.find((s) => s.kind === newKind.value)?.usual
  const mm = v.longest ?? 0
  const roots = mm > 0 ? [{ node: 1, order: 1, length_mm: mm, low_mm: 0, high_mm: 0, how: 'typed' as const }] : []
  const made = await bring
    .mutateAsync({
      name: v.name.trim(),
      ...(v.motherId ? { mother_id: v.motherId } : {}),
      group_key: v.group,
      kind: v.kind as Brought['kind'],
      ...(v.kind === 'leaf' && v.form ? { form: v.form } : {}),
      nodes: v.nodes,
      leaves: Math.max(0, Math.min(v.leaves, v.nodes)),
      own_roots: v.ownRoots,
      since: instantOf(v.since) || v.since,
      known_to: v.knownTo,
      ...(isNew.value && usual
        ? { vessel: { ...usual, id: vesselId, name: v.vesselName.trim() || proposed.value, place: place.value } }
        : v.vessel
          ? { vessel_id: v.vessel }
          : {}),
      ...(roots.length ? { seen: { roots_counted: true, roots, buds: [] } } : {}),
    })
    .catch(() => undefined)
  if (!made) return
  d.value = blank()
  await router.push({ name: 'cutting', params: { id: made.cutting.id } })
}
</script>

<template>
  <div class="page stack">
    <h1>Bring in a piece</h1>
    <p class="soft">Bought, traded, or found in a jar: what is known of it is enough. The rest can be filled in later.</p>
    <div class="panel stack">
      <div class="row">
        <v-text-field
          v-model="d.name"
          class="name"
          label="Full name of the plant"
          maxlength="200"
          :error-messages="bring.error.value?.about('name')"
        />
        <v-select
          v-model="d.group"
          class="name"
          label="Growth group: plants that root alike"
          :items="book?.groups.map((g) => ({ title: g.name, value: g.key, props: { subtitle: g.members } })) ?? []"
          :error-messages="bring.error.value?.about('group_key')"
        />
        <v-select
          v-if="mothers?.length"
          v-model="d.motherId"
          class="name"
          label="From a mother that is here"
          :items="[
            { title: 'no, from elsewhere', value: '' },
            ...mothers.map((m) => ({ title: `${m.code} ${m.name}`, value: m.id })),
          ]"
        />
      </div>
      <fieldset v-if="d.group">
        <legend>What it is</legend>
        <div class="row">
          <button v-for="k in kinds" :key="k" type="button" class="choice" :aria-pressed="d.kind === k" @click="d.kind = k">
            {{ kindWord[k] ?? k }}
          </button>
        </div>
      </fieldset>
      <fieldset v-if="d.kind === 'leaf'">
        <legend>How it was taken</legend>
        <div class="row">
          <button
            v-for="f in book?.leaf_forms"
            :key="f.form"
            type="button"
            class="choice"
            :aria-pressed="d.form === f.form"
            @click="d.form = f.form as NonNullable<Brought['form']>"
          >
            {{ f.label }}
          </button>
        </div>
      </fieldset>
      <template v-if="row">
        <fieldset>
          <legend>{{ capital(row.points) }}</legend>
          <div class="row">
            <button v-for="n in counts" :key="n" type="button" class="choice" :aria-pressed="d.nodes === n" @click="d.nodes = n">
              {{ n }}
            </button>
          </div>
        </fieldset>
        <fieldset v-if="d.kind !== 'leaf' && d.kind !== 'wet_stick'">
          <legend>Leaves on it</legend>
          <div class="row">
            <button
              v-for="n in [0, ...counts].filter((c) => c <= Math.max(1, d.nodes))"
              :key="n"
              type="button"
              class="choice"
              :aria-pressed="d.leaves === n"
              @click="d.leaves = n"
            >
              {{ n === 0 ? 'none' : n }}
            </button>
          </div>
        </fieldset>
        <v-checkbox
          v-if="row.pose === 'crown'"
          v-model="d.ownRoots"
          label="It has roots of its own"
          hide-details
          density="compact"
        />
      </template>
    </div>
    <div class="panel stack">
      <h2>Where it stands</h2>
      <div class="row" role="group" aria-label="A new vessel">
        <button
          v-for="s in sorts"
          :key="s.kind"
          type="button"
          class="choice"
          :aria-pressed="d.vessel === `new:${s.kind}`"
          @click="d.vessel = `new:${s.kind}`"
        >
          new {{ s.label }} with {{ s.usual.medium }}
        </button>
        <button type="button" class="choice" :aria-pressed="d.vessel === ''" @click="d.vessel = ''">not set yet</button>
      </div>
      <v-select
        v-if="free.length"
        label="Or a vessel that is here"
        :model-value="isNew || !d.vessel ? null : d.vessel"
        :items="free"
        @update:model-value="(v: string) => (d.vessel = v)"
      />
      <div v-if="isNew" class="row">
        <v-text-field v-model="d.vesselName" class="name" label="Its name" :placeholder="proposed" persistent-placeholder />
        <v-combobox
          :model-value="place"
          class="name"
          label="Shelf"
          :items="shelf?.places.map((p) => p.name) ?? []"
          @update:model-value="(p: string | null) => (d.place = p ?? '')"
        />
      </div>
      <CautionNotes :hazards="[...(group?.hazards ?? []), 'trade_rules']" />
    </div>
    <div class="panel stack">
      <h2>Since when</h2>
      <div class="row">
        <DateField v-model="d.since" label="Cut, or come, on" :error-messages="bring.error.value?.about('since')" />
        <fieldset>
          <legend>Known to the</legend>
          <div class="row">
            <button
              v-for="k in ['day', 'week', 'month'] as const"
              :key="k"
              type="button"
              class="choice"
              :aria-pressed="d.knownTo === k"
              @click="d.knownTo = k"
            >
              {{ k }}
            </button>
          </div>
        </fieldset>
        <LengthField v-model="d.longest" class="short" label="Longest root seen" hint="left empty: not looked at" />
      </div>
    </div>
    <RefusalNote :error="bring.error.value" />
    <div class="row">
      <v-btn color="primary" :disabled="missing !== ''" :loading="bring.isPending.value" @click="save">Bring it in</v-btn>
      <span v-if="missing" class="soft">Still to say: {{ missing }}.</span>
      <v-btn variant="text" @click="d = blank()">Start anew</v-btn>
    </div>
  </div>
</template>

<style scoped>
.name {
  flex: 1 1 240px;
}
.short {
  flex: 1 1 220px;
  max-width: 260px;
}
p {
  margin: 0;
}
</style>
