<script setup lang="ts">
import type { AccountView, FactorOffer } from '~~/shared/people'

/** The second factor of one's own account: set up with an authenticator, taken off, and its recovery codes, which are shown once. */
defineProps<{ account: AccountView }>()
const emit = defineEmits<{ changed: [] }>()
const session = useSessionStore()
const offer = shallowRef<FactorOffer | null>(null)
const code = ref('')
const factorPassword = ref('')
const recovery = shallowRef<string[]>([])
const { busy, during } = useBusy()
const begin = () =>
  during(async () => {
    offer.value = await callApi<FactorOffer>('/api/account/factor')
  })
const setFactor = () =>
  during(async () => {
    const made = await callApi<{ recoveryCodes: string[] }>('/api/account/factor', {
      method: 'PUT',
      body: { secret: offer.value?.secret, code: code.value, password: factorPassword.value },
    })
    recovery.value = made.recoveryCodes
    offer.value = null
    code.value = factorPassword.value = ''
    await session.load(true)
    emit('changed')
  })
const removing = ref(false)
const removeFactor = () =>
  during(async () => {
    await callApi('/api/account/factor', { method: 'DELETE', body: { password: factorPassword.value } })
    factorPassword.value = ''
    removing.value = false
    emit('changed')
  })
</script>

<template>
  <section>
    <h2 class="section-title">
      {{ say('account.secondFactor') }}
    </h2>
    <div
      v-if="recovery.length > 0"
      class="note is-attention"
      role="status"
    >
      <p><b>{{ say('account.tenRecoveryCodes') }}</b> {{ say('account.eachLetsYouInOnceWhen') }}</p>
      <ol class="codes">
        <li
          v-for="one in recovery"
          :key="one"
        >
          <code>{{ one }}</code>
        </li>
      </ol>
      <ElButton @click="recovery = []">
        {{ say('account.iHaveThem') }}
      </ElButton>
    </div>
    <p v-else-if="account.hasFactor">
      {{ say('account.setUpRecoveryCodeIs', { recoveryCodesLeft: account.recoveryCodesLeft }) }}
    </p>
    <p
      v-else
      class="soft"
    >
      {{ say('account.noneWithOneAStolenPassword') }}
    </p>
    <form
      v-if="offer"
      class="offer"
      @submit.prevent="setFactor"
    >
      <img
        :src="offer.picture"
        :alt="say('account.codeForYourAuthenticator')"
        width="220"
        height="220"
      >
      <div>
        <p>{{ say('account.readTheCodeWithAnAuthenticator') }} <code>{{ offer.secret.match(/.{4}/g)?.join(' ') }}</code></p>
        <label for="factor-code">{{ say('account.theSixDigitsThatItShows') }}</label>
        <ElInput
          id="factor-code"
          v-model="code"
          inputmode="numeric"
          autocomplete="one-time-code"
        />
        <label for="factor-password">{{ say('account.yourPassword') }}</label>
        <ElInput
          id="factor-password"
          v-model="factorPassword"
          type="password"
          autocomplete="current-password"
        />
        <ElButton
          type="primary"
          native-type="submit"
          :loading="busy"
          :disabled="!code || !factorPassword"
        >
          {{ say('account.setUp') }}
        </ElButton>
      </div>
    </form>
    <form
      v-else-if="removing"
      @submit.prevent="removeFactor"
    >
      <label for="remove-password">{{ say('account.yourPassword') }}</label>
      <ElInput
        id="remove-password"
        v-model="factorPassword"
        type="password"
        autocomplete="current-password"
      />
      <ElButton native-type="submit">
        {{ say('account.removeTheSecondFactor') }}
      </ElButton>
    </form>
    <div
      v-else-if="recovery.length === 0"
      class="presses"
    >
      <ElButton @click="begin">
        {{ account.hasFactor ? say('account.setUpAnotherAuthenticator') : say('account.setUpASecondFactor') }}
      </ElButton>
      <ElButton
        v-if="account.hasFactor && !account.factorRequired"
        @click="removing = true"
      >
        {{ say('account.removeIt') }}
      </ElButton>
    </div>
  </section>
</template>

<style scoped>
section { margin-top: 24px; }
form { max-width: 420px; }
form.offer { max-width: none; display: flex; flex-wrap: wrap; gap: 24px; margin-top: 12px; }
form.offer > div { flex: 1; min-width: 260px; max-width: 420px; }
label { display: block; font-weight: 600; margin: 12px 0 4px; }
.el-button { margin-top: 12px; }
.presses { display: flex; gap: 8px; }
.codes { columns: 2; max-width: 460px; }
img { image-rendering: pixelated; border: 1px solid var(--line); }
</style>
