<script setup lang="ts">
import { useDebounceFn, useStorage } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { api, photoUrl, readRoots, take, type Schemas } from '@/api/client'
import { photoOnItsWay, postPhoto } from '@/api/outbox'
import { useCutting, useCuttingsInPhoto, useHandbook, useRecordLook } from '@/api/queries'
import AskState from '@/kit/AskState.vue'
import DateField from '@/kit/DateField.vue'
import { instantOf, todayField } from '@/kit/dates'
import LengthField from '@/kit/LengthField.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { len, said } from '@/kit/units'

import {
  emptyLook,
  lookOf,
  reopened,
  rootKey,
  scaled,
  untyped,
  type BoardMode,
  type DraftRoot,
  type LookDraft,
  type Lengths,
  type Pt,
  type RootColour,
} from './lookDraft'
import LookNotes from './LookNotes.vue'
import PhotoPick from './PhotoPick.vue'
import RootRows from './RootRows.vue'
import { useSighting, type RootSeen } from './sighting'
import SightPanel from './SightPanel.vue'
import TraceBoard from './TraceBoard.vue'

const route = useRoute()
const router = useRouter()
const id = String(route.params['id'])
const lookId = typeof route.query['look'] === 'string' ? route.query['look'] : undefined
const { data: page, isPending, error, refetch } = useCutting(id)

/** A photo that was taken before its cutting was known: what was begun without it, or on another, stays as it was left. */
const given = typeof route.query['photo'] === 'string' ? route.query['photo'] : ''
/** Survives a reload, a lost connection and a closed tab until it is saved. */
const draftKey = `clearjar.draft.look.${lookId ?? (given ? `${id}.${given}` : id)}`
const draft = useStorage<LookDraft>(draftKey, emptyLook(todayField()))
watch(
  page,
  (p) => {
    const old = p?.looks.find((l) => l.id === lookId)
    if (old && draft.value.replaces !== old.id) draft.value = reopened(old, todayField(new Date(old.looked_at)))
  },
  { immediate: true },
)

const { data: book } = useHandbook()
/** What it stands in now: a pot is filled with what one pots into. */
const medium = computed(() => {
  const c = page.value?.cutting
  const is = c?.potted_on ? book.value?.potted_in : (c?.medium ?? book.value?.media[0]?.medium)
  return book.value?.media.find((m) => m.medium === is)
})
const nodes = computed(() => page.value?.cutting.nodes.length ?? 1)
/** Nodes that were cut back are gone: what is seen is seen on those that are left. */
const lowest = computed(() => (page.value?.cutting.gone_nodes ?? 0) + 1)
// A draft kept by an earlier version had a length for every row.
for (const r of draft.value.roots) r.typed ??= r.typedMm !== null
const chosen = ref<string>()
/** A look that was measured by two points goes on so. */
const mode = ref<BoardMode>(draft.value.scale.a ? 'trace' : 'nodes')
const board = useTemplateRef('board')
const points = computed(() => Array.from({ length: nodes.value - lowest.value + 1 }, (_, i) => i + lowest.value))
/** Two points by hand are the way without a tag. */
const byHand = computed(() => mode.value === 'scale' || mode.value === 'trace')
const look = useSighting(id, draft, points, byHand)
watch(
  () => draft.value.replaces,
  () => {
    if (draft.value.scale.a) mode.value = 'trace'
  },
)
watch(look.nextNode, (next) => {
  if (mode.value === 'nodes' && next === undefined) mode.value = 'roots'
  else if (mode.value === 'roots' && next !== undefined) mode.value = 'nodes'
})
async function tapped(p: Pt) {
  const key = await look.tap(
    p,
    draft.value.roots.find((r) => r.key === chosen.value),
  )
  if (key) chosen.value = key
}
function takeUp(p: RootSeen) {
  chosen.value = look.accept(p)
}
function takeUpAll() {
  board.value?.before()
  look.acceptAll()
}
/** A root that was given to another node is followed to it. */
async function giveTo(r: DraftRoot) {
  if (!byHand.value && draft.value.sight) await look.giveTo(r, r.node)
}

const { data: inGiven, error: givenError } = useCuttingsInPhoto(given, () => Boolean(given))
watch(
  inGiven,
  (g) => {
    if (!g || draft.value.photo?.id === g.photo.id) return
    draft.value = { ...emptyLook(todayField(new Date(g.photo.taken_at))), photo: g.photo }
    mode.value = 'nodes'
  },
  { immediate: true },
)
/** The other cuttings in the photo, to go on with in the same one. */
const others = computed(() => (look.seen.value?.others ?? []).filter((o) => o.cutting_id !== id))

/** A photo is laid down and sent; when nobody answers it waits, and can be traced meanwhile. */
const sending = ref(false)
const photoError = ref<Error>()
const photoWaits = ref(false)
let here = true
onBeforeUnmount(() => (here = false))
const src = computed(() => {
  const photo = draft.value.photo
  return photo ? (photoOnItsWay(photo.id) ?? photoUrl(photo.id, 1600, photo.turn)) : ''
})
function choosePhoto(file: File) {
  photoError.value = undefined
  if (file.size > 25 * 1024 * 1024) {
    photoError.value = new Error(
      `${Math.round(file.size / 1048576)} MB is too large: a photo may have at most 25 MB. Nothing was sent.`,
    )
    return
  }
  sending.value = true
  const take = (photo: Schemas['Photo']) => {
    sending.value = false
    draft.value.photo = photo
    mode.value = 'nodes'
  }
  const sent = postPhoto(file, {
    here: () => here,
    kept: (photo) => {
      const first = photoWaits.value
      photoWaits.value = false
      if (!first && photo.taken_from === 'exif') draft.value.lookedOn = todayField(new Date(photo.taken_at))
      if (!first || draft.value.photo) take(photo)
    },
    waits: () => void beforeItArrives(file, sent),
    refused: (why) => {
      sending.value = false
      photoWaits.value = false
      delete draft.value.photo
      photoError.value = why
    },
  })
  /** Nobody answers: what the browser can tell of it will do until it has arrived. */
  async function beforeItArrives(of: Blob, its: Promise<string>) {
    if (photoWaits.value) return
    photoWaits.value = true
    const picture = await createImageBitmap(of).catch(() => undefined)
    if (!picture || !photoWaits.value) return
    const at = new Date().toISOString()
    const size = { width_px: picture.width, height_px: picture.height }
    take({ id: await its, ...size, turn: 1, sha256: '', taken_at: at, taken_from: 'upload', remark: '' })
  }
}

/** The camera did not know which way was up. */
async function turnPhoto() {
  const photo = draft.value.photo
  if (!photo) return
  photoError.value = undefined
  try {
    const turned = await take(api.POST('/api/photos/{id}/turn', { params: { path: { id: photo.id } }, body: { quarters: 1 } }))
    // Places on it lie elsewhere now; what was noted beside it stays.
    const noted = { ...draft.value, scale: { distanceMm: draft.value.scale.distanceMm }, photo: turned }
    for (const key of ['nodesAt', 'edges', 'waterY', 'sight', 'carried', 'left'] as const) Reflect.deleteProperty(noted, key)
    draft.value = noted
    mode.value = 'nodes'
  } catch (why) {
    photoError.value = why as Error
  }
}

/** Lengths come from the core, as you go. */
const lengths = ref<Lengths>(new Map())
const assumed = ref<string[]>([])
const measureError = ref<Error>()
const scaleReady = computed(() => scaled(draft.value))
let asked = 0
const measure = useDebounceFn(
  async () => {
    const { a, b, distanceMm } = draft.value.scale
    const traced = draft.value.roots.filter((r) => r.path.length > 1 && !r.typed && !r.known)
    const byPoints = a && b && distanceMm !== null
    if (!byPoints && !draft.value.sight) return
    const mine = ++asked
    try {
      const body = {
        ...(byPoints
          ? { scale: { a, b, distance_mm: Number(distanceMm) } }
          : {
              sight: draft.value.sight as Schemas['Sight'],
              cutting_id: id,
              looked_at: instantOf(draft.value.lookedOn) || draft.value.lookedOn,
            }),
        paths: traced.map((r) => r.path),
        round_jar: Boolean(page.value?.vessel?.round && page.value.vessel.clear),
      }
      const got: Schemas['Result'] = await take(api.POST('/api/measure', { body }))
      if (mine !== asked) return
      lengths.value = new Map(traced.map((r, i) => [r.key, got.roots[i] ?? { length_mm: 0, low_mm: 0, high_mm: 0 }]))
      assumed.value = got.assumed
      measureError.value = undefined
    } catch (e) {
      if (mine !== asked) return
      measureError.value = e as Error
      lengths.value = new Map()
    }
  },
  60,
  { maxWait: 200 },
)
watch(
  () => [
    draft.value.scale,
    draft.value.sight,
    draft.value.lookedOn,
    draft.value.roots.map((r) => r.path),
    page.value?.vessel?.kind,
  ],
  () => void measure(),
  { deep: true, immediate: true },
)

function addTyped() {
  draft.value.roots.push({ key: rootKey(), node: lowest.value, order: 1, colour: '', path: [], typed: true, typedMm: null })
}

const unmeasured = computed(() =>
  scaled(draft.value) ? 0 : draft.value.roots.filter((r) => r.path.length > 1 && !r.typed && !r.known).length,
)
const empty = computed(() => untyped(draft.value))
const record = useRecordLook()
const saved = ref(false)
async function save() {
  const d = draft.value
  const made = await record
    .mutateAsync(
      {
        cutting_id: id,
        looked_at: instantOf(d.lookedOn) || d.lookedOn,
        ...(d.photo ? { photo_id: d.photo.id } : {}),
        ...(d.replaces ? { replaces: d.replaces } : {}),
        seen: lookOf(d, nodes.value),
      },
      draftKey,
    )
    .catch(() => undefined)
  if (!made) return
  saved.value = true
  draft.value = emptyLook(todayField())
  // Several photos that wait to be looked at are gone through one after the other.
  if (given && !d.replaces) await router.push({ name: 'photo' })
  else await router.push({ name: 'cutting', params: { id }, query: d.replaces ? {} : { looked: '1' } })
}
/** Lines another program traced on this photo. */
const rsmlError = ref<Error>()
async function openRoots(e: Event) {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  rsmlError.value = undefined
  try {
    const roots = await readRoots(file)
    board.value?.before()
    for (const r of roots) {
      draft.value.roots.push({
        key: rootKey(),
        node: Math.min(Math.max(r.node, lowest.value), nodes.value),
        order: r.order === 2 ? 2 : 1,
        colour: r.colour ?? '',
        path: r.path ?? [],
        typed: false,
        typedMm: null,
      })
    }
  } catch (why) {
    rsmlError.value = why as Error
  }
}
function measureItself() {
  draft.value.scale = { distanceMm: null }
  mode.value = look.nextNode.value === undefined ? 'roots' : 'nodes'
}
function startAnew() {
  draft.value = emptyLook(todayField())
  lengths.value = new Map()
  if (lookId) void router.replace({ name: 'look', params: { id } })
}
</script>

<template>
  <div class="page stack">
    <AskState :pending="isPending" :error="error" what="this cutting" @retry="refetch()" />
    <template v-if="page && draft">
      <div class="row">
        <h1>
          {{ draft.replaces ? 'Correct a look at' : 'Look at' }} <span class="code">{{ page.cutting.code }}</span>
        </h1>
        <span class="soft">{{ page.cutting.mother_name }}. What you leave out counts as not noted. Earlier looks stay.</span>
      </div>
      <div class="two">
        <section class="stack" aria-label="Photo">
          <div v-if="!draft.photo" class="panel stack drop">
            <p>
              Photograph the roots with a ruler or the tag in the frame: same spot, same light, same distance each time. Or go on
              without a photo and type the lengths.
            </p>
            <div class="row">
              <PhotoPick @picked="choosePhoto" />
            </div>
            <p class="soft">JPEG or PNG, up to 25 MB and 60 megapixels; HEIC up to 30 megapixels, which takes longer.</p>
          </div>
          <div v-if="sending" class="panel row" role="status">
            <v-progress-linear indeterminate color="primary" />
            Sending the photo and checking it
          </div>
          <RefusalNote :error="photoError ?? givenError ?? undefined" />
          <p v-if="photoWaits" class="caution" role="status">
            The photo is not sent yet: it is kept in this browser and goes out by itself, before the look that names it. Lengths
            are measured once it has arrived.
          </p>
          <template v-if="draft.photo">
            <TraceBoard
              ref="board"
              v-model:mode="mode"
              v-model:chosen="chosen"
              v-model:act="look.act.value"
              :draft="draft"
              :src="src"
              :lengths="lengths"
              :nodes="nodes"
              :proposals="look.proposals.value"
              :tags="look.seen.value?.tags ?? []"
              :next-node="look.nextNode.value"
              :following="look.following.value"
              :words="page.words"
              :earlier="look.seen.value?.before"
              :others="others"
              @tap="tapped"
              @accept="takeUp"
            />
            <p v-if="draft.photo.remark" class="caution">{{ draft.photo.remark }}</p>
          </template>
        </section>
        <section class="stack" aria-label="What you see">
          <DateField v-model="draft.lookedOn" label="Looked on" :error-messages="record.error.value?.about('looked_at')" />
          <template v-if="draft.photo">
            <SightPanel
              v-if="!byHand"
              :draft="draft"
              :sighting="look.sighting.value"
              :proposals="look.proposals.value.length"
              :next-node="look.nextNode.value"
              :working="look.working.value"
              :problem="look.problem.value"
              :words="page.words"
              :healthy="page.group.root_colours as RootColour[]"
              :others="others"
              :photo-id="draft.photo.id"
              :liquid="Boolean(medium?.liquid)"
              @accept-all="takeUpAll"
              @stop="look.stop"
              @again="look.ask"
            />
            <div v-else class="panel stack">
              <h2>Scale by two points</h2>
              <p class="soft">
                Click two points a known distance apart: two marks of a ruler, or the ends of the {{ len(50) }} bar on the tag.
              </p>
              <div class="row">
                <v-btn
                  :variant="mode === 'scale' ? 'flat' : 'outlined'"
                  :color="mode === 'scale' ? 'secondary' : undefined"
                  @click="mode = 'scale'"
                >
                  {{ draft.scale.a && draft.scale.b ? 'Set the two points again' : 'Set the two points' }}
                </v-btn>
                <LengthField v-model="draft.scale.distanceMm" class="short" label="Between them" />
              </div>
            </div>
            <div class="row">
              <v-btn
                v-if="draft.photo.sha256 && !draft.replaces && !draft.roots.length"
                size="small"
                variant="text"
                @click="turnPhoto"
                >Turn the photo</v-btn
              >
              <v-btn v-if="!byHand" size="small" variant="text" @click="mode = 'scale'">Measure by two points instead</v-btn>
              <v-btn v-else size="small" variant="text" @click="measureItself">Let the photo measure itself</v-btn>
            </div>
            <RefusalNote :error="measureError" />
          </template>
          <div class="panel stack">
            <div class="row">
              <h2>Roots</h2>
              <v-btn
                v-if="draft.photo && byHand"
                size="small"
                :variant="mode === 'trace' ? 'flat' : 'outlined'"
                :color="mode === 'trace' ? 'secondary' : undefined"
                @click="mode = 'trace'"
                >Trace on the photo</v-btn
              >
              <v-btn size="small" variant="outlined" @click="addTyped">Type a length</v-btn>
            </div>
            <RootRows
              v-model:chosen="chosen"
              :draft="draft"
              :lengths="lengths"
              :lowest="lowest"
              :nodes="nodes"
              :scale-ready="Boolean(scaleReady)"
              @given="giveTo"
            />
            <div v-if="draft.photo" class="row files">
              <label class="open"
                ><input type="file" accept=".rsml,.xml" data-testid="rsml-file" @change="openRoots" /><span
                  >Open lines from an RSML file</span
                ></label
              >
              <template v-if="draft.replaces">
                <a :href="`/api/looks/${draft.replaces}/roots?format=rsml`">Kept lines as RSML</a>
                <a :href="`/api/looks/${draft.replaces}/roots?format=csv`">as CSV</a>
              </template>
            </div>
            <RefusalNote :error="rsmlError" />
            <v-checkbox
              v-if="!draft.roots.length"
              v-model="draft.counted"
              label="I looked: no roots yet"
              hide-details
              density="compact"
            />
            <details v-if="assumed.length && draft.roots.some((r) => r.path.length)">
              <summary>What these lengths rest on</summary>
              <p v-for="a in assumed" :key="a" class="soft">{{ said(a) }}</p>
            </details>
          </div>
          <LookNotes :draft="draft" :lowest="lowest" :nodes="nodes" :words="page.words" :medium="medium" />
          <p v-if="empty" class="caution">
            {{ empty === 1 ? 'One row has' : `${empty} rows have` }} no length typed: it is not recorded.
          </p>
          <RefusalNote :error="record.error.value" />
          <p v-if="unmeasured" class="caution">
            {{ unmeasured }} traced {{ unmeasured === 1 ? 'root has' : 'roots have' }} no length yet: set the scale, or type the
            lengths. They are kept on this screen, but not in the look.
          </p>
          <div class="row">
            <v-btn color="primary" :loading="record.isPending.value" :disabled="sending" @click="save">Save the look</v-btn>
            <v-btn variant="text" @click="startAnew">Start anew</v-btn>
          </div>
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr);
  gap: 18px;
  align-items: start;
}
.short {
  max-width: 190px;
}
p {
  margin: 0;
}
.drop {
  padding: 26px;
}
.open input {
  position: absolute;
  opacity: 0;
  width: 1px;
  height: 1px;
}
.open span,
.files a {
  display: inline-flex;
  align-items: center;
  min-height: var(--touch);
  text-decoration: underline;
  cursor: pointer;
  font-size: var(--beside);
}
.open input:focus-visible + span {
  outline: 3px solid var(--ink);
}
@media (max-width: 860px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
