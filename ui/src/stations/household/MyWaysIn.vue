<script setup lang="ts">
import { ref } from 'vue'

import { api, Refusal, take } from '@/api/client'
import { accountIs, type Account } from '@/api/household'
import { deviceName, who } from '@/api/me'
import { bothDates } from '@/kit/dates'
import RefusalNote from '@/kit/RefusalNote.vue'
import { useAct } from '@/kit/useAct'
import PassphraseField from '@/stations/door/PassphraseField.vue'

/** How I come in: devices that are signed in, passphrase, recovery codes, passkeys. */
const { account } = defineProps<{ account: Account }>()
const { busy, error, act } = useAct()
const old = ref('')
const passphrase = ref('')
const changing = ref(false)
const codes = ref<string[]>()
const said = ref('')
const ways: Record<Account['sign_ins'][number]['way'], string> = {
  passphrase: 'by passphrase',
  passkey: 'by passkey',
  invitation: 'by invitation',
  recovery: 'by a recovery code',
  device: 'by a code from another device',
  demo: 'as the demo',
}
const id = (of: string) => ({ params: { path: { id: of } } })
const end = (of: string) => act(async () => accountIs(await take(api.POST('/api/sign-ins/{id}/end', id(of)))))
const endOthers = () => act(async () => accountIs(await take(api.POST('/api/sign-ins/end'))))
const change = () =>
  act(async () => {
    accountIs(await take(api.POST('/api/passphrase', { body: { old: old.value, passphrase: passphrase.value } })))
    old.value = passphrase.value = ''
    changing.value = false
    said.value = 'The new passphrase holds. On other devices you are signed out.'
  })
const makeCodes = () =>
  act(async () => {
    codes.value = (await take(api.POST('/api/recovery-codes'))).codes
    accountIs(await take(api.GET('/api/account')))
  })
const addPasskey = () =>
  act(async () => {
    const { startRegistration } = await import('@simplewebauthn/browser')
    const asked = (await take(api.POST('/api/passkeys/question'))).options as { publicKey: never }
    const answer = await startRegistration({ optionsJSON: asked.publicKey }).catch((e: unknown) => {
      const there = e instanceof Error && e.name === 'InvalidStateError'
      throw new Refusal(
        there
          ? 'This device holds a passkey for you already.'
          : 'No passkey was made: it was given up, or this device makes none.',
        0,
      )
    })
    accountIs(await take(api.POST('/api/passkeys', { body: { answer, name: deviceName() } })))
  })
const removePasskey = (of: string) => act(async () => accountIs(await take(api.POST('/api/passkeys/{id}/end', id(of)))))
const field = (at: string) => error.value?.about(at)
</script>

<template>
  <section class="panel stack" aria-label="How you come in">
    <h2>How you come in</h2>
    <RefusalNote :error="field('old') || field('passphrase') ? undefined : error" />
    <p v-if="said" role="status">{{ said }}</p>
    <h3>Signed in on</h3>
    <ul>
      <li v-for="s in account.sign_ins" :key="s.id">
        <span>
          <strong>{{ s.device }}</strong>{{ ' '
          }}<span class="soft"> {{ s.here ? 'this one' : `last used ${bothDates(s.used_at)}` }}, {{ ways[s.way] }}</span>
        </span>
        <v-btn
          v-if="!s.here"
          size="small"
          variant="text"
          :aria-label="`Sign out on ${s.device}`"
          :disabled="busy"
          @click="end(s.id)"
          >sign out</v-btn
        >
      </li>
    </ul>
    <div v-if="account.sign_ins.length > 1" class="row">
      <v-btn size="small" variant="outlined" :disabled="busy" @click="endOthers">Sign out everywhere else</v-btn>
    </div>
    <h3>Passphrase</h3>
    <form v-if="changing" class="stack" @submit.prevent="change">
      <PassphraseField v-if="account.has_passphrase" v-model="old" label="The passphrase you have now" :refused="field('old')" />
      <PassphraseField v-model="passphrase" is-new :refused="field('passphrase')" />
      <div class="row">
        <v-btn type="submit" color="primary" :loading="busy" :disabled="!passphrase">Set it</v-btn>
        <v-btn variant="text" @click="changing = false">leave it</v-btn>
      </div>
    </form>
    <div v-else class="row">
      <span class="soft">{{ account.has_passphrase ? 'You have one.' : 'You have none yet.' }}</span>
      <v-btn size="small" variant="outlined" @click="changing = true">{{
        account.has_passphrase ? 'Change it' : 'Set one'
      }}</v-btn>
    </div>
    <h3>Recovery codes</h3>
    <div v-if="codes" class="caution stack" role="status">
      <span>They are said once. Write them down, and keep them where the plants are not. Each opens once.</span>
      <ol>
        <li v-for="c in codes" :key="c" class="code">{{ c }}</li>
      </ol>
    </div>
    <div class="row">
      <span class="soft">{{
        account.codes_left
          ? `${account.codes_left} still open.`
          : 'None: should you lose your passphrase, a keeper has to let you in again.'
      }}</span>
      <v-btn size="small" variant="outlined" :disabled="busy" @click="makeCodes">{{
        account.codes_left ? 'Make new ones; the old ones end' : 'Make eight'
      }}</v-btn>
    </div>
    <h3>Passkeys</h3>
    <ul v-if="account.passkeys.length">
      <li v-for="k in account.passkeys" :key="k.id">
        <span>
          <strong>{{ k.name || 'A passkey' }}</strong>{{ ' '
          }}<span class="soft"> made {{ bothDates(k.made_at) }}{{ k.used_at ? `, last used ${bothDates(k.used_at)}` : '' }}</span>
        </span>
        <v-btn size="small" variant="text" :aria-label="`Remove ${k.name}`" :disabled="busy" @click="removePasskey(k.id)"
          >remove</v-btn
        >
      </li>
    </ul>
    <div v-if="who?.passkeys" class="row">
      <span class="soft">A finger, a face or a key in place of the passphrase.</span>
      <v-btn size="small" variant="outlined" :disabled="busy" @click="addPasskey">Add a passkey</v-btn>
    </div>
    <p v-else class="soft">
      A passkey belongs to a name, and this page was opened by a number. Open Clear Jar by its name to add one.
    </p>
  </section>
</template>

<style scoped>
p {
  margin: 0;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
ul li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  border-top: 1px solid var(--line);
  padding: 6px 0;
  min-height: var(--touch);
}
ol {
  margin: 0;
  columns: 2;
  padding-left: 26px;
}
</style>
