<script setup lang="ts">
/** Where photos come from: the files of the device, or its own camera. */
const {
  several = false,
  camera = true,
  quiet = false,
} = defineProps<{
  several?: boolean
  camera?: boolean
  /** Something else is what is usually done. */
  quiet?: boolean
}>()
const emit = defineEmits<{ picked: [file: File] }>()
function choose(e: Event) {
  const input = e.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  input.value = ''
  files.forEach((f) => emit('picked', f))
}
</script>

<template>
  <label class="pick" :class="{ quiet: quiet && !camera }">
    <input type="file" accept="image/jpeg,image/png,.heic,.heif" :multiple="several" data-testid="photo-file" @change="choose" />
    <span>{{ several ? 'Choose photos' : 'Choose a photo' }}</span>
  </label>
  <label v-if="camera" class="pick camera">
    <input type="file" accept="image/*" capture="environment" data-testid="photo-camera" @change="choose" />
    <span>Open the camera</span>
  </label>
</template>

<style scoped>
.pick input {
  position: absolute;
  opacity: 0;
  width: 1px;
  height: 1px;
}
.pick span {
  display: inline-flex;
  align-items: center;
  min-height: var(--touch);
  padding: 0 18px;
  border-radius: var(--card-corner);
  background: var(--terra);
  color: var(--paper);
  font-weight: 600;
  cursor: pointer;
}
.pick.quiet span,
.pick.camera span {
  background: none;
  border: 1px solid var(--ink2);
  color: inherit;
}
.pick input:focus-visible + span {
  outline: 3px solid var(--ink);
  outline-offset: 2px;
}
</style>
