<script setup lang="ts">
import '~/words/later'
import type { Answers } from '~~/core/application/answers'
import { weighClaims } from '~~/core/eligibility/claims'
import type { Claim } from '~~/core/notice/rules'
import type { Notice } from '~~/core/notice/schema'

/** What a claim wants for proof, what it gives, what becomes of it without proof, and who sees the paper. */
const props = defineProps<{ claim: Claim, notice: Notice, answers: Answers }>()
const spelling = useSpelling()
const { proofWords } = useWords().conditions
const weight = computed(() => weighClaims(props.notice, props.answers, [], new Date()).find(one => one.claim === props.claim.id))
const opened = computed(() => weight.value?.posts.filter(post => post.now === 'pass').map(post => post.title).join(', ') ?? '')
const less = computed(() => weight.value && weight.value.fee > 0 ? spelling.amount(weight.value.fee) : '')
const fallen = computed(() =>
  Object.entries(props.claim.ifFalse).map(([question, answer]) =>
    say('parts.countsAs', { question: spelling.question(question)?.label ?? question, answer: spelling.answer(question, answer) })
  ).join('; ')
)
</script>

<template>
  <p class="soft small">
    <b>{{ claim.title }}</b> {{ say('parts.isAClaimProofAtScrutiny', { proof: proofWords(notice, claim) }) }}
    <template v-if="opened">
      {{ say('parts.claimOpens', { opened }) }}
    </template>
    <template v-if="less">
      {{ say('parts.claimLess', { less }) }}
    </template>
    {{ say('parts.claimUnproved', { fallen }) }}
  </p>
</template>
