<script setup lang="ts">
import { computed, reactive, ref } from 'vue'

import type { Mother, Schemas } from '@/api/client'
import { usePotMother } from '@/api/queries'
import CountField from '@/kit/CountField.vue'
import DateField from '@/kit/DateField.vue'
import { bothDates, instantOf, shortDate, todayField } from '@/kit/dates'
import LengthField from '@/kit/LengthField.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { len, said } from '@/kit/units'

/** What she stands in, and potting her on: a little wider, never much; how much of her roots came off. */
const { mother } = defineProps<{ mother: Mother }>()
const pot = usePotMother()
const last = computed(() => mother.pots.at(-1))
const open = ref(false)
const form = reactive({
  top: 120,
  bottom: 90,
  depth: 110,
  material: 'plastic' as NonNullable<Schemas['Pot']['material']>,
  off: 0,
  on: '',
  note: '',
})
function begin() {
  const p = mother.next_pot?.pot
  if (p) Object.assign(form, { top: p.top_mm, bottom: p.bottom_mm, depth: p.depth_mm, material: p.material ?? 'plastic' })
  Object.assign(form, { on: todayField(), off: 0, note: '' })
  pot.reset()
  open.value = true
}
async function save() {
  const done = await pot
    .mutateAsync({
      mother_id: mother.id,
      potted_on: instantOf(form.on) || form.on,
      pot: {
        top_mm: form.top,
        bottom_mm: form.bottom,
        depth_mm: form.depth,
        ...(form.material === 'plastic' ? {} : { material: form.material }),
      },
      ...(form.off ? { roots_off: form.off / 100 } : {}),
      ...(form.note.trim() ? { note: form.note.trim() } : {}),
    })
    .catch(() => undefined)
  if (done) open.value = false
}
</script>

<template>
  <section class="panel stack" aria-label="Her pot">
    <div class="row">
      <h2>Her pot</h2>
      <span v-if="last" class="soft"
        >{{ len(last.pot.top_mm) }} across, {{ len(last.pot.depth_mm) }} deep{{
          last.pot.material ? `, ${last.pot.material}` : ''
        }}, since {{ bothDates(last.on) }}</span
      >
      <span v-else class="soft">nobody said what she stands in</span>
      <v-btn class="push" size="small" variant="outlined" @click="begin">{{
        last ? 'She was potted on' : 'Say what she stands in'
      }}</v-btn>
    </div>
    <p v-if="mother.next_pot" class="soft">Next: {{ len(mother.next_pot.pot.top_mm) }}. {{ said(mother.next_pot.why) }}</p>
    <p v-for="a in last?.against" :key="a" class="caution">{{ said(a) }}</p>
    <p v-if="mother.pots.length > 1" class="soft">
      Before:
      <template v-for="(p, i) in mother.pots.slice(0, -1)" :key="p.id"
        ><template v-if="i">, </template>{{ len(p.pot.top_mm) }} on {{ shortDate(p.on) }}</template
      >
    </p>
    <v-dialog v-model="open" aria-label="She was potted on">
      <v-card class="roomy stack">
        <h2>{{ last ? 'She was potted on' : 'What she stands in' }}</h2>
        <div class="form">
          <LengthField v-model="form.top" label="Across" :error-messages="pot.error.value?.about('top_mm')" />
          <LengthField v-model="form.bottom" label="Bottom" :error-messages="pot.error.value?.about('bottom_mm')" />
          <LengthField v-model="form.depth" label="Depth" :error-messages="pot.error.value?.about('depth_mm')" />
          <v-select
            v-model="form.material"
            label="Made of"
            :items="[
              { title: 'plastic', value: 'plastic' },
              { title: 'clay', value: 'clay' },
              { title: 'net or basket', value: 'net' },
            ]"
          />
        </div>
        <CountField v-if="last" v-model="form.off" label="Roots that came off" :min="0" :max="100" :step="5" unit="%" />
        <p v-if="last" class="soft">
          At most a fifth; of a vigorous plant up to half of the root ball may be sliced off, her leaves trimmed as hard.
        </p>
        <DateField v-model="form.on" label="On" />
        <v-text-field v-model="form.note" label="Note" maxlength="500" />
        <RefusalNote :error="pot.error.value" />
        <div class="row">
          <v-btn color="primary" :loading="pot.isPending.value" @click="save">Note it</v-btn>
          <v-btn variant="text" @click="open = false">Not now</v-btn>
        </div>
      </v-card>
    </v-dialog>
  </section>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(120px, 1fr));
  gap: 10px;
}
p {
  margin: 0;
}
</style>
