<script setup lang="ts">
import { onKeyStroke, usePreferredDark, useStorage } from '@vueuse/core'
import { mdiLightbulbOffOutline, mdiLightbulbOnOutline, mdiMagnify } from '@mdi/js'
import { computed, defineAsyncComponent, onMounted, ref, watchEffect } from 'vue'
import { useRouter } from 'vue-router'
import { useTheme } from 'vuetify'

import type { Vessel } from '@/api/client'
import { askWho, me, shutOut, signedIn, who } from '@/api/me'
import { useRound, useShelf } from '@/api/queries'
import OutboxBar from '@/kit/OutboxBar.vue'
import UndoBar from '@/kit/UndoBar.vue'
import { useOpened } from '@/kit/opened'
import { lengthUnit, temperatureUnit } from '@/kit/units'

// What opens later is fetched when it first opens.
const FindCutting = defineAsyncComponent(() => import('@/kit/FindCutting.vue'))
const KeyHelp = defineAsyncComponent(() => import('@/kit/KeyHelp.vue'))
const UnitsDialog = defineAsyncComponent(() => import('@/kit/UnitsDialog.vue'))
const MoreMenu = defineAsyncComponent(() => import('@/kit/MoreMenu.vue'))
const SignInAgain = defineAsyncComponent(() => import('@/stations/door/SignInAgain.vue'))
const DoorPage = defineAsyncComponent(() => import('@/stations/door/DoorPage.vue'))
const VesselDialog = defineAsyncComponent(() => import('@/stations/shelf/VesselDialog.vue'))

const router = useRouter()
const theme = useTheme()
const darkOutside = usePreferredDark()
const lamp = useStorage<'on' | 'off' | 'as the system'>('clearjar.lamp', 'as the system')
const dark = computed(() => (lamp.value === 'as the system' ? darkOutside.value : lamp.value === 'off'))
watchEffect(() => theme.change(dark.value ? 'dark' : 'light'))

/** How much of the frame stands, see below. */
const step = ref(0)
void askWho()
const atDoor = computed(() => !signedIn.value && who.value !== undefined)
const { data: shelf } = useShelf(signedIn)
const toPot = computed(() => shelf.value?.cuttings.filter((c) => c.judgement.to_pot).length ?? 0)
const toSet = computed(() => shelf.value?.cuttings.filter((c) => c.where === 'unset' && !c.judgement.to_pot).length ?? 0)

/** In the order of the work. On a phone the bar holds the shelf, the round and what follows; the rest is one tap away. */
const stations = computed(() => [
  { to: '/mothers', label: 'Mothers', key: '1', count: 0, bar: 0 },
  { to: '/cut', label: 'Cut', key: '2', count: 0, bar: 0 },
  { to: '/set', label: 'Set', key: '3', count: toSet.value, bar: 0 },
  { to: '/', label: 'Shelf', key: '4', count: 0, bar: 3 },
  { to: '/round', label: 'Round', key: '5', count: due.value, bar: 4 },
  { to: '/photo', label: 'Photo', key: '6', count: 0, bar: 1 },
  { to: '/potup', label: 'Pot up', key: '7', count: toPot.value, bar: 2 },
])
const beside = [
  { to: '/ahead', label: 'The coming weeks' },
  { to: '/bring-in', label: 'Bring in a piece' },
  { to: '/offer', label: 'Is a piece worth it?' },
  { to: '/mix', label: 'Mixing corner' },
  { to: '/numbers', label: 'Where every number comes from' },
  { to: '/files', label: 'In and out' },
  { to: '/household', label: 'Household' },
  { to: '/about', label: 'About' },
]
const more = computed(() => [...stations.value.filter((s) => s.bar === 0), ...beside])

/** What is due is asked for when the page stands. */
const { data: round } = useRound(() => step.value > 2 && signedIn.value)
const due = computed(
  () =>
    (round.value?.stops.filter((s) => s.tasks.length > 0 && !s.put_off).length ?? 0) +
    (round.value?.pots.filter((p) => p.due).length ?? 0),
)

/** The frame stands first; the ways, the page and the foot follow, each after a breath, so that none holds up the hand. */
const next = () => {
  step.value++
  if (step.value < 3) setTimeout(next)
}
onMounted(() => setTimeout(next))

const finding = ref(false)
const measuring = ref(false)
const vessel = ref<Vessel>()
const helping = ref(false)
const listing = ref(false)
const opened = {
  finding: useOpened(() => finding.value),
  measuring: useOpened(() => measuring.value),
  vessel: useOpened(() => vessel.value),
  helping: useOpened(() => helping.value),
  listing: useOpened(() => listing.value),
}
const typing = (e: KeyboardEvent) =>
  e.ctrlKey ||
  e.metaKey ||
  e.altKey ||
  (e.target instanceof HTMLElement && e.target.closest('input, textarea, select, [contenteditable]') !== null)

onKeyStroke((e) => {
  if (typing(e) || !signedIn.value) return
  if (e.key === '/') {
    e.preventDefault()
    finding.value = true
  } else if (e.key === '?') {
    helping.value = true
  } else {
    const station = stations.value.find((s) => s.key === e.key)
    if (station) void router.push(station.to)
  }
})
</script>

<template>
  <v-app>
    <a class="skip" href="#main">Skip to the page</a>
    <header class="top">
      <router-link to="/" class="brand" aria-label="Clear Jar, to the shelf">
        <svg width="22" height="28" viewBox="0 0 24 28" fill="none" stroke="currentColor" stroke-width="1.8" aria-hidden="true">
          <path d="M5 6h14v3c2 1 3 2.500 3 5v10a3 3 0 0 1-3 3H5a3 3 0 0 1-3-3V14c0-2.500 1-4 3-5z" />
          <path d="M2.500 16.500h19" stroke="var(--glass)" />
          <path d="M12 1v15M12 16c-1 3-4 3-5 7M12 16v8M12 16c1 3 4 2 5 6" />
        </svg>
        <span>Clear Jar</span>
      </router-link>
      <nav v-if="!atDoor" aria-label="Stations">
        <router-link
          v-for="s in step ? stations : []"
          :key="s.to"
          :to="s.to"
          :class="{ home: s.to === '/', wide: !s.bar }"
          :style="{ '--bar-place': s.bar }"
        >
          {{ s.label }}<i v-if="s.count"> {{ s.count }}</i>
        </router-link>
        <button
          v-if="step > 2"
          id="more"
          type="button"
          class="more"
          aria-haspopup="menu"
          :aria-expanded="listing"
          @click="listing = !listing"
        >
          More
        </button>
        <span v-else-if="step" class="more" aria-hidden="true">More</span>
      </nav>
      <div class="tools">
        <span v-if="me && !me.rights.includes('record')" class="soft reads">You read here as a guest</span>
        <OutboxBar v-if="step > 2 && !atDoor" />
        <button v-if="!atDoor" class="find" type="button" aria-label="Find a cutting" @click="finding = true">
          <svg viewBox="0 0 24 24" width="22" height="22" aria-hidden="true"><path :d="mdiMagnify" fill="currentColor" /></svg>
          <span>Find a cutting</span> <kbd>/</kbd>
        </button>
        <v-btn
          v-if="step > 0"
          :icon="dark ? mdiLightbulbOnOutline : mdiLightbulbOffOutline"
          variant="text"
          size="44"
          :aria-label="dark ? 'Lamp on: light theme' : 'Lamp off: dark theme'"
          @click="lamp = dark ? 'on' : 'off'"
        />
      </div>
    </header>
    <main id="main" tabindex="-1">
      <DoorPage v-if="atDoor" />
      <router-view v-else-if="step > 1 && signedIn" :key="$route.path" />
    </main>
    <footer v-if="step > 2 && !atDoor" class="foot">
      <router-link v-for="b in beside" :key="b.to" :to="b.to">{{ b.label }}</router-link>
      <button type="button" @click="measuring = true">
        Units: {{ lengthUnit === 'in' ? 'inch' : lengthUnit }}, °{{ temperatureUnit }}
      </button>
      <button type="button" @click="helping = true">Keys <kbd>?</kbd></button>
      <span>This tool advises; it does not know your plant. When a plant is irreplaceable, ask someone who grows it.</span>
    </footer>
    <FindCutting
      v-if="opened.finding.value"
      v-model="finding"
      :cuttings="shelf?.cuttings ?? []"
      :vessels="shelf?.vessels ?? []"
      @vessel="vessel = $event"
    />
    <MoreMenu v-if="opened.listing.value" v-model="listing" :of="more" by="#more" />
    <VesselDialog v-if="opened.vessel.value" :vessel="vessel" @close="vessel = undefined" />
    <KeyHelp v-if="opened.helping.value" v-model="helping" />
    <UnitsDialog v-if="opened.measuring.value" v-model="measuring" />
    <SignInAgain v-if="shutOut && me" />
    <UndoBar v-if="step > 2" />
  </v-app>
</template>

<style scoped>
.skip {
  position: absolute;
  left: -999px;
}
.skip:focus {
  left: 12px;
  top: 8px;
  z-index: 9;
  background: var(--card);
  padding: 8px;
}
.top {
  display: flex;
  align-items: center;
  gap: 20px;
  height: var(--bar);
  padding: 0 22px;
  border-bottom: 1px solid var(--line);
  position: sticky;
  top: 0;
  background: var(--paper);
  z-index: 5;
}
.brand {
  display: flex;
  align-items: center;
  gap: 9px;
  font: 600 21px var(--head);
  text-decoration: none;
  letter-spacing: -0.01em;
}
nav {
  display: flex;
  gap: 2px;
}
nav a {
  padding: 9px 13px;
  border-radius: var(--chip-corner);
  color: var(--ink2);
  font-weight: 550;
  text-decoration: none;
  white-space: nowrap;
}
nav a:hover {
  background: var(--card);
}
nav a.router-link-active:not(.home),
nav a.router-link-exact-active {
  background: var(--ink);
  color: var(--paper);
}
nav i {
  font-style: normal;
  font-weight: 700;
  color: var(--terra);
  margin-left: 3px;
}
nav a.router-link-active:not(.home) i {
  color: inherit;
}
.tools {
  min-height: var(--touch);
  margin-left: auto;
  display: flex;
  gap: 6px;
  align-items: center;
}
.find {
  color: var(--ink2);
  border: 1px solid var(--line);
  border-radius: var(--chip-corner);
  padding: 6px 10px 6px 16px;
  background: var(--card);
  min-width: 190px;
  min-height: 38px;
  text-align: left;
  display: flex;
  gap: 8px;
  align-items: center;
}
.find span {
  flex: 1;
}
kbd {
  font: 550 12px var(--mono);
  border: 1px solid var(--line);
  border-radius: 4px;
  padding: 0 5px;
}
.foot {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  padding: 12px 24px;
  border-top: 1px solid var(--line);
  color: var(--ink2);
  font-size: var(--small);
  align-items: center;
}
.foot button {
  color: inherit;
  text-decoration: underline;
  min-height: 32px;
  border: 0;
  background: none;
  font: inherit;
}
/* What is still being fetched has its place: the foot stays below the screen. */
main {
  flex: 1;
  outline: none;
  min-height: calc(100vh - var(--bar));
}
.more {
  display: none;
}
.reads {
  font-size: var(--small);
}
@media (max-width: 700px) {
  nav .wide {
    display: none;
  }
  nav a {
    order: var(--bar-place);
  }
  .more {
    display: block;
    order: 9;
    color: var(--ink2);
    font-weight: 550;
    font-size: var(--beside);
    min-height: var(--touch);
    padding: 0 9px;
  }
  span.more {
    line-height: var(--touch);
  }
  .top {
    padding: 0 12px;
    gap: 8px;
  }
  .brand {
    min-height: var(--touch);
  }
  .find {
    min-width: 0;
    width: 44px;
    height: 44px;
    justify-content: center;
    padding: 0;
  }
  .find span,
  .find kbd {
    display: none;
  }
  nav {
    position: fixed;
    bottom: 0;
    left: 0;
    right: 0;
    background: var(--card);
    border-top: 1px solid var(--line);
    justify-content: space-around;
    min-height: 57px;
    padding: 6px 4px calc(6px + env(safe-area-inset-bottom));
    z-index: 6;
  }
  nav a {
    padding: 11px 9px;
    min-height: var(--touch);
    font-size: var(--beside);
  }
  .foot {
    padding-bottom: 84px;
  }
}
</style>
