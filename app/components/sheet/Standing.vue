<script setup lang="ts">
import '~/words/later'
import { spellInstant, spellMinutes } from '~~/core/calendar/zone'
import type { Notice } from '~~/core/notice/schema'
import type { Dossier } from '~~/shared/applications'

/** Where an application stands: form, fee, scrutiny, centre and card said apart, who has the next step, and when there is news. */
const props = defineProps<{ dossier: Dossier, notice: Notice }>()
const now = useNow()
const { matterWords } = useWords().work
const feeWords: Partial<Record<Dossier['tracks']['fee'], string>> = {
  'settled': 'settled',
  'nothing due': 'none',
  'due': 'due',
  'confirming': 'confirming',
  'refund due': 'refund',
}
const spell = (at: string | Date) => spellInstant(at, props.notice.body.zone)
const lines = computed(() => {
  const { tracks, submittedAt, placement, card, matters } = props.dossier
  const { closes, lastPayment, cardsFrom } = props.notice.keyDates
  const next = matters[0]
  return [
    [say('standing.form'), say('standing.formIs', { form: tracks.form, closes: spell(closes), at: submittedAt ? spell(submittedAt) : '' })],
    [say('standing.fee'), say('standing.feeIs', { fee: feeWords[tracks.fee] ?? 'other', lastPayment: spell(lastPayment) })],
    [say('standing.scrutiny'), say('standing.scrutinyIs', { scrutiny: tracks.scrutiny })],
    [say('standing.seat'), say('standing.ownSeatIs', { seat: placement ? 'known' : 'other', from: spell(cardsFrom) })],
    [say('standing.card'), say('standing.ownCardIs', {
      card: card && !card.voidAt ? 'issued' : tracks.card === 'withheld' ? 'withheld' : 'other',
      from: spell(cardsFrom),
    })],
    [say('standing.next'), next
      ? say('standing.nextIs', { what: matterWords(next).title, owner: next.owner, until: next.until ? spell(next.until) : 'none' })
      : say('standing.nothingNext')],
  ] as const
})
/** How long it has stood here, and until when scrutiny means to have decided. */
const age = computed(() => {
  const since = new Date(props.dossier.since)
  const days = props.notice.scrutiny?.days
  const due = props.dossier.headline === 'in scrutiny' && days ? new Date(since.getTime() + days * 86_400_000) : null
  return say('standing.stoodFor', {
    age: spellMinutes(Math.max(0, Math.floor((now.value.getTime() - since.getTime()) / 60_000))),
    due: due === null ? 'none' : due > now.value ? 'ahead' : 'over',
    at: due ? spell(due) : '',
  })
})
</script>

<template>
  <section :aria-label="say('standing.title')">
    <dl>
      <template
        v-for="[label, text] in lines"
        :key="label"
      >
        <dt>{{ label }}</dt><dd>{{ text }}</dd>
      </template>
    </dl>
    <p class="soft small">
      {{ age }}
    </p>
  </section>
</template>

<style scoped>
section { border: 1px solid var(--line); background: var(--sheet); padding: 12px 16px; margin: 8px 0; }
dl { display: grid; grid-template-columns: minmax(96px, max-content) minmax(0, 1fr); gap: 4px 20px; margin: 0 0 6px; }
dt { color: var(--ink-soft); }
dd { margin: 0; }
</style>
