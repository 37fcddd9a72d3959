<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue'

import { api, take } from '@/api/client'

import type { Frame, Limits } from './frame'

/** The camera of the phone, with what it sees told as it is held: which tags, and what to change before the shot. */
const { limits } = defineProps<{ limits: Limits }>()
const emit = defineEmits<{ shot: [file: File]; closed: []; failed: [why: string] }>()

const video = useTemplateRef('video')
const frame = ref<Frame>({ tags: [], advice: [] })
const size = ref({ width: 4, height: 3 })
const taking = ref(false)
const taken = ref(0)
const whose = ref<Record<string, string>>({})
let stream: MediaStream | undefined
let timer: ReturnType<typeof setTimeout> | undefined
let gone = false

/** How often a frame is looked at, ms, and how long its longer side is then, pixels. */
const every = 220
const looked = 640

async function start() {
  try {
    stream = await navigator.mediaDevices.getUserMedia({
      video: { facingMode: 'environment', width: { ideal: 4096 }, height: { ideal: 3072 } },
      audio: false,
    })
  } catch (e) {
    const name = e instanceof DOMException ? e.name : ''
    emit(
      'failed',
      name === 'NotAllowedError'
        ? 'The browser does not let this page use the camera. Allow it in the settings of the page, or choose photos taken with the phone.'
        : 'No camera was found. Choose photos instead.',
    )
    return
  }
  const v = video.value
  if (!v || gone) return end()
  v.srcObject = stream
  await v.play().catch(() => undefined)
  void look()
}
async function look() {
  const v = video.value
  if (gone || !v) return
  if (v.videoWidth) {
    size.value = { width: v.videoWidth, height: v.videoHeight }
    const by = Math.min(1, looked / Math.max(v.videoWidth, v.videoHeight))
    const [width, height] = [Math.round(v.videoWidth * by), Math.round(v.videoHeight * by)]
    const canvas = new OffscreenCanvas(width, height)
    const on = canvas.getContext('2d', { willReadFrequently: true })
    if (on) {
      on.drawImage(v, 0, 0, width, height)
      const { lookAtFrame } = await import('./frame')
      const seen = lookAtFrame({ data: on.getImageData(0, 0, width, height).data, width, height }, limits)
      for (const t of seen.tags) t.corners = t.corners.map((c) => ({ x: c.x / by, y: c.y / by }))
      frame.value = seen
      for (const t of seen.tags) void name(t.payload)
    }
  }
  timer = setTimeout(() => void look(), every)
}
const short = (payload: string) => payload.replace(/^CJ1:(V:)?/, '')
async function name(payload: string) {
  const tag = short(payload)
  if (tag in whose.value) return
  whose.value = { ...whose.value, [tag]: '' }
  const found = await take(api.GET('/api/find', { params: { query: { q: tag } } })).catch(() => undefined)
  const is = [
    ...(found?.cuttings ?? []).filter((c) => c.tag === tag).map((c) => c.code),
    ...(found?.vessels ?? []).filter((v) => v.tag === tag).map((v) => v.name),
  ]
  whose.value = { ...whose.value, [tag]: found ? is.join(', ') || 'nothing here' : '' }
}

async function shoot() {
  const v = video.value
  if (!v?.videoWidth) return
  taking.value = true
  const canvas = new OffscreenCanvas(v.videoWidth, v.videoHeight)
  canvas.getContext('2d')?.drawImage(v, 0, 0)
  const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.93 })
  taken.value++
  emit('shot', new File([blob], `photo-${taken.value}.jpg`, { type: 'image/jpeg' }))
  setTimeout(() => (taking.value = false), 150)
}
function end() {
  gone = true
  clearTimeout(timer)
  stream?.getTracks().forEach((t) => t.stop())
}
onMounted(start)
onBeforeUnmount(end)
</script>

<template>
  <section class="live" aria-label="Camera">
    <div class="view" :class="{ flash: taking }">
      <video ref="video" muted playsinline data-testid="live"></video>
      <svg :viewBox="`0 0 ${size.width} ${size.height}`" aria-hidden="true">
        <g v-for="t in frame.tags" :key="t.payload">
          <polygon
            :points="t.corners.map((c) => `${c.x},${c.y}`).join(' ')"
            fill="none"
            stroke="#fffdf6"
            :stroke-width="size.width / 110"
            stroke-linejoin="round"
          />
          <polygon
            :points="t.corners.map((c) => `${c.x},${c.y}`).join(' ')"
            fill="none"
            stroke="#2f6b4f"
            :stroke-width="size.width / 200"
            stroke-linejoin="round"
          />
        </g>
      </svg>
    </div>
    <div class="below">
      <p class="read" role="status" data-testid="live-tags">
        <template v-for="t in frame.tags" :key="t.payload">
          <span class="code">{{ short(t.payload) }}</span> {{ whose[short(t.payload)] }}{{ ' ' }}
        </template>
        <span v-if="!frame.tags.length">Looking for a tag</span>
      </p>
      <p class="advice" :class="{ good: !frame.advice.length }" role="status" data-testid="advice">
        {{ frame.advice[0] ?? 'Good. Hold still.' }}
      </p>
      <div class="row">
        <v-btn color="primary" size="large" class="shutter" :disabled="taking" @click="shoot">Take the photo</v-btn>
        <v-btn variant="outlined" size="large" @click="emit('closed')">{{ taken ? 'Done' : 'Close' }}</v-btn>
        <span v-if="taken" class="soft">{{ taken }} taken</span>
      </div>
    </div>
  </section>
</template>

<style scoped>
.live {
  border-radius: var(--card-corner);
  overflow: hidden;
  border: 1px solid var(--line);
  background: var(--card);
}
.view {
  position: relative;
  background: #14201b;
  line-height: 0;
  display: flex;
  justify-content: center;
}
.view video {
  max-width: 100%;
  max-height: 58vh;
}
.view svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.flash video {
  opacity: 0.35;
}
.below {
  padding: 10px 14px 14px;
  display: grid;
  gap: 6px;
}
p {
  margin: 0;
}
.read {
  min-height: 1.5em;
}
.advice {
  font-weight: 650;
  color: var(--terra);
  min-height: 3em;
}
.good {
  color: var(--ready);
}
.shutter {
  flex: 1;
  max-width: 320px;
}
</style>
