<script setup lang="ts">
import { me, signOut } from '@/api/me'
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
</script>

<template>
  <div class="page stack">
    <div class="row">
      <h1>{{ me?.household || 'Household' }}</h1>
      <span class="soft">You are {{ me?.name }}, a {{ me?.role }}.</span>
      <v-btn class="push" variant="outlined" :loading="busy" @click="act(signOut)">Sign out here</v-btn>
    </div>
    <RefusalNote :error="error" />
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
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
