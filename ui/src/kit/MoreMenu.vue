<script setup lang="ts">
/** The stations that have no place on the phone's bar: opened by its last button, and fetched when it is. */
const { of, by } = defineProps<{ of: { to: string; label: string }[]; by: string }>()
const open = defineModel<boolean>({ required: true })
</script>

<template>
  <v-menu v-model="open" :activator="by" :open-on-click="false" location="top end">
    <v-list density="comfortable" aria-label="More stations">
      <v-list-item v-for="m in of" :key="m.to" :to="m.to" :title="m.label" @click="open = false" />
    </v-list>
  </v-menu>
</template>
