<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { api, take } from '@/api/client'
import { deviceName, entered, me, who } from '@/api/me'
import RefusalNote from '@/kit/RefusalNote.vue'
import { useAct } from '@/kit/useAct'

import JoinForm from './JoinForm.vue'
import SignInForm from './SignInForm.vue'

/** The door: seen until somebody is signed in, and where a code is given. */
const route = useRoute()
const router = useRouter()
const withCode = ref(route.name === 'join' || who.value?.state === 'first_start')
const { busy, error, act } = useAct()
const demo = () => act(async () => entered(await take(api.POST('/api/sign-in/demo', { body: { device: deviceName() } }))))
const title = computed(() =>
  who.value?.state === 'first_start' ? 'Make this household yours' : withCode.value ? 'Come in with a code' : 'Sign in',
)
const on = () => void (route.name === 'join' && router.replace('/'))
</script>

<template>
  <div class="page door">
    <section v-if="who?.demo && !me" class="panel roomy stack" aria-label="Demo">
      <h1>The demo</h1>
      <p>A made-up winter garden, for trying everything out. It listens on this machine only.</p>
      <div class="row"><v-btn color="primary" :loading="busy" @click="demo">Enter the demo household</v-btn></div>
      <RefusalNote :error="error" />
    </section>
    <section class="panel roomy stack" :aria-label="title">
      <h1>{{ title }}</h1>
      <p v-if="who?.state === 'first_start'" class="soft">
        Nobody is a member yet. The server printed a code when it started, for the first keeper:
        <code>clearjar household code</code> makes a new one.
      </p>
      <p v-if="me && withCode" class="caution">
        You are signed in as {{ me.name }}. A code signs you in as the one it is for, and you are drawn a new page.
      </p>
      <template v-if="withCode">
        <JoinForm @entered="on" />
        <p v-if="!me && who?.state !== 'first_start'" class="ways">
          <button type="button" @click="withCode = false">I have a passphrase</button>
        </p>
      </template>
      <SignInForm v-else><button type="button" @click="withCode = true">I have a code</button></SignInForm>
    </section>
  </div>
</template>

<style scoped>
.door {
  display: grid;
  place-items: start center;
  gap: 16px;
  padding-top: 6vh;
}
section {
  width: min(460px, 100%);
}
p {
  margin: 0;
}
.ways button {
  text-decoration: underline;
  min-height: var(--touch);
}
</style>
