<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'

import { api, take, type Schemas } from '@/api/client'
import { deviceName, entered } from '@/api/me'
import RefusalNote from '@/kit/RefusalNote.vue'
import { useAct } from '@/kit/useAct'

import PassphraseField from './PassphraseField.vue'

/** Coming in with a code: as a new member, with a new device, or again after the way in was lost. */
const emit = defineEmits<{ entered: [] }>()
const code = ref('')
const offer = ref<Schemas['Offer']>()
const household = ref('')
const name = ref('')
const signInName = ref('')
const passphrase = ref('')
const { busy, error, act } = useAct()
const look = () =>
  act(async () => {
    offer.value = await take(api.POST('/api/join/look', { body: { code: code.value } }))
    name.value = offer.value.name
    // A device that stands beside the screen has nothing more to say.
    if (offer.value.purpose === 'device') await join()
  })
async function join() {
  entered(
    await take(
      api.POST('/api/join', {
        body: {
          code: code.value,
          household: household.value,
          name: name.value,
          sign_in_name: signInName.value,
          passphrase: passphrase.value,
          device: deviceName(),
        },
      }),
    ),
  )
  emit('entered')
}
onMounted(() => {
  // Behind the number sign it is sent to no server and stands in no log; here it is taken out of the address too.
  const given = decodeURIComponent(location.hash.slice(1))
  if (!given) return
  history.replaceState(history.state, '', location.pathname)
  code.value = given
  void look()
})
const field = (at: string) => error.value?.about(at)
const known = ['household', 'name', 'sign_in_name', 'passphrase']
const other = computed(() => (known.some((f) => error.value?.about(f)) ? undefined : error.value))
const ready = computed(
  () =>
    passphrase.value !== '' &&
    (offer.value?.purpose !== 'member' ||
      (name.value.trim() && signInName.value.trim() && (offer.value.household || household.value.trim()))),
)
</script>

<template>
  <form v-if="!offer" class="stack" @submit.prevent="look">
    <v-text-field
      v-model="code"
      label="The code, sixteen letters and digits"
      autocomplete="one-time-code"
      autocapitalize="characters"
      spellcheck="false"
      maxlength="40"
    />
    <RefusalNote :error="error" />
    <div class="row"><v-btn type="submit" color="primary" :loading="busy" :disabled="!code.trim()">Go on</v-btn></div>
  </form>
  <form v-else class="stack" @submit.prevent="act(join)">
    <p v-if="offer.purpose === 'member'">
      {{ offer.household ? `You are asked into ${offer.household}` : 'You are the first of this household' }}, as a
      <strong>{{ offer.role }}</strong>: {{ offer.role_says }}.
    </p>
    <p v-else-if="offer.purpose === 'again'">
      {{ offer.name }}, you sign in to {{ offer.household }} as <strong>{{ offer.sign_in_name }}</strong>. Set a new passphrase;
      on other devices you are signed out.
    </p>
    <p v-else>Signing in as {{ offer.name }}.</p>
    <template v-if="offer.purpose === 'member'">
      <v-text-field
        v-if="!offer.household"
        v-model="household"
        label="What the household is called"
        maxlength="60"
        :error-messages="field('household')"
      />
      <v-text-field
        v-model="name"
        label="Your name, as the others see it"
        autocomplete="name"
        maxlength="60"
        :error-messages="field('name')"
      />
      <v-text-field
        v-model="signInName"
        label="A short name to sign in"
        hint="Small letters, digits, and . - _"
        persistent-hint
        autocomplete="username"
        autocapitalize="none"
        spellcheck="false"
        maxlength="40"
        :error-messages="field('sign_in_name')"
      />
    </template>
    <PassphraseField v-if="offer.purpose !== 'device'" v-model="passphrase" is-new :refused="field('passphrase')" />
    <RefusalNote :error="other" />
    <div class="row">
      <v-btn v-if="offer.purpose !== 'device'" type="submit" color="primary" :loading="busy" :disabled="!ready">Come in</v-btn>
      <v-btn variant="text" @click="offer = undefined">Another code</v-btn>
    </div>
  </form>
</template>

<style scoped>
p {
  margin: 0;
}
</style>
