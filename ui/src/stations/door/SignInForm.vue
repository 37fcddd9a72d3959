<script setup lang="ts">
import { computed, ref } from 'vue'

import { api, Refusal, take } from '@/api/client'
import { deviceName, entered, who } from '@/api/me'
import RefusalNote from '@/kit/RefusalNote.vue'
import { useAct } from '@/kit/useAct'

import PassphraseField from './PassphraseField.vue'

/** Signing in: by passphrase, by passkey, or by a recovery code. */
const { name = '' } = defineProps<{ name?: string }>()
const signInName = ref(name)
const passphrase = ref('')
const code = ref('')
const way = ref<'passphrase' | 'recovery'>('passphrase')
const { busy, error, act } = useAct()
const ready = computed(
  () => signInName.value.trim() !== '' && passphrase.value !== '' && (way.value === 'passphrase' || code.value.trim() !== ''),
)
const signIn = () =>
  act(async () => {
    const body = { sign_in_name: signInName.value, passphrase: passphrase.value, device: deviceName() }
    entered(
      way.value === 'passphrase'
        ? await take(api.POST('/api/sign-in', { body }))
        : await take(api.POST('/api/sign-in/recovery', { body: { ...body, code: code.value } })),
    )
  })
const byPasskey = () =>
  act(async () => {
    const { startAuthentication } = await import('@simplewebauthn/browser')
    const asked = (await take(api.POST('/api/sign-in/passkey/question'))).options as { publicKey: never }
    const answer = await startAuthentication({ optionsJSON: asked.publicKey }).catch(() => {
      throw new Refusal('No passkey answered: it was given up, or there is none for this address on this device.', 0)
    })
    entered(await take(api.POST('/api/sign-in/passkey', { body: { answer, device: deviceName() } })))
  })
const field = (at: string) => error.value?.about(at)
</script>

<template>
  <form class="stack" @submit.prevent="signIn">
    <v-text-field
      v-model="signInName"
      label="Your name to sign in"
      autocomplete="username webauthn"
      autocapitalize="none"
      spellcheck="false"
      maxlength="80"
    />
    <v-text-field
      v-if="way === 'recovery'"
      v-model="code"
      label="A recovery code, one of eight"
      autocomplete="one-time-code"
      autocapitalize="characters"
      maxlength="40"
    />
    <PassphraseField v-model="passphrase" :is-new="way === 'recovery'" :refused="field('passphrase')" />
    <RefusalNote :error="field('passphrase') ? undefined : error" />
    <div class="row">
      <v-btn type="submit" color="primary" :loading="busy" :disabled="!ready">Sign in</v-btn>
      <v-btn v-if="who?.passkeys && way === 'passphrase'" variant="outlined" :disabled="busy" @click="byPasskey"
        >With a passkey</v-btn
      >
    </div>
    <p class="ways">
      <button type="button" @click="way = way === 'recovery' ? 'passphrase' : 'recovery'">
        {{ way === 'recovery' ? 'I know my passphrase' : 'I lost my passphrase' }}
      </button>
      <slot />
    </p>
    <p v-if="way === 'recovery'" class="soft">
      No code left? A keeper of your household can let you in again, from the page Household. Is there no keeper: the one who runs
      the server can, with <code>clearjar household code</code>.
    </p>
  </form>
</template>

<style scoped>
p {
  margin: 0;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
}
.ways :deep(button) {
  text-decoration: underline;
  min-height: var(--touch);
}
</style>
