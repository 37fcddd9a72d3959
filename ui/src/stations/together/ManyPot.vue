<script setup lang="ts">
import { useQueries } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'

import { api, newId, take, type Cutting } from '@/api/client'
import { useMany } from '@/api/many'
import { useShelf } from '@/api/queries'
import CautionNotes from '@/kit/CautionNotes.vue'
import DateField from '@/kit/DateField.vue'
import { instantOf, todayField } from '@/kit/dates'
import { len, said } from '@/kit/units'
import { verdictWord } from '@/kit/words'

import Refused from './RefusedOnes.vue'

/** Many into pots, each into the pot that its roots want; the mix for all of them. Those not ready are left out until ticked. */
const { pieces } = defineProps<{ pieces: Cutting[] }>()
const { data: shelf } = useShelf()
const pottings = useMany('potting', 'potted')
const advice = useQueries({
  queries: computed(() =>
    pieces.map((c) => ({
      queryKey: ['pot', c.id],
      queryFn: () => take(api.GET('/api/cuttings/{id}/pot', { params: { path: { id: c.id } } })),
    })),
  ),
})
const take1 = (i: number) => advice.value[i]?.data
const in_ = ref<string[]>([])
watch(
  () => pieces.map((c) => c.id).join(),
  () => (in_.value = pieces.filter((c) => c.judgement.to_pot).map((c) => c.id)),
  { immediate: true },
)
const flip = (id: string) => (in_.value = in_.value.includes(id) ? in_.value.filter((c) => c !== id) : [...in_.value, id])
const place = ref('')
watch(
  shelf,
  (s) => {
    if (s && !place.value)
      place.value =
        s.places.find((p) => p.id === s.vessels.find((v) => v.id === pieces[0]?.vessel_id)?.place_id)?.name ??
        s.places[0]?.name ??
        ''
  },
  { immediate: true },
)
const on = ref(todayField())
const going = computed(() => pieces.filter((c, i) => in_.value.includes(c.id) && take1(i)))
/** What all of them want of each part of a mix, ml. */
const mix = computed(() => {
  const by = new Map<string, number>()
  pieces.forEach((c, i) => {
    if (in_.value.includes(c.id)) for (const m of take1(i)?.mix ?? []) by.set(m.name, (by.get(m.name) ?? 0) + m.ml)
  })
  return [...by]
})
const told = ref('')
async function save() {
  const kept = await pottings.send(
    going.value.flatMap((c) => {
      const pot = take1(pieces.indexOf(c))?.pot
      return pot
        ? [{ name: c.code, content: { id: newId(), cutting_id: c.id, place: place.value, potted_on: instantOf(on.value), pot } }]
        : []
    }),
    (list) => `${list.map((k) => k.name).join(', ')} ${list.length === 1 ? 'was' : 'were'} potted.`,
  )
  told.value = kept.length ? `Potted: ${kept.map((k) => k.name).join(', ')}.` : ''
}
</script>

<template>
  <section class="stack" aria-label="Pot all">
    <ul>
      <li v-for="(c, i) in pieces" :key="c.id">
        <button type="button" class="choice" :aria-pressed="in_.includes(c.id)" @click="flip(c.id)">
          <span class="code">{{ c.code }}</span>
        </button>
        <span>
          <strong :style="{ color: `var(--${c.judgement.verdict})` }">{{ verdictWord[c.judgement.verdict] }}</strong><template
            v-if="take1(i)"
            >: {{ len(take1(i)?.pot.top_mm ?? 0) }} pot, {{ Math.round(take1(i)?.mix_ml ?? 0) }} ml.
            <span class="soft">{{ said(take1(i)?.reasons[0] ?? '') }}</span>
            <span v-if="!c.judgement.to_pot && in_.includes(c.id)" class="early">{{
              c.judgement.caution || 'The verdict is not to pot it yet: you know your plant.'
            }}</span>
          </template>
        </span>
      </li>
    </ul>
    <p v-if="mix.length">
      Mix for all of them:
      <template v-for="([name, ml], i) in mix" :key="name"
        ><template v-if="i">, </template><b>{{ Math.round(ml) }} ml</b> {{ name }}</template
      >. <router-link :to="{ name: 'mix', query: { of: 'parts' } }">Mixing corner</router-link>
    </p>
    <CautionNotes :hazards="['peat_dust']" />
    <div class="row">
      <v-combobox v-model="place" class="grow" label="Where the pots stand" :items="shelf?.places.map((p) => p.name) ?? []" />
      <DateField v-model="on" label="Potted on" />
      <v-btn color="primary" :loading="pottings.isPending.value" :disabled="!going.length || !place" @click="save"
        >{{ going.length === 1 ? 'It is' : `All ${going.length} are` }} potted</v-btn
      >
    </div>
    <p v-if="told" role="status">{{ told }}</p>
    <Refused :refused="pottings.refused.value" :waits="pottings.waits.value" />
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  display: grid;
  grid-template-columns: 150px 1fr;
  gap: 12px;
  align-items: center;
  padding: 7px 0;
  border-top: 1px solid var(--line);
}
.early {
  display: block;
  color: var(--look);
}
.grow {
  flex: 1 1 200px;
}
p {
  margin: 0;
}
</style>
