<script setup lang="ts">
import type { ActId } from '~~/core/application/acts/rule'
import type { ProposalView } from '~~/shared/acts'

/** What waits for a second person: to be confirmed by somebody else, or withdrawn. */
defineProps<{ proposals: readonly ProposalView[] }>()
const emit = defineEmits<{ settled: [] }>()
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const { actButtons } = useWords().acts
async function settle(id: string, method: 'POST' | 'DELETE') {
  if (await attempt(() => callApi(`/api/proposals/${id}`, { method }))) emit('settled')
}
const actTitle = (act: string) =>
  act === 'publish-run'
    ? say('desk.publishARun')
    : act === 'change-rooms'
    ? say('desk.changeRooms')
    : act === 'release-erasing'
    ? say('desk.releaseErasing')
    : actButtons[act as ActId]?.press ?? act
</script>

<template>
  <section>
    <h2 class="section-title">
      {{ say('desk.waitsForASecondPerson') }}
    </h2>
    <ul>
      <li
        v-for="one in proposals"
        :key="one.id"
        class="proposal"
      >
        <span><b>{{ actTitle(one.act) }}</b> <NuxtLink
          v-if="one.number"
          :to="`/intake/${one.subject}`"
        >{{ one.number }} {{ one.person }}</NuxtLink><template v-else-if="one.rooms.length > 0">
          {{ one.rooms.map(room => say('desk.roomProposed', { ...room, lost: String(room.lost) })).join('; ') }}
        </template><NuxtLink
          v-else-if="one.act === 'release-erasing'"
          to="/records"
        >{{ cycle.code }}</NuxtLink><NuxtLink
          v-else
          :to="`/centres/${one.subject}`"
        >{{ say('desk.theRun') }}</NuxtLink>
          <span class="soft small block">{{ say('desk.begunBy', { by: one.by, at: spelling.instant(one.at), reason: one.reason }) }}</span></span>
        <span class="actions">
          <span
            v-if="one.isOwn"
            class="soft small"
          >{{ say('desk.somebodyElseConfirmsIt') }}</span>
          <ElButton
            v-else-if="session.may(one.settledBy)"
            type="primary"
            size="small"
            @click="settle(one.id, 'POST')"
          >{{ say('desk.confirm') }}</ElButton>
          <ElButton
            v-if="one.isOwn || session.may(one.settledBy)"
            size="small"
            @click="settle(one.id, 'DELETE')"
          >{{ say('desk.withdraw') }}</ElButton>
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
section { margin-top: 24px; }
ul { list-style: none; margin: 0; padding: 0; }
.proposal {
  display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 8px; align-items: baseline; padding: 13px 0;
  border-bottom: 1px solid var(--line);
}
.proposal .actions { display: flex; gap: 8px; align-items: center; }
.block { display: block; }
</style>
