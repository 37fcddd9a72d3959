<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { type Mother, type Schemas } from '@/api/client'
import { useAddMother, useCorrectMother, useHandbook } from '@/api/queries'
import BasisNote from '@/kit/BasisNote.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { patternWord } from '@/kit/words'

/** What is said of a mother: of a new one, or of one that is here. */
const open = defineModel<boolean>({ required: true })
const { mother } = defineProps<{ mother?: Mother }>()
type Words = Schemas['MotherWords']
const router = useRouter()
const { data: book } = useHandbook()
const add = useAddMother()
const correct = useCorrectMother()

/** What is typed survives a reload; it is dropped once it is saved. */
const blank = () => ({ name: '', group_key: '', provenance: '', pattern: 'plain' as Words['pattern'] })
const draftKey = mother ? `clearjar.draft.mother.${mother.id}` : 'clearjar.draft.mother'
const draft = useStorage(draftKey, blank())
const was = computed<Words | undefined>(
  () =>
    mother && {
      name: mother.name,
      group_key: mother.group.key,
      pattern: mother.pattern,
      ...(mother.provenance ? { provenance: mother.provenance } : {}),
    },
)
watch(
  open,
  (now) => {
    if (now && was.value && !draft.value.name) draft.value = { ...blank(), ...was.value }
  },
  { immediate: true },
)
const group = computed(() => book.value?.groups.find((g) => g.key === draft.value.group_key))
const failure = ref<Error>()
const reason = (field: string) => (add.error.value ?? correct.error.value)?.about(field)
const busy = computed(() => add.isPending.value || correct.isPending.value)

async function save() {
  failure.value = undefined
  try {
    const { name, group_key, pattern, provenance } = draft.value
    const words: Words = { name, group_key, pattern, ...(provenance.trim() ? { provenance } : {}) }
    if (mother && was.value) {
      await correct.mutateAsync({ about: mother.id, was: was.value, becomes: words }, draftKey)
      draft.value = blank()
      open.value = false
      return
    }
    const made = await add.mutateAsync(words, draftKey)
    draft.value = blank()
    open.value = false
    await router.push({ name: 'mother', params: { id: made.id } })
  } catch (e) {
    failure.value = e as Error
  }
}
function drop() {
  if (mother) draft.value = blank()
  open.value = false
}
</script>

<template>
  <v-dialog v-model="open" :aria-label="mother ? 'Change this mother' : 'Add a mother'">
    <v-card class="roomy">
      <h2>{{ mother ? mother.code : 'Add a mother' }}</h2>
      <form class="stack below" @submit.prevent="save">
        <v-text-field v-model="draft.name" label="Full name" autofocus :error-messages="reason('name')" maxlength="200" />
        <v-select
          v-model="draft.group_key"
          label="Growth group: plants that root alike"
          :items="book?.groups.map((g) => ({ title: g.name, value: g.key, props: { subtitle: g.members } })) ?? []"
          :error-messages="reason('group_key')"
        />
        <p v-if="group" class="soft group">
          {{ group.note }}
          <template v-if="group.first_roots_days.mid">
            Roots after {{ group.first_roots_days.mid }} days ({{ group.first_roots_days.low }} to
            {{ group.first_roots_days.high }}).
          </template>
          <BasisNote :basis="group.basis" />
        </p>
        <v-textarea
          v-model="draft.provenance"
          label="Where it came from"
          rows="2"
          auto-grow
          :error-messages="reason('provenance')"
          maxlength="600"
        />
        <fieldset>
          <legend>Pattern</legend>
          <v-btn-toggle v-model="draft.pattern" mandatory color="secondary">
            <v-btn v-for="p in ['plain', 'stable', 'unstable'] as const" :key="p" :value="p">{{ patternWord[p] }}</v-btn>
          </v-btn-toggle>
        </fieldset>
        <p v-if="mother" class="soft">Codes and tags that are printed stay. What was said before stays in the record.</p>
        <RefusalNote :error="failure ?? add.error.value ?? correct.error.value" />
        <div class="row">
          <v-btn type="submit" color="primary" :loading="busy">{{ mother ? 'Save' : 'Add it' }}</v-btn>
          <v-btn variant="text" @click="drop">{{ mother ? 'Leave it' : 'Not now' }}</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
legend {
  color: var(--ink2);
  padding-bottom: 4px;
}
.group,
p {
  margin: 0;
  font-size: var(--beside);
}
</style>
