<script setup lang="ts">
import '~/words/later'
import { inFours } from '~~/core/bank/check-digits'
import type { RefundAccount } from '~~/shared/bank'

/** Where what is owed back may go, as whoever is owed it says. */
const props = defineProps<{ applicationId: string }>()
const spelling = useSpelling()
const address = `/api/applications/${props.applicationId}/refund-account`
const account = shallowRef<RefundAccount | null>(null)
const isOpen = ref(false)
const given = reactive({ payee: '', number: '' })
const { busy, refusal, send } = useSubmission()
const { failure, reload } = useLoaded(async () => {
  account.value = (await callApi<{ account: RefundAccount | null }>(address)).account
  isOpen.value = account.value === null
  Object.assign(given, account.value ?? {})
})
const save = () =>
  send(async () => {
    await callApi(address, { method: 'PUT', body: { payee: given.payee, number: given.number } })
    await reload()
  })
</script>

<template>
  <div class="account small">
    <p><b>{{ say('paying.owedBack') }}</b> {{ say('paying.owedBackHow') }}</p>
    <HouseAlert
      :text="failure || refusal"
      kind="refusal"
    />
    <p v-if="account && !isOpen">
      {{ account.payee }}, <span class="nowrap">{{ inFours(account.number) }}</span><br>
      <span class="soft">{{ spelling.instant(account.at) }}</span> <button
        type="button"
        class="press"
        @click="isOpen = true"
      >
        {{ say('paying.changeAccount') }}
      </button>
    </p>
    <form
      v-if="isOpen"
      @submit.prevent="save"
    >
      <label for="account-payee">{{ say('paying.accountPayee') }}</label>
      <input
        id="account-payee"
        v-model="given.payee"
        class="field"
        maxlength="140"
        autocomplete="name"
      >
      <label for="account-number">{{ say('paying.accountNumber') }}</label>
      <input
        id="account-number"
        v-model="given.number"
        class="field"
        maxlength="60"
        autocomplete="off"
      >
      <HouseButton
        type="submit"
        :busy="busy"
        :disabled="given.payee.trim().length < 2 || given.number.trim().length < 4"
      >
        {{ say('paying.saveAccount') }}
      </HouseButton>
    </form>
  </div>
</template>

<style scoped>
.account { margin-top: 12px; }
label { display: block; font-weight: 600; margin-top: 8px; }
input { width: 100%; margin-bottom: 8px; }
</style>
