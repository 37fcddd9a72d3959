<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { computed, defineAsyncComponent, onBeforeUnmount, ref } from 'vue'

import { letters, postPhoto } from '@/api/outbox'
import { usePlannerNumbers } from '@/api/queries'
import RefusalNote from '@/kit/RefusalNote.vue'

import type { Limits } from './live/frame'
import PhotoPick from './PhotoPick.vue'
import ShotCard from './ShotCard.vue'

const LiveCamera = defineAsyncComponent(() => import('./live/LiveCamera.vue'))

/** Photos first, whose they are after: the tags tell. */
interface Shot {
  id: string
  at: string
}
const shots = useStorage<Shot[]>('clearjar.photo.shots', [])
const most = 30
const problem = ref<Error>()
/** Who left this page is not told here: a refusal waits for them where all that is on its way is listed. */
let here = true
onBeforeUnmount(() => (here = false))

const { data: numbers } = usePlannerNumbers()
/** The limits are numbers of the job: the camera opens when they are here. */
const limits = computed<Limits | undefined>(() => {
  const all = numbers.value?.numbers
  if (!all) return undefined
  const of = (key: string) => all.find((n) => n.number.key === `rootphoto.shot_${key}`)?.number.value ?? NaN
  return {
    tagLeast: of('tag_least'),
    tagMost: of('tag_most'),
    tilt: of('tilt'),
    glare: of('glare'),
    dark: of('dark'),
    sharp: of('sharp'),
  }
})

const live = ref(false)
const without = ref('')
/** Only a page that came safely gets the camera; elsewhere the phone's own camera takes the photo. */
const hasCamera = typeof navigator.mediaDevices !== 'undefined' && typeof OffscreenCanvas !== 'undefined'

function send(file: File) {
  problem.value = undefined
  if (file.size > 25 * 1024 * 1024) {
    problem.value = new Error(`${file.name}: ${Math.round(file.size / 1048576)} MB is too large, at most 25 MB. It was not sent.`)
    return
  }
  const at = new Date().toISOString()
  let id = ''
  const put = (shot: Shot, was = shot.id) => {
    const others = shots.value.filter((s) => s.id !== shot.id && s.id !== was)
    shots.value = [shot, ...others].slice(0, most)
  }
  void postPhoto(file, {
    here: () => here,
    kept: (photo) => {
      put({ id: photo.id, at }, id)
    },
    waits: () => undefined,
    refused: (why) => {
      shots.value = shots.value.filter((s) => s.id !== id)
      problem.value = why
    },
  }).then((its) => {
    id = its
    if (!shots.value.some((s) => s.at === at)) put({ id, at })
  })
}
function failed(why: string) {
  live.value = false
  without.value = why
}
const away = (shot: Shot) => (shots.value = shots.value.filter((s) => s !== shot))
</script>

<template>
  <div class="page stack">
    <div class="row">
      <h1>Photo</h1>
      <span class="soft">Photograph first; the tags tell whose roots they are.</span>
    </div>
    <div class="two">
      <section class="stack" aria-label="Take photos">
        <LiveCamera v-if="live && limits" :limits="limits" @shot="send" @closed="live = false" @failed="failed" />
        <div v-else class="panel stack">
          <p>
            The tag beside the vessel, straight before it, its code whole; the same spot and light each time. One jar, a box with
            several, or a whole shelf: every tag that is read is named.
          </p>
          <p v-if="without" class="caution">{{ without }}</p>
          <div class="row">
            <v-btn v-if="hasCamera && !without" color="primary" size="large" @click="live = true">Open the camera</v-btn>
            <PhotoPick several quiet :camera="!hasCamera || Boolean(without)" @picked="send" />
          </div>
          <p class="soft">Glass and water: keep jars away from the edge while both hands are busy.</p>
        </div>
        <RefusalNote :error="problem" />
      </section>
      <section class="panel stack" aria-label="Photos taken">
        <h2>Taken</h2>
        <p v-if="!shots.length" class="soft">
          Nothing yet. Each photo appears here with the cuttings in it; from there their roots are measured.
        </p>
        <ul class="shots">
          <ShotCard v-for="s in shots" :key="s.at" v-bind="s" :waits="letters.some((l) => l.id === s.id)" @away="away(s)" />
        </ul>
        <p v-if="shots.length === most" class="soft">The last {{ most }} photos. Earlier ones are kept with their looks.</p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr);
  gap: 18px;
  align-items: start;
}
@media (max-width: 860px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
.shots {
  list-style: none;
  margin: 0;
  padding: 0;
}
p {
  margin: 0;
}
</style>
