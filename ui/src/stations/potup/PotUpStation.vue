<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, reactive, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { api, take } from '@/api/client'
import { usePotUp, useShelf } from '@/api/queries'
import PatternDefs from '@/drawing/PatternDefs.vue'
import PieceDrawing from '@/drawing/PieceDrawing.vue'
import { pieceOf } from '@/drawing/pieceOf'
import PotDrawing from '@/drawing/PotDrawing.vue'
import { baseHeight, rises } from '@/drawing/geometry'
import AskState from '@/kit/AskState.vue'
import BasisNote from '@/kit/BasisNote.vue'
import CautionNotes from '@/kit/CautionNotes.vue'
import DateField from '@/kit/DateField.vue'
import { instantOf, todayField } from '@/kit/dates'
import LengthField from '@/kit/LengthField.vue'
import PaperTag from '@/kit/PaperTag.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { len, said } from '@/kit/units'
import { capital } from '@/kit/words'

const route = useRoute()
const router = useRouter()
const { data: shelf, isPending, error, refetch } = useShelf()
const chosenId = ref(typeof route.query['cutting'] === 'string' ? route.query['cutting'] : undefined)
const ready = computed(() => shelf.value?.cuttings.filter((c) => c.judgement.to_pot) ?? [])
/** The ready ones, and any other the grower chose to pot against the verdict. */
const chosen = computed(() => shelf.value?.cuttings.find((c) => c.id === chosenId.value) ?? ready.value[0])
const early = computed(() => chosen.value && !chosen.value.judgement.to_pot)

const { data: advice, error: adviceError } = useQuery({
  queryKey: computed(() => ['pot', chosen.value?.id]),
  queryFn: () => take(api.GET('/api/cuttings/{id}/pot', { params: { path: { id: chosen.value?.id ?? '' } } })),
  enabled: computed(() => Boolean(chosen.value)),
})
const form = reactive({ top_mm: 80, bottom_mm: 60, depth_mm: 80, place: '', on: todayField(), note: '' })
watch(
  [advice, chosen],
  ([a, c]) => {
    if (a) Object.assign(form, a.pot)
    if (c) form.place = c.place_name || form.place
  },
  { immediate: true },
)
const pot = computed(() => ({ top_mm: form.top_mm, bottom_mm: form.bottom_mm, depth_mm: form.depth_mm }))
const changed = computed(
  () => advice.value && (['top_mm', 'bottom_mm', 'depth_mm'] as const).some((k) => advice.value?.pot[k] !== form[k]),
)
const piece = computed(() => (chosen.value ? pieceOf(chosen.value) : undefined))
const up = computed(() => (piece.value ? Math.max(12, baseHeight(piece.value, form.depth_mm - 12)) : 12))
const walls = computed(() => ({ left: -form.bottom_mm / 2 + 3, right: form.bottom_mm / 2 - 3, floor: up.value - 12 }))
const view = computed(() => {
  const w = Math.max(190, form.top_mm + 90)
  const h = Math.max(form.depth_mm, piece.value ? up.value + rises(piece.value, form.depth_mm - 8 - up.value) : 0) + 10
  return `${-w / 2} ${-h} ${w} ${h + 8}`
})

const potUp = usePotUp()
async function save() {
  if (!chosen.value) return
  const made = await potUp
    .mutateAsync({
      cutting_id: chosen.value.id,
      place: form.place,
      potted_on: instantOf(form.on),
      pot: pot.value,
      note: form.note,
    })
    .catch(() => undefined)
  if (!made) return
  await router.push({ name: 'cutting', params: { id: made.cutting.id } })
}
</script>

<template>
  <div class="page stack">
    <PatternDefs />
    <h1>Pot up</h1>
    <AskState :pending="isPending" :error="error" what="the ready ones" @retry="refetch()" />
    <p v-if="shelf && !ready.length && !chosen" class="panel">
      None is ready today. The shelf says when each is likely to be. <router-link to="/">To the shelf.</router-link>
    </p>
    <div v-if="ready.length" class="row" aria-label="Ready to pot">
      <button
        v-for="c in ready"
        :key="c.id"
        type="button"
        class="choice"
        :aria-pressed="c.id === chosen?.id"
        @click="chosenId = c.id"
      >
        <span class="code">{{ c.code }}</span> {{ c.longest_mm ? len(c.longest_mm) : '' }}
      </button>
    </div>
    <div v-if="chosen && piece" class="two">
      <figure class="panel">
        <svg :viewBox="view" role="img" :aria-label="`${chosen.code} in a pot of ${len(form.top_mm)}, to scale`">
          <PotDrawing :pot="pot" cut>
            <g :transform="`translate(0,${-up})`">
              <PieceDrawing :piece="piece" :walls="walls" :clear="form.depth_mm - 8 - up" />
            </g>
          </PotDrawing>
          <path d="M-300 0H300" stroke="var(--wood)" stroke-width="2.4" />
        </svg>
        <figcaption class="soft">
          To scale: {{ len(form.top_mm) }} across, {{ len(form.depth_mm) }} deep, the roots at their measured length.
        </figcaption>
      </figure>
      <section class="stack">
        <div class="row">
          <PaperTag :cutting="chosen" /> <span>{{ chosen.mother_name }}</span>
        </div>
        <p>{{ said(chosen.judgement.sentence) }}</p>
        <p v-if="early" class="caution">
          {{ chosen.judgement.caution || 'The verdict is not to pot it yet.' }} You may overrule it: you know your plant.
        </p>
        <div v-if="advice" class="panel stack">
          <h2>{{ len(advice.pot.top_mm) }} pot, {{ Math.round(advice.mix_ml) }} ml of mix</h2>
          <p v-for="r in advice.reasons" :key="r">{{ said(r) }}</p>
          <p v-if="advice.warning" class="caution">{{ said(advice.warning) }}</p>
          <p>
            {{ capital(advice.mix_why) }}:
            <template v-for="(m, i) in advice.mix" :key="m.name"
              ><template v-if="i">, </template><b>{{ Math.round(m.ml) }} ml</b> {{ m.name }}</template
            >. Never compact it. <router-link :to="{ name: 'mix', query: { of: 'parts' } }">Mix for several pots</router-link>
          </p>
          <p class="soft">{{ said(advice.how) }}</p>
          <details>
            <summary>Where these numbers come from</summary>
            <p v-for="n in advice.rests_on" :key="n.key">
              {{ n.label }}: {{ said(`${n.value} ${n.unit}`) }}. <BasisNote :basis="n.basis" />
            </p>
          </details>
        </div>
        <RefusalNote :error="adviceError" />
        <div class="form">
          <LengthField v-model="form.top_mm" label="Pot, across" :error-messages="potUp.error.value?.about('top_mm')" />
          <LengthField v-model="form.bottom_mm" label="Bottom" :error-messages="potUp.error.value?.about('bottom_mm')" />
          <LengthField v-model="form.depth_mm" label="Depth" :error-messages="potUp.error.value?.about('depth_mm')" />
          <v-combobox
            v-model="form.place"
            label="Goes to which shelf"
            :items="shelf?.places.map((p) => p.name) ?? []"
            :error-messages="potUp.error.value?.about('place')"
          />
          <DateField v-model="form.on" label="Potted on" :error-messages="potUp.error.value?.about('potted_on')" />
          <v-text-field v-model="form.note" label="Note" maxlength="500" />
        </div>
        <p v-if="changed" class="soft">
          You chose another pot than suggested; the volume of mix is worked out for yours when it is saved.
        </p>
        <CautionNotes :hazards="['peat_dust']" />
        <RefusalNote :error="potUp.error.value" />
        <div class="row"><v-btn color="primary" :loading="potUp.isPending.value" @click="save">It is potted</v-btn></div>
      </section>
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 0.85fr) minmax(0, 1.15fr);
  gap: 18px;
  align-items: start;
}
figure {
  margin: 0;
}
figure svg {
  width: 100%;
  height: min(56vh, 84vw, 520px);
  display: block;
}
.form {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 12px;
  align-items: start;
}
p {
  margin: 0;
}
@media (max-width: 800px) {
  .two {
    grid-template-columns: 1fr;
  }
  .form {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
