<script setup lang="ts">
import { mdiEyeOffOutline, mdiEyeOutline } from '@mdi/js'
import { ref } from 'vue'

/** A passphrase, hidden until one asks to see it. */
const passphrase = defineModel<string>({ required: true })
const { isNew = false, label = '', refused } = defineProps<{ isNew?: boolean; label?: string; refused?: string | undefined }>()
const shown = ref(false)
</script>

<template>
  <v-text-field
    v-model="passphrase"
    :label="label || (isNew ? 'A new passphrase' : 'Your passphrase')"
    :type="shown ? 'text' : 'password'"
    :autocomplete="isNew ? 'new-password' : 'current-password'"
    :hint="isNew ? 'At least 12 characters: four words that do not belong together are good.' : ''"
    :persistent-hint="isNew"
    :error-messages="refused"
    autocapitalize="none"
    spellcheck="false"
    maxlength="200"
  >
    <template #append-inner>
      <v-btn
        :icon="shown ? mdiEyeOffOutline : mdiEyeOutline"
        variant="text"
        size="small"
        :aria-label="shown ? 'Hide it' : 'Show it'"
        @click="shown = !shown"
      />
    </template>
  </v-text-field>
</template>
