<script setup lang="ts">
import type { Basis } from '@/api/client'

import { said } from './units'

/** Where a number comes from, said in small beside it. */
const { basis } = defineProps<{ basis: Basis | undefined }>()
</script>

<template>
  <span v-if="basis" class="basis"
    >{{ basis.kind }}<template v-if="basis.source">: {{ said(basis.source) }}</template></span
  >
</template>

<style scoped>
.basis {
  font-size: var(--smallest);
  color: var(--ink2);
}
</style>
