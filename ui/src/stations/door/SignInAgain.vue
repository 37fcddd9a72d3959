<script setup lang="ts">
import { computed } from 'vue'

import { me, who } from '@/api/me'

import SignInForm from './SignInForm.vue'

/** Over a page whose log-in ended: what was typed stays below. */
const other = computed(() => (who.value?.me && who.value.me.member_id !== me.value?.member_id ? who.value.me : undefined))
const title = computed(() => (other.value ? `${other.value.name} has signed in in this browser` : 'You were signed out'))
const goOn = () => location.assign('/')
</script>

<template>
  <v-dialog :model-value="true" persistent max-width="480" :aria-label="title">
    <v-card class="roomy stack">
      <h2>{{ title }}</h2>
      <p v-if="other">
        This page was drawn for {{ me?.name }}, and nothing of it goes out under another name. Sign in as {{ me?.name }} to go on
        here, or leave it.
      </p>
      <p v-else>What you typed is still on the page below, and what was not sent is kept in this browser. Sign in, and go on.</p>
      <SignInForm :name="me?.sign_in_name ?? ''" />
      <div v-if="other" class="row">
        <v-btn variant="outlined" @click="goOn">Go on as {{ other.name }}</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
p {
  margin: 0;
}
</style>
