<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import { type CuttingPage } from '@/api/client'
import { useCutBack, useShelf } from '@/api/queries'
import CautionNotes from '@/kit/CautionNotes.vue'
import CountField from '@/kit/CountField.vue'
import DateField from '@/kit/DateField.vue'
import { instantOf, todayField } from '@/kit/dates'
import LengthField from '@/kit/LengthField.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { capital } from '@/kit/words'

/** Cutting back is an act: how much came off, which nodes and roots went with it, and where the rest went. */
const open = defineModel<boolean>({ required: true })
const { page } = defineProps<{ page: CuttingPage }>()
const c = computed(() => page.cutting)
const cutBack = useCutBack()
const { data: shelf } = useShelf()

const on = ref(todayField())
const removed = ref<number | null>(null)
const gone = ref(0)
const bare = ref<number[]>([])
const into = ref<string>('')
const note = ref('')
const dried = ref(0)
const words = computed(() => page.words)
const numbers = computed(() => c.value.nodes.map((_, i) => i + 1))
const left = computed(() => numbers.value.filter((n) => n > gone.value))
/** What is proposed follows from where the rot is; nothing is noted before it is said. */
watch(
  open,
  (now) => {
    if (!now) return
    on.value = todayField()
    const sound = c.value.judgement.sound_nodes
    gone.value = Math.max(c.value.gone_nodes, sound?.length ? (sound[0] ?? 1) - 1 : c.value.gone_nodes)
    removed.value = null
    bare.value = []
    into.value = ''
    note.value = ''
    dried.value = 0
    cutBack.reset()
  },
  { immediate: true },
)
const rooted = computed(() => left.value.filter((n) => c.value.seen.roots.some((r) => r.node === n)))
const toggle = (n: number) => (bare.value = bare.value.includes(n) ? bare.value.filter((m) => m !== n) : [...bare.value, n])
const vessels = computed(() => shelf.value?.vessels ?? [])
async function save() {
  const made = await cutBack
    .mutateAsync({
      cutting_id: c.value.id,
      cut_on: instantOf(on.value) || on.value,
      removed_mm: removed.value ?? 0,
      gone_nodes: gone.value,
      bare_nodes: bare.value.filter((n) => n > gone.value),
      ...(into.value ? { vessel_id: into.value, set_nodes: Math.min(2, left.value.length) } : {}),
      ...(dried.value ? { dried_hours: dried.value } : {}),
      ...(note.value.trim() ? { note: note.value.trim() } : {}),
    })
    .catch(() => undefined)
  if (made) open.value = false
}
</script>

<template>
  <v-dialog v-model="open" aria-label="It was cut back">
    <v-card class="roomy stack">
      <h2>It was cut back</h2>
      <CautionNotes :hazards="['blade', 'alcohol', 'chemicals']" />
      <DateField v-model="on" label="On" />
      <LengthField
        v-model="removed"
        label="How much came off its base"
        :error-messages="cutBack.error.value?.about('removed_mm')"
      />
      <fieldset v-if="numbers.length > 1">
        <legend>{{ capital(words.points) }} that are gone</legend>
        <div class="row">
          <v-btn
            v-for="n in numbers.slice(0, -1)"
            :key="n"
            :variant="n <= gone ? 'flat' : 'outlined'"
            :color="n <= gone ? 'secondary' : undefined"
            :disabled="n <= c.gone_nodes"
            :aria-pressed="n <= gone"
            @click="gone = n <= gone ? n - 1 : n"
            >{{ words.point }} {{ n }}</v-btn
          >
          <span class="soft">{{ words.points }} {{ left.join(', ') }} stay</span>
        </div>
      </fieldset>
      <fieldset v-if="rooted.length">
        <legend>Roots that came off</legend>
        <div class="row">
          <v-btn
            v-for="n in rooted"
            :key="n"
            :variant="bare.includes(n) ? 'flat' : 'outlined'"
            :color="bare.includes(n) ? 'secondary' : undefined"
            :aria-pressed="bare.includes(n)"
            @click="toggle(n)"
            >those of {{ words.point }} {{ n }}</v-btn
          >
        </div>
      </fieldset>
      <v-select
        v-if="!c.potted_on"
        v-model="into"
        label="Reset in"
        :items="[
          { title: 'the same vessel, fresh', value: '' },
          ...vessels.map((v) => ({ title: `${v.name}, ${v.medium}`, value: v.id })),
        ]"
      />
      <CountField v-model="dried" label="It dried before that" :min="0" :max="240" unit="hours" />
      <v-text-field v-model="note" label="Note" maxlength="500" />
      <RefusalNote :error="cutBack.error.value" />
      <div class="row">
        <v-btn color="primary" :loading="cutBack.isPending.value" @click="save">Note it</v-btn>
        <v-btn variant="text" @click="open = false">Not now</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped></style>
