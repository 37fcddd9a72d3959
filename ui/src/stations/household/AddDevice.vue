<script setup lang="ts">
import { computed, onScopeDispose, ref } from 'vue'

import { api, take, type Schemas } from '@/api/client'
import { joinAddress } from '@/api/household'
import QrCode from '@/kit/QrCode.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { useAct } from '@/kit/useAct'

/** A phone, or another device of mine: it scans a code and is signed in. */
const made = ref<Schemas['MadeInvitation']>()
const { busy, error, act } = useAct()
const make = () => act(async () => (made.value = await take(api.POST('/api/devices'))))
const address = computed(() => (made.value ? joinAddress(made.value.code) : ''))
const now = ref(Date.now())
const tick = setInterval(() => (now.value = Date.now()), 1000)
onScopeDispose(() => clearInterval(tick))
const left = computed(() => (made.value ? Math.max(0, Math.ceil((Date.parse(made.value.expires_at) - now.value) / 60_000)) : 0))
const onlyHere = /^(localhost|127\.|\[::1\])/.test(location.hostname)
</script>

<template>
  <section class="panel stack" aria-label="Add a phone">
    <h2>Add a phone</h2>
    <p v-if="!made" class="soft">
      The phone scans a code here and is signed in as you: nothing to type with wet hands. The code opens once, for ten minutes.
    </p>
    <div v-else-if="left" class="row made">
      <QrCode :text="address" label="Code for the phone" />
      <div class="stack says">
        <p>Point the phone’s camera at it, and open the address. Good for {{ left }} more min, once.</p>
        <p class="soft">
          Or open <code>{{ address.split('#')[0] }}</code> there and type <code class="code">{{ made.code }}</code>
        </p>
      </div>
    </div>
    <p v-else>The code has run out.</p>
    <p v-if="onlyHere" class="caution">Clear Jar was opened on this machine only, so a phone cannot reach this address.</p>
    <RefusalNote :error="error" />
    <div class="row">
      <v-btn
        :color="made && left ? undefined : 'primary'"
        :variant="made && left ? 'outlined' : 'flat'"
        :loading="busy"
        @click="make"
        >{{ made ? 'Another code' : 'Show a code' }}</v-btn
      >
    </div>
  </section>
</template>

<style scoped>
p {
  margin: 0;
}
.made {
  align-items: flex-start;
}
.says {
  flex: 1 1 180px;
}
</style>
