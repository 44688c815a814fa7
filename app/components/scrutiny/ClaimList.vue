<script setup lang="ts">
import type { ClaimWeight } from '~~/core/eligibility/claims'
import { postVerdictWords } from '~~/core/words/en/explanation'
import type { RulingView } from '~~/shared/eligibility'

/** The claims of a sheet: the proof each needs, what leans on it, and the ruling when scrutiny has made one. */
defineProps<{ claims: ClaimWeight[], rulings: RulingView[], mayRule: boolean, busy: boolean }>()
const emit = defineEmits<{ rule: [claim: string, ruling: 'false' | 'stands', reason: string] }>()
const spelling = useSpelling()
const asking = ref<ClaimWeight | null>(null)
const reason = ref('')

function effect(claim: ClaimWeight): string {
  const posts = claim.posts.map(p => `${p.title} ${postVerdictWords[p.without]} instead of ${postVerdictWords[p.now]}`)
  const fee = claim.fee > 0 ? [`${spelling.amount(claim.fee)} more due`] : []
  const all = [...posts, ...fee]
  return all.length > 0 ? `Without it: ${all.join('; ')}.` : 'Nothing hangs on it.'
}
function ask(claim: ClaimWeight) {
  asking.value = claim
  reason.value = ''
}
function rule() {
  const claim = asking.value
  if (!claim) return
  emit('rule', claim.claim, claim.foundFalse ? 'stands' : 'false', reason.value.trim())
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
        <b :class="{ refusal: claim.foundFalse }">{{ claim.foundFalse ? '✕ ' : '' }}{{ claim.title }}{{ claim.foundFalse ? ': found false' : '' }}</b>
        <button
          v-if="mayRule"
          type="button"
          class="act"
          :disabled="busy"
          @click="ask(claim)"
        >
          {{ claim.foundFalse ? 'Let it stand' : 'Find it false' }}
        </button>
      </p>
      <p class="soft small">
        Proof: {{ claim.proof }}. {{ claim.foundFalse ? '' : effect(claim) }}
        <template
          v-for="ruling in rulings.filter(r => r.claim === claim.claim).slice(0, 1)"
          :key="ruling.at"
        >
          {{ ruling.ruling === 'false' ? 'Found false' : 'Let stand' }} by {{ ruling.by }}, {{ spelling.instant(ruling.at) }}: {{ ruling.reason }}
        </template>
      </p>
    </div>
    <ElDialog
      :model-value="asking !== null"
      :title="asking?.foundFalse ? `Let the claim “${asking.title}” stand` : `Find the claim “${asking?.title}” false`"
      width="min(560px, 94vw)"
      @close="asking = null"
    >
      <p
        v-if="asking && !asking.foundFalse"
        class="note is-attention"
      >
        {{ effect(asking) }} Verdicts, fee and queue follow at once; what the candidate typed stays.
      </p>
      <ElInput
        v-model="reason"
        class="why"
        type="textarea"
        :autosize="{ minRows: 3, maxRows: 6 }"
        placeholder="Why, naming the paper that was looked at"
        aria-label="Reason of the ruling"
      />
      <template #footer>
        <ElButton @click="asking = null">
          Not yet
        </ElButton>
        <ElButton
          type="primary"
          :disabled="reason.trim().length < 3"
          @click="rule"
        >
          {{ asking?.foundFalse ? 'Let it stand' : 'Find it false' }}
        </ElButton>
      </template>
    </ElDialog>
  </div>
</template>

<style scoped>
.claim { padding: 3px 0; }
.claim p:first-child { display: flex; gap: 8px; justify-content: space-between; }
.act { font: inherit; font-size: 14px; color: var(--accent); background: none; border: 0; text-decoration: underline; text-underline-offset: 3px; cursor: pointer; padding: 0; white-space: nowrap; }
.why { margin-top: 12px; }
</style>
