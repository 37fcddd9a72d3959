<script setup lang="ts">
import { useObjectUrl } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'

import LengthField from '@/kit/LengthField.vue'

/**
 * A photo of the stem to place its nodes on: tap the base, tap the tip, say how long it is, then tap
 * each node. A tap is laid onto the line from base to tip. The photo stays on this device.
 */
const { lengthMm, nodes } = defineProps<{ lengthMm: number; nodes: number[] }>()
const emit = defineEmits<{ node: [mm: number]; whole: [mm: number] }>()

const file = ref<File>()
const url = useObjectUrl(file)
const picture = useTemplateRef<HTMLImageElement>('picture')
const size = ref({ w: 1, h: 1 })
const base = ref<{ x: number; y: number }>()
const tip = ref<{ x: number; y: number }>()

function pick(e: Event) {
  file.value = (e.target as HTMLInputElement).files?.[0]
  base.value = tip.value = undefined
}
const loaded = () => (size.value = { w: picture.value?.naturalWidth ?? 1, h: picture.value?.naturalHeight ?? 1 })
const ask = computed(() =>
  !base.value
    ? 'Tap the base of the stem'
    : !tip.value
      ? 'Tap its tip'
      : 'Tap each node; drag it on the strip below if it is off',
)
function tap(e: MouseEvent) {
  const box = (e.currentTarget as Element).getBoundingClientRect()
  const at = { x: ((e.clientX - box.left) / box.width) * size.value.w, y: ((e.clientY - box.top) / box.height) * size.value.h }
  if (!base.value) base.value = at
  else if (!tip.value) {
    if (Math.hypot(at.x - base.value.x, at.y - base.value.y) > 8) tip.value = at
  } else {
    const a = base.value
    const d = { x: tip.value.x - a.x, y: tip.value.y - a.y }
    const along = ((at.x - a.x) * d.x + (at.y - a.y) * d.y) / (d.x * d.x + d.y * d.y)
    if (along > 0 && along < 1.02) emit('node', along * lengthMm)
  }
}
const mark = (mm: number) => {
  const a = base.value ?? { x: 0, y: 0 }
  const b = tip.value ?? a
  const t = lengthMm > 0 ? mm / lengthMm : 0
  return { x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t }
}
const r = computed(() => size.value.w / 60)
</script>

<template>
  <section class="stack" aria-label="Photo to place the nodes on">
    <div class="row">
      <label class="pick">
        <span>{{ file ? 'Another photo' : 'Place the nodes on a photo' }}</span>
        <input type="file" accept="image/*" capture="environment" data-testid="backdrop-file" @change="pick" />
      </label>
      <template v-if="url">
        <b role="status">{{ ask }}</b>
        <LengthField class="whole" label="Base to tip" :model-value="lengthMm" @changed="emit('whole', $event)" />
        <v-btn v-if="base" variant="text" @click="base = tip = undefined">Base and tip anew</v-btn>
        <v-btn variant="text" @click="file = undefined">Put the photo away</v-btn>
      </template>
    </div>
    <div v-if="url" class="board">
      <img ref="picture" :src="url" alt="The stem, as you photographed it" @load="loaded" />
      <svg :viewBox="`0 0 ${size.w} ${size.h}`" data-testid="backdrop" @click="tap">
        <path
          v-if="base && tip"
          :d="`M${base.x} ${base.y}L${tip.x} ${tip.y}`"
          stroke="#fff"
          :stroke-width="r * 0.35"
          opacity="0.8"
        />
        <circle
          v-for="p in [base, tip].filter((q) => q !== undefined)"
          :key="`${p.x}-${p.y}`"
          :cx="p.x"
          :cy="p.y"
          :r="r"
          fill="none"
          stroke="#a8481f"
          :stroke-width="r * 0.4"
        />
        <template v-if="base && tip">
          <g v-for="(mm, i) in nodes" :key="i">
            <circle :cx="mark(mm).x" :cy="mark(mm).y" :r="r * 0.8" fill="#fbf8f0" stroke="#1f2f29" :stroke-width="r * 0.2" />
            <text :x="mark(mm).x" :y="mark(mm).y + r * 0.45" text-anchor="middle" :font-size="r * 1.2" fill="#1f2f29">
              {{ i + 1 }}
            </text>
          </g>
        </template>
      </svg>
    </div>
  </section>
</template>

<style scoped>
.pick {
  border: 1px solid var(--ink2);
  border-radius: var(--card-corner);
  padding: 9px 14px;
  min-height: var(--touch);
  cursor: pointer;
  font-weight: 600;
  position: relative;
}
.pick input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
  width: 100%;
}
.pick:focus-within {
  outline: 3px solid var(--terra);
}
.board {
  position: relative;
  max-width: 640px;
}
.board img {
  width: 100%;
  display: block;
  border-radius: 12px;
}
.board svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  cursor: crosshair;
}
.whole {
  max-width: 170px;
}
</style>
