<script setup lang="ts">
import { computed, onScopeDispose, ref } from 'vue'

import { api, take, type Schemas } from '@/api/client'
import { joinAddress, useWayIn } from '@/api/household'
import QrCode from '@/kit/QrCode.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { useAct } from '@/kit/useAct'

/** A phone, or another device of mine: it learns to trust the server, scans a code, and is signed in. */
const { data: way } = useWayIn()
const made = ref<Schemas['MadeInvitation']>()
const { busy, error, act } = useAct()
const make = () => act(async () => (made.value = await take(api.POST('/api/devices'))))
/** Where the phone goes: the name first; the address of this page while nothing else reaches it. */
const origin = computed(() => way.value?.addresses[0] ?? location.origin)
const address = computed(() => (made.value ? joinAddress(made.value.code, origin.value) : ''))
const now = ref(Date.now())
const tick = setInterval(() => (now.value = Date.now()), 1000)
onScopeDispose(() => clearInterval(tick))
const left = computed(() =>
  made.value ? Math.max(0, Math.ceil((Date.parse(made.value.expires_at) - now.value - 1500) / 60_000)) : 0,
)
const shown = computed(() => made.value !== undefined && left.value > 0)
/** In pairs of eight, to be compared line by line. */
const fingerprint = computed(() =>
  (way.value?.fingerprint?.split(':') ?? []).reduce<string[]>((lines, pair, i) => {
    if (i % 8 === 0) lines.push(pair)
    else lines[lines.length - 1] += ` ${pair}`
    return lines
  }, []),
)
const trust = computed(() => way.value?.trust_addresses ?? [])
</script>

<template>
  <section class="panel stack" aria-label="Add a phone">
    <h2>Add a phone</h2>
    <p v-if="!shown" class="soft">
      The phone scans a code here and is signed in as you: nothing to type with wet hands. The code opens once, for ten minutes.
    </p>
    <p v-if="way && !way.addresses.length" class="caution">
      Clear Jar listens on its own machine only, so a phone cannot reach it yet. README, “A household at home”, tells how to open
      it to your own devices.
    </p>
    <template v-if="shown">
      <template v-if="trust.length">
        <h3>1. Once for each phone: trust this server</h3>
        <div class="row made">
          <QrCode :text="trust[0]!" label="Address of the page that leads through trusting" />
          <div class="stack says">
            <p>
              Point the phone’s camera at it: a page leads through it. Or open <code v-for="t in trust" :key="t">{{ t }}</code>
            </p>
            <p class="soft">The phone shows this fingerprint, SHA-256. Is it another, do not go on:</p>
            <code class="print" aria-label="Fingerprint"
              ><span v-for="line in fingerprint" :key="line">{{ line }}</span></code
            >
          </div>
        </div>
        <h3>2. Sign in on the phone</h3>
      </template>
      <div class="row made">
        <QrCode :text="address" label="Code for the phone" />
        <div class="stack says">
          <p>Point the phone’s camera at it, and open the address. Good for {{ left }} more min, once.</p>
          <p class="soft">
            Or open <code>{{ address.split('#')[0] }}</code> there and type <code class="code">{{ made?.code }}</code>
          </p>
          <p v-for="a in way?.addresses.slice(1) ?? []" :key="a" class="soft">
            Does the phone not find that name: <code>{{ a }}/join</code>
          </p>
        </div>
      </div>
    </template>
    <p v-else-if="made">The code has run out.</p>
    <RefusalNote :error="error" />
    <div class="row">
      <v-btn :color="shown ? undefined : 'primary'" :variant="shown ? 'outlined' : 'flat'" :loading="busy" @click="make">{{
        made ? 'Another code' : 'Show a code'
      }}</v-btn>
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
.print span {
  display: block;
  white-space: nowrap;
}
code {
  overflow-wrap: anywhere;
}
</style>
