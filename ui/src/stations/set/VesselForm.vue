<script setup lang="ts">
import { computed, watch } from 'vue'

import type { Refusal, Schemas } from '@/api/client'
import { useHandbook, useShelf } from '@/api/queries'
import LengthField from '@/kit/LengthField.vue'

/** A vessel that is new: its kind, what is in it and of what that is mixed, how its cover stands, its measures. */
export type Fresh = Omit<Schemas['NewVessel'], 'id' | 'since' | 'cover'> & { cover?: Schemas['NewVessel']['cover'] | undefined }
const fresh = defineModel<Fresh>({ required: true })
const { error } = defineProps<{ error: Refusal | undefined }>()
const { data: book } = useHandbook()
const { data: shelf } = useShelf()
const sort = computed(() => book.value?.vessels.find((s) => s.kind === fresh.value.kind))
const medium = computed(() => book.value?.media.find((m) => m.medium === fresh.value.medium))
const takes = computed(() => book.value?.media.filter((m) => !(sort.value?.drains && m.liquid)) ?? [])
/** A kind comes with its usual measures, and what is usually in it. */
function begin(kind: Fresh['kind']) {
  const usual = book.value?.vessels.find((s) => s.kind === kind)?.usual
  const place = fresh.value.place || (shelf.value ? (shelf.value.places[0]?.name ?? 'Window sill') : '')
  fresh.value = { ...fresh.value, place, kind, ...(usual ? { ...usual, cover: undefined, parts: [] } : {}) }
}
watch(
  [book, shelf],
  () => {
    if (book.value && shelf.value && !(fresh.value.width_mm > 0)) begin(fresh.value.kind)
  },
  { immediate: true },
)
const set = <K extends keyof Fresh>(key: K, value: Fresh[K]) => (fresh.value = { ...fresh.value, [key]: value })
const about = (field: string) => error?.about(field)
const parts = computed(() => fresh.value.parts ?? [])
const usualCover = computed(
  () => (medium.value?.cover ? sort.value?.covers[0]?.state : sort.value?.covers.at(-1)?.state) ?? undefined,
)
const change = (i: number, of: Partial<Schemas['MediumPart']>) =>
  set(
    'parts',
    parts.value.map((p, j) => (i === j ? { ...p, ...of } : p)),
  )
</script>

<template>
  <div class="panel fresh">
    <v-text-field
      :model-value="fresh.name"
      label="Name of the vessel"
      :error-messages="about('name')"
      @update:model-value="set('name', $event)"
    />
    <v-combobox
      :model-value="fresh.place"
      label="Shelf"
      :items="shelf?.places.map((p) => p.name) ?? []"
      :error-messages="about('place')"
      @update:model-value="set('place', $event ?? '')"
    />
    <v-select
      :model-value="fresh.kind"
      label="Kind"
      :items="book?.vessels.map((s) => ({ title: s.label, value: s.kind })) ?? []"
      @update:model-value="begin($event)"
    />
    <v-select
      :model-value="fresh.medium"
      label="What is in it"
      :items="takes.map((m) => ({ title: m.medium, value: m.medium }))"
      :error-messages="about('medium')"
      @update:model-value="set('medium', $event)"
    />
    <div v-if="medium && !medium.liquid" class="wide stack">
      <div v-for="(p, i) in parts" :key="i" class="row part">
        <v-text-field
          :model-value="p.of"
          :label="`Part ${i + 1}: of what`"
          maxlength="40"
          :error-messages="about('parts')"
          @update:model-value="change(i, { of: $event })"
        />
        <v-text-field
          :model-value="p.parts"
          type="number"
          min="0.1"
          label="Parts"
          @update:model-value="change(i, { parts: Number($event) })"
        />
        <v-btn
          variant="text"
          :aria-label="`Take part ${i + 1} out`"
          @click="
            set(
              'parts',
              parts.filter((_, j) => j !== i),
            )
          "
          >take out</v-btn
        >
      </div>
      <v-btn v-if="parts.length < 6" class="self" variant="text" @click="set('parts', [...parts, { of: '', parts: 1 }])">{{
        parts.length ? 'Another part' : 'Say what it is mixed of, by parts'
      }}</v-btn>
    </div>
    <v-select
      v-if="(sort?.covers.length ?? 0) > 1"
      class="wide"
      :model-value="fresh.cover ?? usualCover ?? null"
      label="Its cover"
      :items="sort?.covers.map((w) => ({ title: w.label, value: w.state })) ?? []"
      :error-messages="about('cover')"
      @update:model-value="set('cover', $event ?? undefined)"
    />
    <LengthField
      :model-value="fresh.width_mm"
      :label="sort?.round ? 'Inner diameter' : 'Inner width'"
      :error-messages="about('width_mm')"
      @update:model-value="set('width_mm', $event ?? 0)"
    />
    <LengthField
      v-if="!sort?.round"
      :model-value="fresh.depth_mm"
      label="Inner depth"
      :error-messages="about('depth_mm')"
      @update:model-value="set('depth_mm', $event ?? 0)"
    />
    <LengthField
      :model-value="fresh.height_mm"
      label="Height"
      :error-messages="about('height_mm')"
      @update:model-value="set('height_mm', $event ?? 0)"
    />
    <LengthField
      :model-value="fresh.fill_mm"
      :label="medium?.fill ?? 'fill'"
      :error-messages="about('fill_mm')"
      @update:model-value="set('fill_mm', $event ?? 0)"
    />
    <v-text-field
      :model-value="fresh.holds"
      type="number"
      label="Holds how many"
      :error-messages="about('holds')"
      @update:model-value="set('holds', Number($event))"
    />
  </div>
</template>

<style scoped>
.fresh {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.wide {
  grid-column: 1 / -1;
}
.part > :first-child {
  flex: 3 1 140px;
}
.part > :nth-child(2) {
  flex: 1 1 80px;
}
.self {
  justify-self: start;
}
@media (max-width: 800px) {
  .fresh {
    grid-template-columns: 1fr;
  }
}
</style>
