<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'

import { type Cutting } from '@/api/client'
import { useAddMother, useGiveAway } from '@/api/queries'
import CautionNotes from '@/kit/CautionNotes.vue'
import DateField from '@/kit/DateField.vue'
import { bothDates, instantOf, todayField } from '@/kit/dates'
import PrintTags from '@/kit/PrintTags.vue'
import RefusalNote from '@/kit/RefusalNote.vue'

/** Its tag, giving it away, and raising it to a mother. */
const { cutting } = defineProps<{ cutting: Cutting }>()
const router = useRouter()
const give = useGiveAway()
const add = useAddMother()
const giving = ref(false)
const on = ref(todayField())
const note = ref('')

async function save() {
  const done = await give
    .mutateAsync({
      cutting_id: cutting.id,
      given_on: instantOf(on.value),
      ...(note.value ? { note: note.value } : {}),
    })
    .catch(() => undefined)
  if (done) giving.value = false
}
async function raise() {
  const made = await add
    .mutateAsync({
      // The same letters with the next number.
      code: cutting.code.slice(0, 3),
      name: cutting.mother_name,
      group_key: cutting.group_key,
      pattern: cutting.pattern as 'plain' | 'stable' | 'unstable',
      provenance: `Raised here from ${cutting.code}`,
      from_cutting: cutting.id,
    })
    .catch(() => undefined)
  if (made) await router.push({ name: 'mother', params: { id: made.id } })
}
</script>

<template>
  <section class="stack" aria-label="Tag and passing on">
    <PrintTags :ids="[cutting.id]" />
    <p v-if="cutting.given_on" class="soft">Given away {{ bothDates(cutting.given_on) }}.</p>
    <p v-if="cutting.potted_on || cutting.given_on">
      <v-btn variant="outlined" :href="`/api/cuttings/${cutting.id}/passport.pdf`" download>Its passport as PDF</v-btn>
    </p>
    <div v-if="!cutting.given_on" class="row">
      <v-btn v-if="cutting.judgement.verdict !== 'lost'" variant="outlined" @click="giving = true">Given away</v-btn>
      <v-btn
        v-if="['growing_on', 'done'].includes(cutting.judgement.verdict)"
        variant="outlined"
        :loading="add.isPending.value"
        @click="raise"
        >Keep it as a mother</v-btn
      >
    </div>
    <RefusalNote :error="add.error.value" />
    <v-dialog v-model="giving" aria-label="Given away">
      <v-card class="roomy stack">
        <h2>Given away, traded or sold</h2>
        <DateField v-model="on" label="On" :error-messages="give.error.value?.about('given_on')" />
        <v-text-field v-model="note" label="To what end (no need for names)" maxlength="500" />
        <CautionNotes :hazards="['trade_rules']" />
        <RefusalNote :error="give.error.value" />
        <div class="row">
          <v-btn color="primary" :loading="give.isPending.value" @click="save">Note it</v-btn>
          <v-btn variant="text" @click="giving = false">Not now</v-btn>
        </div>
      </v-card>
    </v-dialog>
  </section>
</template>

<style scoped>
p {
  margin: 0;
}
</style>
