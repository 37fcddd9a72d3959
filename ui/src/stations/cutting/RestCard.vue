<script setup lang="ts">
import type { Schemas } from '@/api/client'
import BasisNote from '@/kit/BasisNote.vue'
import { said } from '@/kit/units'

/** What a forecast rests on: the starting value, the grower's own records, and what is used of both. */
defineProps<{ rests: Schemas['Rest'][]; group?: string; title?: string }>()
</script>

<template>
  <section class="rests" :aria-label="title ?? 'What it rests on'">
    <h3>{{ title ?? 'What it rests on' }}</h3>
    <dl>
      <div v-for="r in rests" :key="r.what">
        <dt>
          {{ said(r.what) }}
          <small v-if="r.own_counts" class="yours">your records</small>
          <BasisNote v-if="r.basis" class="why" :basis="r.basis" />
        </dt>
        <dd>
          <b>{{ said(r.used) }}</b>
          <small>start {{ said(r.start) }}; yours {{ said(r.own) }}</small>
        </dd>
      </div>
    </dl>
    <p v-if="group" class="small">
      <router-link :to="{ name: 'group', params: { id: group } }">Your records of its group, and how forecasts went</router-link>
    </p>
  </section>
</template>

<style scoped>
.rests {
  display: grid;
  gap: 4px;
}
dl {
  margin: 0;
}
dl div {
  border-top: 1px solid var(--line);
  padding: 6px 0;
}
dt {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
  align-items: baseline;
}
dd {
  margin: 0;
}
dd b {
  font-family: var(--mono);
}
small {
  display: block;
  color: var(--ink2);
  font-size: 13px;
}
.small {
  margin: 0;
  font-size: 14.5px;
}
.yours {
  display: inline-block;
  color: var(--ready);
  font-weight: 650;
}
.why {
  display: block;
  width: 100%;
  font-size: 12.5px;
}
</style>
