<script setup lang="ts">
import { computed } from 'vue'
import { useStorage } from '@vueuse/core'

import { useHandbook } from '@/api/queries'

import { said } from './units'

/** Tags to print for these cuttings: a PDF with a code of known size. */
const { ids } = defineProps<{ ids: string[] }>()
const { data: book } = useHandbook()
const size = useStorage('clearjar.tag.size', 'stick')
const href = computed(() => `/api/tags.pdf?size=${size.value}&cuttings=${ids.join(',')}`)
const chosen = computed(() => book.value?.tag_sizes.find((s) => s.key === size.value))
</script>

<template>
  <div v-if="ids.length" class="row" role="group" aria-label="Tags">
    <v-btn-toggle v-model="size" mandatory color="secondary" aria-label="Size of the tags">
      <v-btn v-for="s in book?.tag_sizes ?? []" :key="s.key" :value="s.key" size="small">{{ s.key }}</v-btn>
    </v-btn-toggle>
    <v-btn :href="href" download variant="outlined">{{ ids.length === 1 ? 'Tag as PDF' : `${ids.length} tags as PDF` }}</v-btn>
    <small v-if="chosen" class="soft">{{
      said(`${chosen.label}; the code is ${chosen.qr_mm} mm wide. Print at 100 %, so that photos can be measured by it.`)
    }}</small>
  </div>
</template>
