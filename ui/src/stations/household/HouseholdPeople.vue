<script setup lang="ts">
import { computed, ref } from 'vue'

import { api, take, type Schemas } from '@/api/client'
import { invitationsAre, joinAddress, peopleAre, useInvitations, useWayIn, type People } from '@/api/household'
import { may, me } from '@/api/me'
import { bothDates } from '@/kit/dates'
import QrCode from '@/kit/QrCode.vue'
import RefusalNote from '@/kit/RefusalNote.vue'
import { useAct } from '@/kit/useAct'

/** The members of the household; a keeper invites, says who may do what, and shuts out. */
const { people } = defineProps<{ people: People }>()
type Member = People['members'][number]
const keeps = may('people')
const { data: way } = useWayIn()
/** Where others come in: by the name the server is called, where it is reached by others. */
const address = (code: string) => joinAddress(code, way.value?.addresses[0])
const { data: invitations } = useInvitations(keeps)
const { busy, error, act } = useAct()
const name = ref('')
const role = ref<Schemas['InviteIn']['role']>('helper')
const made = ref<Schemas['MadeInvitation']>()
const editing = ref<Member>()
const ending = ref('')
const inside = computed(() => people.members.filter((m) => !m.ended_at))
const gone = computed(() => people.members.filter((m) => m.ended_at))
const says = (key: string) => people.roles.find((r) => r.key === key)?.says ?? ''
const id = (of: string) => ({ params: { path: { id: of } } })
const invite = () =>
  act(async () => {
    made.value = await take(api.POST('/api/invitations', { body: { name: name.value, role: role.value } }))
    name.value = ''
    invitationsAre(await take(api.GET('/api/invitations')))
  })
const uninvite = (of: string) =>
  act(async () => {
    invitationsAre(await take(api.POST('/api/invitations/{id}/end', id(of))))
    if (made.value?.id === of) made.value = undefined
  })
const change = (m: Member) =>
  act(async () => {
    peopleAre(await take(api.POST('/api/members/{id}', { ...id(m.id), body: { name: m.name, role: m.role } })))
    editing.value = undefined
  })
const end = (of: string) =>
  act(async () => {
    peopleAre(await take(api.POST('/api/members/{id}/end', id(of))))
    ending.value = ''
  })
const again = (of: string) => act(async () => (made.value = await take(api.POST('/api/members/{id}/again', id(of)))))
</script>

<template>
  <section class="panel stack" aria-label="People">
    <h2>People</h2>
    <RefusalNote :error="error" />
    <ul>
      <li v-for="m in inside" :key="m.id" class="stack">
        <div class="row">
          <span class="who">
            <strong>{{ m.name }}</strong>{{ ' '
            }}<span class="soft">{{ m.id === me?.member_id ? 'you, ' : '' }}{{ m.role }}, signs in as {{ m.sign_in_name }}</span>
          </span>
          <v-btn
            v-if="keeps"
            size="small"
            variant="text"
            :aria-label="`Change ${m.name}`"
            @click="editing = editing?.id === m.id ? undefined : { ...m }"
            >change</v-btn
          >
        </div>
        <form v-if="editing?.id === m.id" class="stack" @submit.prevent="change(editing)">
          <v-text-field v-model="editing.name" label="Name" maxlength="60" :error-messages="error?.about('name')" />
          <v-btn-toggle v-model="editing.role" mandatory color="secondary" :aria-label="`What ${m.name} may do`">
            <v-btn v-for="r in people.roles" :key="r.key" :value="r.key">{{ r.name }}</v-btn>
          </v-btn-toggle>
          <p class="soft">A {{ editing.role }} {{ says(editing.role) }}.</p>
          <div class="row">
            <v-btn type="submit" color="primary" :loading="busy">Save</v-btn>
            <v-btn v-if="m.id !== me?.member_id" variant="outlined" :disabled="busy" @click="again(m.id)">Lost the way in</v-btn>
            <v-btn v-if="ending !== m.id" variant="text" @click="ending = m.id">Shut out</v-btn>
            <template v-else>
              <span class="soft">At once, on every device. What was noted stays.</span>
              <v-btn color="primary" :loading="busy" @click="end(m.id)">Shut {{ m.name }} out</v-btn>
            </template>
          </div>
        </form>
      </li>
    </ul>
    <details v-if="gone.length">
      <summary>Who was here before: {{ gone.length }}</summary>
      <p v-for="m in gone" :key="m.id" class="soft">{{ m.name }}, until {{ bothDates(m.ended_at ?? '') }}</p>
    </details>
    <template v-if="keeps">
      <div v-if="made" class="caution stack" role="status">
        <span>
          {{ made.purpose === 'again' ? `A new way in for ${made.name}` : `An invitation for ${made.name}` }}, said once. It opens
          once, until {{ bothDates(made.expires_at) }}.
        </span>
        <QrCode :text="address(made.code)" :label="`Code for ${made.name}`" />
        <code>{{ address(made.code) }}</code>
      </div>
      <h3>Invite somebody</h3>
      <form class="stack" @submit.prevent="invite">
        <v-text-field v-model="name" label="Their name" maxlength="60" :error-messages="error?.about('name')" />
        <v-btn-toggle v-model="role" mandatory color="secondary" aria-label="What they may do">
          <v-btn v-for="r in people.roles" :key="r.key" :value="r.key">{{ r.name }}</v-btn>
        </v-btn-toggle>
        <p class="soft">A {{ role }} {{ says(role) }}.</p>
        <div class="row">
          <v-btn type="submit" color="primary" variant="outlined" :loading="busy" :disabled="!name.trim()"
            >Make an invitation</v-btn
          >
        </div>
      </form>
      <template v-if="invitations?.length">
        <h3>Still open</h3>
        <ul>
          <li v-for="i in invitations" :key="i.id">
            <div class="row">
              <span class="who"
                ><strong>{{ i.name || 'The first keeper' }}</strong
                >{{ ' '
                }}<span class="soft"
                  >{{ i.purpose === 'again' ? 'a new way in' : i.role }}, until {{ bothDates(i.expires_at) }}</span
                ></span
              >
              <v-btn
                size="small"
                variant="text"
                :aria-label="`Take back the invitation of ${i.name}`"
                :disabled="busy"
                @click="uninvite(i.id)"
                >take back</v-btn
              >
            </div>
          </li>
        </ul>
      </template>
    </template>
    <p v-else class="soft">A keeper invites people and says what each may do.</p>
  </section>
</template>

<style scoped>
p {
  margin: 0;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  border-top: 1px solid var(--line);
  padding: 6px 0;
}
.who {
  flex: 1;
}
code {
  overflow-wrap: anywhere;
}
</style>
