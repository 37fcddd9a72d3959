<script setup lang="ts">
import { photoUrl } from '@/api/client'
import { photoOnItsWay } from '@/api/outbox'
import { useCuttingsInPhoto } from '@/api/queries'
import { shortDate } from '@/kit/dates'
import RefusalNote from '@/kit/RefusalNote.vue'

/** A photo that was taken, and who is in it. */
const { id, waits, at } = defineProps<{ id: string; waits: boolean; at: string }>()
defineEmits<{ away: [] }>()
const { data, isPending, error, refetch } = useCuttingsInPhoto(
  () => id,
  () => !waits,
)
const src = () => photoOnItsWay(id) ?? photoUrl(id, 320, data.value?.photo.turn)
</script>

<template>
  <li class="shot" data-testid="shot">
    <img :src="src()" alt="" width="84" height="112" />
    <div class="stack">
      <div class="row">
        <span class="soft"
          >{{ shortDate(at) }}, {{ new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }) }}</span
        >
        <button type="button" class="away" @click="$emit('away')">Off this list</button>
      </div>
      <p v-if="waits" class="caution">Not sent yet: it is kept in this browser and goes out by itself.</p>
      <p v-else-if="isPending && !error" role="status" class="soft">Reading its tags …</p>
      <RefusalNote :error="error" />
      <button v-if="error" type="button" class="away" @click="refetch()">Try again</button>
      <template v-if="data">
        <ul v-if="data.cuttings.length" class="who">
          <li v-for="c in data.cuttings" :key="c.id">
            <router-link :to="{ name: 'look', params: { id: c.id }, query: { photo: id } }">
              <span class="code">{{ c.code }}</span>
            </router-link>
            <span class="soft">{{ c.mother }}{{ c.vessel && !c.by_tag ? `, in ${c.vessel}` : '' }}</span>
            <span v-if="c.looked" class="done">looked at</span>
          </li>
        </ul>
        <p v-for="s in data.says" :key="s" class="caution">{{ s }}</p>
      </template>
    </div>
  </li>
</template>

<style scoped>
.shot {
  display: grid;
  grid-template-columns: 84px 1fr;
  gap: 12px;
  padding: 12px 0;
  border-top: 1px solid var(--line);
}
img {
  border-radius: 4px;
  object-fit: cover;
  background: var(--line);
}
.who {
  list-style: none;
  margin: 0;
  padding: 0;
}
.who li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
}
.who a {
  min-height: var(--touch);
  display: inline-flex;
  align-items: center;
}
.done {
  color: var(--done);
  font-weight: 650;
}
.away {
  margin-left: auto;
  text-decoration: underline;
  min-height: 32px;
}
p {
  margin: 0;
}
</style>
