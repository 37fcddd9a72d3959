<script setup lang="ts">
/** One choice on the strip: its name and value, and the controls it opens. */
const { label, value } = defineProps<{ label: string; value: string }>()
</script>

<template>
  <v-menu :close-on-content-click="false" location="bottom start">
    <template #activator="{ props }">
      <button type="button" class="chip" v-bind="props">
        <small>{{ label }}<span class="sr">:</span></small> <b>{{ value }}</b>
      </button>
    </template>
    <v-card class="roomy stack controls" role="group" :aria-label="label"><slot /></v-card>
  </v-menu>
</template>

<style scoped>
.chip {
  border: 1px solid var(--line);
  background: var(--card);
  border-radius: var(--card-corner);
  padding: 4px 12px 5px;
  min-height: 46px;
  text-align: left;
  max-width: 230px;
}
.chip:hover,
.chip[aria-expanded='true'] {
  border-color: var(--terra);
}
.chip small,
.chip b {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.chip small {
  color: var(--ink2);
  font-size: 13px;
}
.controls {
  max-width: 380px;
}
@media (max-width: 700px) {
  .chip {
    max-width: none;
    width: 100%;
  }
}
</style>
