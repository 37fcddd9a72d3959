<script setup lang="ts">
import qrcode from 'qrcode-generator'
import { computed } from 'vue'

/** A text as a square code, drawn as one path; dark on light under either lamp, so that every camera reads it. */
const { text, label } = defineProps<{ text: string; label: string }>()
const quiet = 4
const drawn = computed(() => {
  const code = qrcode(0, 'M')
  code.addData(text)
  code.make()
  const size = code.getModuleCount()
  let d = ''
  for (let y = 0; y < size; y++) for (let x = 0; x < size; x++) if (code.isDark(y, x)) d += `M${x + quiet} ${y + quiet}h1v1h-1z`
  return { d, box: size + 2 * quiet }
})
</script>

<template>
  <svg class="qr" role="img" :aria-label="label" :viewBox="`0 0 ${drawn.box} ${drawn.box}`" shape-rendering="crispEdges">
    <rect width="100%" height="100%" fill="#fff" />
    <path :d="drawn.d" fill="#000" />
  </svg>
</template>

<style scoped>
.qr {
  width: 220px;
  max-width: 100%;
  border-radius: var(--corner);
}
</style>
