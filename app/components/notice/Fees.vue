<script setup lang="ts">
import { spellInstant } from '~~/core/calendar/zone'
import type { Notice } from '~~/core/notice/schema'

/** The fees of a notice, one a line: what is asked, taken off and added, who pays for whom, and what a way of paying costs. */
const { notice } = defineProps<{ notice: Notice }>()
const { conditionWords } = useWords().conditions
const { wayTitles, wayCostWords } = useWords().fees
const { amount } = useSpelling()
const lines = computed(() => {
  const { fees, categories, posts, body } = notice
  const titleIn = (list: readonly { id: string, title: string }[], id: string) => list.find(one => one.id === id)?.title ?? id
  const base = (of: string, when?: Parameters<typeof conditionWords>[1]) =>
    when ? say('notice.baseFeeWhere', { category: of, when: conditionWords(notice, when) }) : of
  return [
    ...fees.base.map(row => ({ title: base(titleIn(categories, row.category), row.when), says: amount(row.amount) })),
    ...fees.posts.map(row => ({ title: base(titleIn(posts, row.post), row.when), says: amount(row.amount) })),
    ...fees.further.map(row => ({ title: say('notice.eachFurtherPost', { from: row.from }), says: amount(row.amount) })),
    ...fees.waivers.map(waiver => ({ title: waiver.title, says: `−${waiver.percent} %` })),
    ...fees.late.map(period => ({
      title: say('notice.lateFeeFrom', { zone: spellInstant(period.from, body.zone) }),
      says: amount(period.amount),
    })),
    ...fees.surcharges.map(line => ({ title: line.title, says: amount(line.amount) })),
    ...fees.payers.map(payer => ({
      title: say('notice.paysFor', { payer: payer.title, when: conditionWords(notice, payer.when) }),
      says: '',
    })),
    ...fees.channels.map(channel => ({
      title: say('notice.paidBy', { way: wayTitles[channel.way] }),
      says: wayCostWords(channel, amount),
    })),
  ].map((line, i) => ({ ...line, place: i }))
})
</script>

<template>
  <HouseTable
    class="fees"
    :columns="[{ key: 'title', text: line => line.title }, { key: 'says', kind: 'number', text: line => line.says }]"
    :rows="lines"
    :row-key="line => line.place"
  />
</template>

<style scoped>
.fees { max-width: 560px; }
</style>
