<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, reactive, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { newId, type Cutting } from '@/api/client'
import { useMany } from '@/api/many'
import PatternDefs from '@/drawing/PatternDefs.vue'
import AskState from '@/kit/AskState.vue'
import BasisNote from '@/kit/BasisNote.vue'
import DateField from '@/kit/DateField.vue'
import { instantOf, todayField } from '@/kit/dates'
import PrintTags from '@/kit/PrintTags.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { len, said } from '@/kit/units'
import { count, verdictWord } from '@/kit/words'
import RefusedOnes from '@/stations/together/RefusedOnes.vue'

import MixForAll from './MixForAll.vue'
import PotCard from './PotCard.vue'
import { useTable } from './table'

/** The potting table: the ready ones shared out among pots, drawn to scale; who goes where can be changed; one confirm. */
const route = useRoute()
const router = useRouter()
const moving = ref(route.query['move'] === '1')
const asked = computed(() => {
  const q = route.query['cuttings'] ?? route.query['cutting']
  return typeof q === 'string' ? q.split(',').filter(Boolean) : undefined
})
const { shelf, isPending, error, refetch, all, offered, lying, own, table, pots, flip, put, change } = useTable(asked, moving)
const byId = computed(() => new Map(all.value.map((c) => [c.id, c])))
const plantsOf = (ids: string[]) => ids.flatMap((id) => byId.value.get(id) ?? [])
const anyPotted = computed(() => all.value.some((c) => c.pot !== undefined))
const early = computed(() => (moving.value ? [] : plantsOf(lying.value).filter((c) => !c.judgement.to_pot)))
const names = computed(() => pots.value.map((p, i) => `${len(p.pot.top_mm)} pot${pots.value.length > 1 ? ` ${i + 1}` : ''}`))
function turn(to: boolean) {
  own.value = undefined
  told.value = ''
  moving.value = to
  void router.replace({ name: 'potup', query: to ? { move: '1' } : {} })
}

const middle = useTemplateRef('middle')
const { width } = useElementSize(middle)
/** One scale for all pots, so that they can be compared. */
const scale = computed(() => Math.min(1.45, Math.max(0.9, (width.value - 40) / 260)))

const form = reactive({ place: '', on: todayField(), note: '' })
watch(
  [shelf, lying],
  ([s, ids]) => {
    const first: Cutting | undefined = byId.value.get(ids[0] ?? '')
    if (s && !form.place) form.place = first?.place_name || s.places[0]?.name || ''
  },
  { immediate: true },
)
const potfuls = useMany('potful', 'potful')
const told = ref('')
const done = ref<string[]>([])
async function save() {
  const kept = await potfuls.send(
    pots.value.map((p) => {
      const plants = plantsOf(p.plants)
      return {
        name: plants.map((c) => c.code).join(', '),
        content: {
          id: newId(),
          place: form.place,
          potted_on: instantOf(form.on),
          pot: p.pot,
          mix: p.mix,
          plants: p.plants.map((id, i) => {
            const { x_mm = 0, y_mm = 0, degrees = 0, bury_mm = 0, stake = false } = p.places[i] ?? {}
            return { cutting_id: id, x_mm, y_mm, degrees, bury_mm, stake }
          }),
          ...(moving.value ? { moves_on: true } : {}),
          ...(form.note ? { note: form.note } : {}),
        },
      }
    }),
    (list) => `${list.map((k) => k.name).join(', ')} ${moving.value ? 'moved on' : 'potted'}.`,
  )
  if (!kept.length) return
  const ids = kept.flatMap((k) => k.content.plants.map((p) => p.cutting_id))
  done.value = ids
  told.value = `${moving.value ? 'Moved on' : 'Potted'}: ${kept.map((k) => k.name).join('; ')}, in ${count(kept.length, 'pot', 'pots')}.`
  own.value = undefined
  if (ids.length === 1 && kept.length === pots.value.length) await router.push({ name: 'cutting', params: { id: ids[0] ?? '' } })
  else if (asked.value) void router.replace({ name: 'potup', query: moving.value ? { move: '1' } : {} })
}
</script>

<template>
  <div class="page">
    <PatternDefs />
    <div class="row head">
      <h1>{{ moving ? 'Move on' : 'Pot up' }}</h1>
      <p v-if="pots.length" class="soft" role="status">{{ said(table.data.value?.says ?? '') }}</p>
      <div v-if="anyPotted || moving" class="row push" role="group" aria-label="Which pots">
        <button type="button" class="choice" :aria-pressed="!moving" @click="turn(false)">first pots</button>
        <button type="button" class="choice" :aria-pressed="moving" @click="turn(true)">move on</button>
      </div>
    </div>
    <AskState :pending="isPending" :error="error" what="the ready ones" @retry="refetch()" />
    <div v-if="told" class="panel stack told">
      <p role="status">{{ told }}</p>
      <PrintTags :ids="done" />
    </div>
    <p v-if="shelf && !offered.length" class="panel">
      {{ moving ? 'Nothing stands in a pot.' : 'None is ready today. The shelf says when each is likely to be.' }}
      <router-link to="/">To the shelf.</router-link>
    </p>
    <div v-if="offered.length" class="table">
      <section class="list" aria-label="On the table">
        <h2>{{ moving ? 'In pots' : 'On the table' }}</h2>
        <button
          v-for="c in offered"
          :key="c.id"
          type="button"
          class="choice"
          :aria-pressed="lying.includes(c.id)"
          :title="`${verdictWord[c.judgement.verdict]}. ${c.mother_name}`"
          @click="flip(c.id)"
        >
          <span class="code">{{ c.code }}</span>
          <span>{{ moving && c.pot ? len(c.pot.top_mm) : c.longest_mm ? len(c.longest_mm) : '' }}</span>
        </button>
        <p class="soft">
          {{
            moving
              ? 'Tap what is to be moved on: 25 mm wider, never 50.'
              : 'Tap one off or on. Drag a plant into another pot, or tap it there and say where it goes.'
          }}
        </p>
        <button v-if="own" type="button" class="again" @click="own = undefined">share them out anew</button>
      </section>
      <div ref="middle" class="pots">
        <p v-if="!lying.length" class="panel">Nothing lies on the table.</p>
        <RefusalNote :error="table.error.value" />
        <PotCard
          v-for="(p, i) in pots"
          :key="p.plants.join()"
          :pot="p"
          :cuttings="plantsOf(p.plants)"
          :at="i"
          :others="names"
          :scale="scale"
          :materials="table.data.value?.materials ?? []"
          :recipes="table.data.value?.recipes ?? []"
          @put="put"
          @off="flip"
          @pot="(pot) => change(i, { pot })"
          @mix="(mix) => change(i, { mix })"
        />
      </div>
      <aside v-if="pots.length" class="stack" aria-label="Pot them">
        <MixForAll :mixes="table.data.value?.mixes ?? []" :settling="table.data.value?.settling.value ?? 0" />
        <div class="caution stack">
          <p v-for="c in table.data.value?.cautions" :key="c.key">{{ c.text }}</p>
          <p v-for="c in early" :key="c.id">
            {{ c.code }}: {{ c.judgement.caution || 'the verdict is not to pot it yet.' }} You may overrule it: you know your
            plant.
          </p>
        </div>
        <v-combobox v-model="form.place" label="Goes to which shelf" :items="shelf?.places.map((p) => p.name) ?? []" />
        <DateField v-model="form.on" :label="moving ? 'Moved on' : 'Potted on'" />
        <v-text-field v-model="form.note" label="Note" maxlength="500" />
        <RefusedOnes :refused="potfuls.refused.value" :waits="potfuls.waits.value" />
        <div class="confirm">
          <v-btn color="primary" size="large" :loading="potfuls.isPending.value" :disabled="!form.place" @click="save">{{
            moving
              ? lying.length === 1
                ? 'It is moved on'
                : 'They are moved on'
              : lying.length === 1
                ? 'It is potted'
                : 'They are potted'
          }}</v-btn>
        </div>
        <PrintTags :ids="lying" />
        <details>
          <summary>Where these numbers come from</summary>
          <p v-for="n in table.data.value?.rests_on" :key="n.key">
            {{ n.label }}: {{ said(`${n.value} ${n.unit}`) }}. <BasisNote :basis="n.basis" />
          </p>
        </details>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.head {
  margin-bottom: 12px;
}
.table {
  display: grid;
  grid-template-columns: 190px minmax(0, 1fr) 252px;
  gap: 18px;
  align-items: start;
}
.list {
  display: grid;
  gap: 7px;
}
.list h2 {
  font-size: 17px;
}
.list .choice {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
  padding: 2px 12px;
  background: var(--card);
  color: inherit;
}
.list .choice[aria-pressed='true'] {
  background: var(--card);
  color: inherit;
  border: 2px solid var(--ink);
}
.again {
  text-decoration: underline;
  min-height: var(--touch);
  text-align: left;
}
.pots {
  display: flex;
  flex-wrap: wrap;
  gap: 16px;
  align-items: flex-start;
}
.pots > * {
  flex: 1 1 300px;
}
.caution {
  gap: 6px;
  font-size: 14px;
}
.confirm {
  position: sticky;
  bottom: 0;
  padding: 6px 0;
  background: var(--paper);
  z-index: 1;
}
.confirm > * {
  width: 100%;
}
.told {
  margin-bottom: 12px;
}
p {
  margin: 0;
}
details p {
  margin-top: 6px;
}
@media (max-width: 900px) {
  .table {
    grid-template-columns: minmax(0, 1fr);
  }
  .list {
    grid-template-columns: 1fr 1fr;
  }
  .confirm {
    bottom: calc(58px + env(safe-area-inset-bottom));
  }
  .list h2,
  .list p {
    grid-column: 1 / -1;
  }
}
</style>
