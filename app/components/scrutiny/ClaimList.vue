<script setup lang="ts">
import type { ClaimWeight } from '~~/core/eligibility/claims'
import type { RulingView } from '~~/shared/eligibility'

const { postVerdictWords } = useWords().explanation

/** The claims of a sheet: the proof each needs, what leans on it, and the ruling when scrutiny has made one. */
defineProps<{ claims: ClaimWeight[], rulings: RulingView[], mayRule: boolean, busy: boolean }>()
const emit = defineEmits<{ rule: [claim: string, ruling: 'false' | 'stands', reason: string] }>()
const spelling = useSpelling()
const asking = ref<ClaimWeight | null>(null)

const { proofWords } = useWords().conditions
const cycle = useCycleStore()
function proofOf({ claim, proof }: ClaimWeight): string {
  const rule = cycle.notice?.claims.find(one => one.id === claim)
  return cycle.notice && rule ? proofWords(cycle.notice, rule) : proof
}
function effect(claim: ClaimWeight): string {
  const posts = claim.posts.map(p =>
    say('scrutiny.insteadOf', { title: p.title, without: postVerdictWords[p.without], now: postVerdictWords[p.now] })
  )
  const fee = claim.fee > 0 ? [say('scrutiny.moreDue', { fee: spelling.amount(claim.fee) })] : []
  const all = [...posts, ...fee]
  return all.length > 0 ? say('scrutiny.withoutIt', { all: all.join('; ') }) : say('scrutiny.nothingHangsOnIt')
}
function rule(reason: string) {
  const claim = asking.value
  if (!claim) return
  emit('rule', claim.claim, claim.foundFalse ? 'stands' : 'false', reason)
  asking.value = null
}
</script>

<template>
  <div>
    <div
      v-for="claim in claims"
      :key="claim.claim"
      class="claim"
    >
      <p>
        <b :class="{ refusal: claim.foundFalse }">{{ claim.foundFalse ? '✕ ' : '' }}{{ claim.title }}{{ claim.foundFalse ? say('scrutiny.foundFalse') : '' }}</b>
        <button
          v-if="mayRule"
          type="button"
          class="act"
          :disabled="busy"
          @click="asking = claim"
        >
          {{ claim.foundFalse ? say('scrutiny.letItStand') : say('scrutiny.findItFalse') }}
        </button>
      </p>
      <p class="soft small">
        {{ say('scrutiny.proof', { proof: proofOf(claim), foundFalse: claim.foundFalse ? '' : effect(claim) }) }}
        <template
          v-for="ruling in rulings.filter(r => r.claim === claim.claim).slice(0, 1)"
          :key="ruling.at"
        >
          {{ say('scrutiny.rulingBy', { ruling: ruling.ruling, by: ruling.by, at: spelling.instant(ruling.at), reason: ruling.reason }) }}
        </template>
      </p>
    </div>
    <HouseReasonDialog
      v-if="asking"
      :title="asking.foundFalse ? say('scrutiny.letTheClaimStand', { title: asking.title }) : say('scrutiny.findTheClaimFalse', { title: asking.title })"
      :note="asking.foundFalse ? undefined : say('scrutiny.verdictsFeeAndQueueFollowAt', { asking: effect(asking) })"
      :placeholder="say('scrutiny.whyNamingThePaperThatWas')"
      :label="say('scrutiny.reasonOfTheRuling')"
      :press="asking.foundFalse ? say('scrutiny.letItStand') : say('scrutiny.findItFalse')"
      @give="rule"
      @close="asking = null"
    />
  </div>
</template>

<style scoped>
.claim { padding: 3px 0; }
.claim p:first-child { display: flex; gap: 8px; justify-content: space-between; }
.act {
  font: inherit; font-size: 14px; color: var(--accent); background: none; border: 0; text-decoration: underline; text-underline-offset: 3px;
  cursor: pointer; padding: 0; white-space: nowrap;
}
</style>
