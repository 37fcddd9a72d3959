<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { computed } from 'vue'

import type { Handbook, MappedStem, Mother, Schemas } from '@/api/client'
import { len } from '@/kit/units'
import { organWord, pointsOf } from '@/kit/words'

import CountField from '@/kit/CountField.vue'
import type { Wish } from './cutPlan'
import PickOne from './PickOne.vue'
import WishChip from './WishChip.vue'

/** Aim, limits and schools on one strip; each chip opens its controls. */
const { book, mother, stems, dark } = defineProps<{ book: Handbook; mother: Mother; stems: MappedStem[]; dark: boolean }>()
const wish = defineModel<Wish>({ required: true })
const also = defineModel<string[]>('also', { required: true })
const skip = defineModel<Record<string, number[]>>('skip', { required: true })

const l = computed(() => wish.value.limits)
const c = computed(() => wish.value.conditions)
type Aim = NonNullable<Schemas['Aim']['kind']>
type Conditions = Schemas['Conditions']

const aim = computed({ get: () => wish.value.aim.kind ?? 'expected', set: setAim })
function setAim(kind: Aim) {
  wish.value.aim = kind === 'at_least' ? { kind, at_least: wish.value.aim.at_least ?? 2 } : { kind }
}
const atLeast = computed({ get: () => wish.value.aim.at_least ?? 2, set: (n) => (wish.value.aim.at_least = n) })
const cutBack = computed({ get: () => wish.value.aim.cut_back_to ?? 0, set: (n) => (wish.value.aim.cut_back_to = n) })

/** A condition that is left out when it is what one usually does. */
function condition<K extends keyof Conditions>(key: K, usual: NonNullable<Conditions[K]>) {
  return computed<NonNullable<Conditions[K]>>({
    get: () => wish.value.conditions[key] ?? usual,
    set: (v) => (wish.value.conditions = { ...wish.value.conditions, [key]: v }),
  })
}
const medium = condition('medium', mother.group.media[0] as NonNullable<Conditions['medium']>)
const knife = condition('knife', 'mid')
const leaves = condition('leaves', 'keep')
const hormone = computed({
  get: () => (wish.value.conditions.hormone ? 'yes' : 'no'),
  set: (v: string) => (wish.value.conditions = { ...wish.value.conditions, hormone: v === 'yes' }),
})
const wet = computed({
  get: () => wish.value.conditions.set_wet ?? false,
  set: (v) => (wish.value.conditions = { ...wish.value.conditions, set_wet: v }),
})
function without(key: 'season' | 'cover', v: string) {
  const rest: Conditions = { ...wish.value.conditions }
  delete rest[key]
  wish.value.conditions = v === 'usual' ? rest : { ...rest, [key]: v }
}
const season = computed({ get: () => c.value.season ?? 'usual', set: (v: string) => without('season', v) })
const cover = computed({ get: () => c.value.cover ?? 'usual', set: (v: string) => without('cover', v) })
const lost = computed({
  get: () => Math.round((c.value.roots_lost ?? 0) * 100),
  set: (v) => (wish.value.conditions = { ...wish.value.conditions, roots_lost: v / 100 }),
})

const options = (list: { key: string; label: string; why: string }[]) => list as { key: never; label: string; why: string }[]
const label = (list: { key: string; label: string }[], key: string) => list.find((s) => s.key === key)?.label ?? key
const media = computed(() =>
  book.media.map(({ medium: key }) => ({
    key: key as NonNullable<Wish['conditions']['medium']>,
    label: key,
    why: mother.group.media.includes(key)
      ? mother.group.media[0] === key
        ? 'first choice of the group'
        : ''
      : 'unusual for the group',
  })),
)
const plural = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`
const aimText = computed(() =>
  aim.value === 'at_least'
    ? `at least ${plural(atLeast.value, 'plant', 'plants')}`
    : label(
        book.aims.map((a) => ({ key: a.kind, label: a.label })),
        aim.value,
      ),
)
/** A leaf or a tuber is off the mother already: there is nothing to keep. */
const detached = computed(() => stems.every((s) => book.organs.find((o) => o.organ === s.organ)?.detached))
/** The wishes in one line; it opens to change them. */
const open = useStorage('clearjar.wishes.open', false)
const line = computed(() =>
  [
    aimText.value,
    `pieces of ${l.value.least_nodes} to ${pointsOf(stems[0]?.organ ?? 'stem', l.value.most_nodes)}`,
    detached.value ? '' : `mother keeps ${plural(l.value.keep_leaves, 'leaf', 'leaves')}`,
    `into ${medium.value}`,
    isStem.value ? label(book.knife_schools, knife.value) : '',
    `${c.value.season ?? (dark ? 'dark' : 'bright')} half of the year`,
    leftOut.value.length ? `without ${leftOut.value.join(', ')}` : '',
  ]
    .filter(Boolean)
    .join(', '),
)
const others = computed(() => mother.stems.filter((s) => s.id !== stems[0]?.id))
const isClump = computed(() => stems.some((s) => book.organs.find((o) => o.organ === s.organ)?.crowned))
const isStem = computed(() => stems.every((s) => s.organ === 'stem' || s.organ === 'rhizome'))
const leftOut = computed(() => stems.flatMap((s) => (skip.value[s.id] ?? []).map((n) => `${s.letter}${n}`)))
function toggleSkip(stem: string, n: number) {
  const had = skip.value[stem] ?? []
  skip.value = { ...skip.value, [stem]: had.includes(n) ? had.filter((m) => m !== n) : [...had, n].sort((a, b) => a - b) }
}
const toggleStem = (id: string) =>
  (also.value = also.value.includes(id) ? also.value.filter((s) => s !== id) : [...also.value, id])
</script>

<template>
  <div class="fold">
    <button type="button" class="line" :aria-expanded="open" aria-controls="wishes" @click="open = !open">
      <span>{{ line }}</span> <b>{{ open ? 'fold' : 'change' }}</b>
    </button>
    <div v-if="open" id="wishes" class="strip" role="group" aria-label="Aim, limits and schools">
      <WishChip label="Aim" :value="aimText">
        <PickOne
          v-model="aim"
          legend="Aim"
          :options="book.aims.map((a) => ({ key: a.kind as Aim, label: a.label, why: a.means }))"
        />
        <CountField v-if="aim === 'at_least'" v-model="atLeast" label="Plants wanted" :min="1" :max="30" />
        <CountField v-if="aim === 'reshape'" v-model="cutBack" label="Cut back to node (0: propose)" :min="0" :max="60" />
      </WishChip>
      <WishChip label="Nodes in a piece" :value="`${l.least_nodes} to ${l.most_nodes}, tip to ${l.tip_most}`">
        <CountField v-model="l.least_nodes" label="At least" :min="1" :max="10" />
        <CountField v-model="l.most_nodes" label="At most" :min="1" :max="10" />
        <CountField v-model="l.tip_most" label="Tip at most" :min="1" :max="12" />
        <CountField
          :model-value="l.tip_bare ?? 0"
          label="Bare nodes below the tip's leaves"
          :min="0"
          :max="4"
          @update:model-value="l.tip_bare = $event"
        />
      </WishChip>
      <WishChip
        v-if="!detached"
        label="Mother keeps"
        :value="`${plural(l.keep_leaves, 'leaf', 'leaves')}, ${plural(l.keep_nodes, 'node', 'nodes')}`"
      >
        <CountField v-model="l.keep_leaves" label="Leaves" :min="0" :max="20" />
        <CountField v-model="l.keep_nodes" label="Nodes on each stem" :min="0" :max="60" />
        <CountField v-if="isClump" v-model="lost" label="Roots lost in parting" :min="0" :max="100" :step="5" unit="%" />
      </WishChip>
      <WishChip
        label="Room"
        :value="`${l.most_pieces ? plural(l.most_pieces, 'place', 'places') : 'any number'}${l.most_length_mm ? `, ${len(l.most_length_mm)}` : ''}`"
      >
        <CountField v-model="l.most_pieces" label="Places in the vessels (0: any)" :min="0" :max="60" />
        <CountField
          :model-value="l.most_length_mm ?? 0"
          label="Longest piece (0: any)"
          :min="0"
          :max="5000"
          :step="10"
          unit="mm"
          @update:model-value="l.most_length_mm = $event"
        />
      </WishChip>
      <WishChip v-if="isStem" label="Knife" :value="label(book.knife_schools, knife)">
        <PickOne v-model="knife" legend="Where the knife goes" :options="options(book.knife_schools)" />
      </WishChip>
      <WishChip v-if="isStem" label="Leaves" :value="l.no_strip ? 'none stripped' : label(book.leaf_schools, leaves)">
        <PickOne v-model="leaves" legend="Leaves" :options="options(book.leaf_schools)" />
        <v-checkbox
          :model-value="!l.no_strip"
          label="Leaves may be stripped where they would sit in the medium"
          hide-details
          density="compact"
          @update:model-value="l.no_strip = !$event"
        />
      </WishChip>
      <WishChip label="Into" :value="`${medium}${cover === 'usual' ? '' : `, ${cover}`}`">
        <PickOne v-model="medium" legend="Medium" :options="media" />
        <PickOne
          v-model="cover"
          legend="Cover"
          :options="[
            { key: 'usual', label: 'cover as usual' },
            { key: 'covered', label: 'closed over' },
            { key: 'open', label: 'open' },
          ]"
        />
        <v-checkbox v-model="wet" label="Set at once, without letting the faces dry" hide-details density="compact" />
      </WishChip>
      <WishChip label="Hormone" :value="hormone === 'yes' ? 'yes' : 'none'">
        <PickOne
          v-model="hormone"
          legend="Hormone"
          :options="[
            { key: 'no', label: 'none', why: 'easy vines do without' },
            { key: 'yes', label: 'powder or gel', why: 'useful for slow rooters; follow the label' },
          ]"
        />
      </WishChip>
      <WishChip label="Season" :value="`${c.season ?? (dark ? 'dark' : 'bright')} half${c.season ? '' : ', by the date'}`">
        <PickOne
          v-model="season"
          legend="Season"
          :options="[
            { key: 'usual', label: 'by the date', why: 'northern half of the earth' },
            { key: 'bright', label: 'bright half of the year' },
            { key: 'dark', label: 'dark half of the year' },
          ]"
        />
      </WishChip>
      <WishChip label="Leave out" :value="leftOut.length ? leftOut.join(', ') : 'no node'">
        <div v-for="s in stems" :key="s.id" class="nodes" role="group" :aria-label="`Nodes of stem ${s.letter}`">
          <span class="soft">Stem {{ s.letter }}</span>
          <button
            v-for="n in s.standing"
            :key="n"
            type="button"
            :aria-pressed="(skip[s.id] ?? []).includes(n)"
            :aria-label="`Leave out node ${n} of stem ${s.letter}`"
            @click="toggleSkip(s.id, n)"
          >
            {{ n }}
          </button>
        </div>
      </WishChip>
      <WishChip v-if="others.length" label="Stems" :value="stems.map((s) => s.letter).join(' + ')">
        <p class="soft">Planned together, stems share the places and the leaves that stay.</p>
        <v-checkbox
          v-for="s in others"
          :key="s.id"
          :model-value="also.includes(s.id)"
          :label="`${organWord[s.organ]} ${s.letter}, ${s.standing} standing`"
          hide-details
          density="compact"
          @update:model-value="toggleStem(s.id)"
        />
      </WishChip>
    </div>
  </div>
</template>

<style scoped>
.fold {
  display: grid;
  gap: 8px;
  grid-template-columns: minmax(0, 1fr);
}
.line {
  display: flex;
  gap: 12px;
  align-items: center;
  text-align: left;
  min-height: var(--touch);
  padding: 4px 14px;
  border: 1px solid var(--line);
  border-radius: var(--card-corner);
  background: var(--card);
}
.line span {
  flex: 1;
  min-width: 0;
}
.line b {
  text-decoration: underline;
}
.strip {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.nodes {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
.nodes button {
  width: 44px;
  height: 44px;
  border: 1px solid var(--line);
  border-radius: var(--corner);
}
.nodes button[aria-pressed='true'] {
  background: var(--rescue);
  color: var(--card);
}
p {
  margin: 0;
}
@media (max-width: 700px) {
  .strip {
    display: grid;
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
