<script setup lang="ts">
import '~/words/later'
import type { WaitingCorrection } from '~~/shared/corrections'

/** One correction that waits: who asks, what and why, what it changes, and the answer. */
const props = defineProps<{ row: WaitingCorrection }>()
const emit = defineEmits<{ decided: [] }>()
const session = useSessionStore()
const spelling = useSpelling()
const reason = ref('')
const { busy, perform } = useAct(props.row.applicationId, () => emit('decided'))
const decide = (act: 'accept-correction' | 'refuse-correction') => perform(act, reason.value.trim() ? { reason: reason.value.trim() } : {})
</script>

<template>
  <section class="one">
    <div class="head">
      <h2>
        <NuxtLink :to="`/scrutiny/${row.applicationId}`">
          {{ row.name || row.number }}
        </NuxtLink>
      </h2>
      <span class="soft">{{ row.number }}</span> <HouseHeadlineMark :headline="row.headline" />
      <span
        v-if="row.view.handed"
        class="soft small push"
      >{{ say('correction.handedBy', { by: row.view.handed.by, at: spelling.instant(row.view.handed.at) }) }}</span>
    </div>
    <p v-if="row.view.reason">
      {{ say('correction.reason', { reason: row.view.reason }) }}
    </p>
    <CorrectionEffects
      :view="row.view"
      :sees-files="session.may('files.read')"
    />
    <form
      v-if="session.may('scrutiny.decide')"
      @submit.prevent
    >
      <p
        v-if="row.view.handed?.isOwn"
        class="soft small"
      >
        {{ say('correction.ownOne') }}
      </p>
      <HouseButton
        v-else
        primary
        :busy="busy"
        @click="decide('accept-correction')"
      >
        {{ say('correction.accept') }}
      </HouseButton>
      <input
        v-model="reason"
        class="field"
        maxlength="1000"
        :placeholder="say('correction.refusalReason')"
        :aria-label="say('correction.refusalReason')"
      >
      <HouseButton
        :busy="busy"
        :disabled="reason.trim().length < 3"
        @click="decide('refuse-correction')"
      >
        {{ say('correction.refuse') }}
      </HouseButton>
    </form>
  </section>
</template>

<style scoped>
.one { background: var(--sheet); border: 1px solid var(--line); padding: 12px 16px; margin-bottom: 16px; }
.head { display: flex; flex-wrap: wrap; gap: 4px 14px; align-items: baseline; }
.push { margin-left: auto; }
form { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; margin-top: 10px; }
.field { flex: 1; min-width: 240px; }
</style>
