<script setup lang="ts">
import type { ActStanding } from '~~/core/application/acts/judge'
import type { Channel } from '~~/core/identity/address'
import type { NamedAct } from '~~/shared/acts'
import type { Dossier } from '~~/shared/applications'
import type { Permit } from '~~/app/composables/act'

const { actButtons } = useWords().acts

/** The acts on an application that have no button of their own: those that can be done now, and why the others cannot. */
const props = defineProps<{ dossier: Dossier, items?: { id: string, title: string }[] }>()
const emit = defineEmits<{ changed: [dossier: Dossier], gone: [] }>()
const session = useSessionStore()
const listed: NamedAct[] = [
  'take-back-submission',
  'open-for-correction',
  'close-correction',
  'take-back-acceptance',
  'recall-return',
  'take-back-refusal',
  'reopen',
  'take-seat-back',
  'waive-fee',
  'write-off-fee',
  'claim-fee-again',
  'issue-card',
  'replace-card',
  'withhold-card',
  'let-card-go',
  'void-card',
  'withdraw',
  'bring-back',
  'delete-draft',
  'give-access',
  'release-data',
  'keep-data',
]
const standings = computed(() =>
  listed.flatMap((act) => {
    const found = standingOf(props.dossier, act)
    return found && !found.refusal?.code.startsWith('access.') ? [found] : []
  })
)
const possible = computed(() => standings.value.filter(one => one.refusal === null))
const impossible = computed(() => standings.value.filter(one => one.refusal !== null))
const asked = shallowRef<ActStanding | null>(null)
const opened = ref<string[]>([])
/** Acts that give up a due, or a part of it. */
const isRelief = (act: string) => act === 'waive-fee' || act === 'write-off-fee'
const due = computed(() => Math.max(0, (props.dossier.assessment?.total ?? 0) - props.dossier.received))
const relief = ref(0)
const access = ref({ channel: 'email' as Channel, address: '' })
const spelling = useSpelling()
const { busy, perform } = useAct(props.dossier.id, dossier => emit('changed', dossier))

function ask(standing: ActStanding) {
  relief.value = due.value
  asked.value = standing
}
async function act(permit: Permit) {
  const chosen = asked.value
  if (!chosen) return
  const extra = chosen.act === 'open-for-correction'
    ? { items: opened.value }
    : isRelief(chosen.act)
    ? { amount: relief.value || undefined }
    : chosen.act === 'give-access'
    ? access.value
    : {}
  if (!await perform(chosen.act as NamedAct, { ...permit, ...extra })) return
  asked.value = null
  if (chosen.act === 'delete-draft') emit('gone')
}
async function settle(id: string, method: 'POST' | 'DELETE') {
  await attempt(async () => {
    await callApi(`/api/proposals/${id}`, { method })
    emit('changed', await callApi<Dossier>(`/api/applications/${props.dossier.id}`))
  })
}
</script>

<template>
  <section v-if="possible.length + impossible.length + dossier.proposals.length > 0">
    <h2 class="section-title">
      {{ say('acts.whatElseCanBeDone') }}
    </h2>
    <p
      v-for="proposal in dossier.proposals"
      :key="proposal.id"
      class="note is-attention proposal"
    >
      <span><b>{{ actButtons[proposal.act as NamedAct]?.press ?? proposal.act }}</b>{{ say('acts.begunBy', { by: proposal.by, reason: proposal.reason }) }} <b v-if="proposal.address">{{ proposal.address }}</b></span>
      <span
        v-if="proposal.isOwn"
        class="soft small"
      >{{ say('acts.somebodyElseHasToConfirmIt') }}</span>
      <HouseButton
        v-else-if="session.may(proposal.settledBy)"
        primary
        small
        @click="settle(proposal.id, 'POST')"
      >
        {{ say('acts.confirm') }}
      </HouseButton>
      <HouseButton
        v-if="proposal.isOwn || session.may(proposal.settledBy)"
        small
        @click="settle(proposal.id, 'DELETE')"
      >
        {{ say('acts.withdraw') }}
      </HouseButton>
    </p>
    <div class="acts">
      <HouseButton
        v-for="standing in possible"
        :key="standing.act"
        :title="actButtons[standing.act].says"
        @click="ask(standing)"
      >
        {{ actButtons[standing.act].press }}
      </HouseButton>
    </div>
    <details v-if="impossible.length > 0">
      <summary class="soft small">
        {{ say('acts.moreThatCannotBeDoneNow', { impossible: impossible.length }) }}
      </summary>
      <dl>
        <template
          v-for="standing in impossible"
          :key="standing.act"
        >
          <dt>{{ actButtons[standing.act].press }}</dt><dd class="soft small">
            {{ whyNot(standing) }}
          </dd>
        </template>
      </dl>
    </details>
    <LazyActDialog
      v-if="asked"
      :standing="asked"
      :busy="busy"
      :subject="`${dossier.number} ${dossier.name}`"
      @act="act"
      @close="asked = null"
    >
      <LazyActOpened
        v-if="asked.act === 'open-for-correction'"
        v-model="opened"
        :items="items ?? []"
      />
      <LazyActAccess
        v-else-if="asked.act === 'give-access'"
        v-model="access"
      />
      <template v-else-if="isRelief(asked.act)">
        <p>{{ say('acts.howMuch', { due: spelling.amount(due) }) }}</p>
        <LazyBankAmountField
          v-model="relief"
          :currency="dossier.assessment?.currency.code ?? ''"
          :label="say('acts.howMuch', { due: spelling.amount(due) })"
        />
      </template>
    </LazyActDialog>
  </section>
</template>

<style scoped>
.acts { display: flex; flex-wrap: wrap; gap: 8px; margin: 10px 0; }
.proposal { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; margin: 8px 0; }
dl { display: grid; grid-template-columns: minmax(120px, 220px) minmax(0, 1fr); gap: 4px 12px; }
dd { margin: 0; }
summary { cursor: pointer; padding: 4px 0; }
</style>
