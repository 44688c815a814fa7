<script setup lang="ts">
import '~/words/later'
import { parseCalendarDate } from '~~/core/calendar/calendar-date'
import type { Dossier } from '~~/shared/applications'
import type { DepositView, PaidSlipView } from '~~/shared/bank'

const { slipWords } = useWords().states

/** Whoever has paid at a bank says so here, with the picture of the paper; below it what became of each slip. */
const props = defineProps<{ dossier: Dossier, deposit: DepositView | null }>()
const emit = defineEmits<{ changed: [dossier: Dossier] }>()
const spelling = useSpelling()
const slips = shallowRef<PaidSlipView[]>([])
const asking = ref(false)
const busy = ref(false)
const form = reactive({ amount: 0, branch: '', bankReference: '', paidOn: '' })
const paper = shallowRef<File | null>(null)
const ready = computed(() =>
  form.amount > 0 && form.branch.trim().length > 1 && parseCalendarDate(form.paidOn) !== null && paper.value !== null
)
const path = `/api/applications/${props.dossier.id}/slips`
const { perform } = useAct(props.dossier.id, (got) => {
  emit('changed', got)
  void load()
})
async function load() {
  slips.value = await callApi<PaidSlipView[]>(path).catch(() => [])
}
onMounted(load)
// What accounts have decided shows without a reload.
watch(() => props.dossier.tracks.fee, load)
function ask() {
  form.amount = props.deposit?.amount ?? 0
  paper.value = null
  asking.value = true
}
/** JSON that a header may carry, whatever script the branch is written in. */
const plainJson = (value: unknown) =>
  JSON.stringify(value).replace(/[^\x20-\x7e]/g, sign => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`)
async function send() {
  const file = paper.value
  if (!file || busy.value) return
  busy.value = true
  const said = { ...form, branch: form.branch.trim(), bankReference: form.bankReference.trim() }
  const done = await attempt(async () => {
    slips.value = await callApi<PaidSlipView[]>(path, { method: 'POST', bytes: file, headers: { 'x-lucid-slip': plainJson(said) } })
    emit('changed', await callApi<Dossier>(`/api/applications/${props.dossier.id}`))
  })
  busy.value = false
  if (done) asking.value = false
}
</script>

<template>
  <div class="slips small">
    <div
      v-for="slip in slips"
      :key="slip.id"
      class="slip"
    >
      <p>
        {{ say('paying.slipPaidIn', { amount: spelling.amountIn(slip.amount, slip.currency), branch: slip.branch, on: spelling.answer('bornOn', slip.paidOn) }) }}
        <b :class="{ attention: slip.state === 'waiting', refusal: slip.state === 'refused' }">{{ slipWords[slip.state] }}</b>
        <template v-if="slip.decided?.reason">
          · {{ slip.decided.reason }}
        </template>
      </p>
      <button
        v-if="slip.state === 'waiting' && canAct(dossier, 'take-back-slip')"
        type="button"
        class="press small"
        @click="perform('take-back-slip', {})"
      >
        {{ say('paying.takeSlipBack') }}
      </button>
    </div>
    <button
      v-if="deposit && canAct(dossier, 'hand-in-slip')"
      type="button"
      class="press small"
      @click="ask"
    >
      {{ say('paying.iHavePaidAtBank') }}
    </button>
    <ElDialog
      v-model="asking"
      :title="say('paying.iHavePaidAtBank')"
      width="min(520px, 94vw)"
    >
      <p class="soft small">
        {{ say('paying.slipHelp') }}
      </p>
      <label for="slip-branch">{{ say('paying.slipBranch') }}</label>
      <ElInput
        id="slip-branch"
        v-model="form.branch"
        maxlength="120"
      />
      <label for="slip-day">{{ say('paying.slipDay') }}</label>
      <SheetDateField
        input-id="slip-day"
        name="slip-day"
        :answer="form.paidOn"
        :flawed="false"
        @change="form.paidOn = $event"
      />
      <p class="label">
        {{ say('paying.slipAmount') }}
      </p>
      <BankAmountField
        v-model="form.amount"
        :currency="deposit?.currency ?? ''"
        :label="say('paying.slipAmount')"
      />
      <label for="slip-reference">{{ say('paying.slipBankReference') }}</label>
      <ElInput
        id="slip-reference"
        v-model="form.bankReference"
        maxlength="60"
      />
      <p class="label">
        {{ say('paying.slipPaper') }}
      </p>
      <p>
        <HouseFileButton
          :title="say('paying.choosePaper')"
          :label="say('paying.slipPaper')"
          accept="image/jpeg,image/png,application/pdf"
          @choose="paper = $event"
        />
        <span class="soft chosen">{{ paper?.name ?? say('paying.noPaperYet') }}</span>
      </p>
      <template #footer>
        <HouseButton @click="asking = false">
          {{ say('acts.notNow') }}
        </HouseButton>
        <HouseButton
          primary
          :busy="busy"
          :disabled="!ready"
          @click="send"
        >
          {{ say('paying.sendSlip') }}
        </HouseButton>
      </template>
    </ElDialog>
  </div>
</template>

<style scoped>
.slips { margin-top: 12px; }
.slip + .slip { margin-top: 6px; }
label, .label { display: block; font-weight: 600; margin: 12px 0 4px; }
.chosen { margin-left: 10px; overflow-wrap: anywhere; }
</style>
