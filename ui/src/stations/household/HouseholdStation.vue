<script setup lang="ts">
import { ref } from 'vue'

import { api, take } from '@/api/client'
import { drawFor, may, me, signOut } from '@/api/me'
import { useAccount, usePeople } from '@/api/household'
import AskState from '@/kit/AskState.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { useAct } from '@/kit/useAct'

import AddDevice from './AddDevice.vue'
import HouseholdPeople from './HouseholdPeople.vue'
import MyWaysIn from './MyWaysIn.vue'

/** Who is of the household, and how I come in. */
const account = useAccount()
const people = usePeople()
const { busy, error, act } = useAct()
const name = ref<string>()
const rename = () =>
  act(async () => {
    drawFor(await take(api.POST('/api/household-name', { body: { name: name.value ?? '' } })))
    name.value = undefined
  })
</script>

<template>
  <div class="page stack">
    <div class="row">
      <h1>{{ me?.household || 'Household' }}</h1>
      <v-btn
        v-if="may('settle')"
        size="small"
        variant="text"
        aria-label="Change what the household is called"
        @click="name = me?.household"
        >change</v-btn
      >
      <span class="soft">You are {{ me?.name }}, a {{ me?.role }}.</span>
      <v-btn class="push" variant="outlined" :loading="busy" @click="act(signOut)">Sign out here</v-btn>
    </div>
    <form v-if="name !== undefined" class="row" @submit.prevent="rename">
      <v-text-field
        v-model="name"
        class="called"
        label="What the household is called"
        maxlength="60"
        :error-messages="error?.about('household')"
      />
      <v-btn type="submit" color="primary" :loading="busy" :disabled="!name.trim()">Save</v-btn>
      <v-btn variant="text" @click="name = undefined">leave it</v-btn>
    </form>
    <RefusalNote :error="error?.about('household') ? undefined : error" />
    <AskState
      v-if="!account.data.value || !people.data.value"
      :pending="account.isPending.value || people.isPending.value"
      :error="account.error.value ?? people.error.value"
      what="the household"
      @retry="(account.refetch(), people.refetch())"
    />
    <div class="two">
      <div class="stack">
        <AddDevice />
        <MyWaysIn v-if="account.data.value" :account="account.data.value" />
      </div>
      <HouseholdPeople v-if="people.data.value" :people="people.data.value" />
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 16px;
  align-items: start;
}
.called {
  flex: 0 1 360px;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
