<script setup lang="ts">
import type { AccountView, FactorOffer, SessionView } from '~~/shared/people'

const { roleWords } = useWords().people

/** One's own account: password, second factor, and where one is signed in. */
useHead({ title: titled(say('account.yourAccount')) })
const session = useSessionStore()
const account = shallowRef<AccountView | null>(null)
const sessions = shallowRef<SessionView[]>([])
const present = ref('')
const fresh = ref('')
const again = ref('')
const offer = shallowRef<FactorOffer | null>(null)
const code = ref('')
const factorPassword = ref('')
const recovery = shallowRef<string[]>([])
const busy = ref(false)

const { failure, reload: load } = useLoaded(async () => {
  ;[account.value, sessions.value] = await Promise.all([callApi<AccountView>('/api/account'),
    callApi<SessionView[]>('/api/account/sessions')])
})
async function during(work: () => Promise<void>) {
  if (busy.value) return
  busy.value = true
  await attempt(work)
  busy.value = false
}
const changePassword = () =>
  during(async () => {
    await callApi('/api/account/password', { method: 'PUT', body: { present: present.value, password: fresh.value } })
    present.value = fresh.value = again.value = ''
    tell(say('account.thePasswordIsChangedAllOther'), 'success')
    await load()
  })
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
    await load()
  })
const removing = ref(false)
const removeFactor = () =>
  during(async () => {
    await callApi('/api/account/factor', { method: 'DELETE', body: { password: factorPassword.value } })
    factorPassword.value = ''
    removing.value = false
    await load()
  })
const end = (id: string) =>
  during(async () => {
    sessions.value = await callApi<SessionView[]>(`/api/account/sessions/${id}`, { method: 'DELETE', body: {} })
  })
const endOthers = () =>
  during(async () => {
    sessions.value = await callApi<SessionView[]>('/api/account/sessions', { method: 'DELETE', body: {} })
  })
const when = (at: string) => new Date(at).toLocaleString(useWords().locale, { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <div class="page account">
    <h1>{{ say('account.yourAccount') }}</h1>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <p
      v-if="session.principal?.needsFactor"
      class="note is-attention"
    >
      {{ say('account.yourRoleSignsInWithA') }}
    </p>
    <p
      v-if="account"
      class="soft"
    >
      {{ say('account.signsInAs', { name: account.name }) }} <b>{{ account.signInName }}</b> · {{ session.principal?.roles.map(role => roleWords[role].title).join(', ') }}
    </p>
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
      <p v-else-if="account?.hasFactor">
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
          {{ account?.hasFactor ? say('account.setUpAnotherAuthenticator') : say('account.setUpASecondFactor') }}
        </ElButton>
        <ElButton
          v-if="account?.hasFactor && !account.factorRequired"
          @click="removing = true"
        >
          {{ say('account.removeIt') }}
        </ElButton>
      </div>
    </section>
    <section>
      <h2 class="section-title">
        {{ say('account.password') }}
      </h2>
      <form @submit.prevent="changePassword">
        <label for="present">{{ say('account.presentPassword') }}</label>
        <ElInput
          id="present"
          v-model="present"
          type="password"
          autocomplete="current-password"
        />
        <HouseNewPassword
          v-model="fresh"
          v-model:again="again"
          :label="say('account.newPassword')"
        />
        <ElButton
          type="primary"
          native-type="submit"
          :loading="busy"
          :disabled="!present || !fresh || fresh !== again"
        >
          {{ say('account.changeThePassword') }}
        </ElButton>
      </form>
    </section>
    <section>
      <h2 class="section-title">
        {{ say('account.whereYouAreSignedIn') }}
      </h2>
      <div class="wide">
        <table class="plain-table">
          <thead><tr><th>{{ say('account.since') }}</th><th>{{ say('account.lastSeen') }}</th><th>{{ say('account.device') }}</th><th><span class="visually-hidden">{{ say('account.end') }}</span></th></tr></thead>
          <tbody>
            <tr
              v-for="one in sessions"
              :key="one.id"
            >
              <td class="nowrap">
                {{ when(one.createdAt) }}
              </td><td class="nowrap">
                {{ when(one.lastSeenAt) }}
              </td><td class="soft small">
                {{ one.device || say('account.unknownDevice') }}
              </td>
              <td>
                <b
                  v-if="one.isThis"
                  class="nowrap"
                >{{ say('account.thisOne') }}</b><button
                  v-else
                  class="press"
                  @click="end(one.id)"
                >
                  {{ say('account.endIt') }}
                </button>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <ElButton
        v-if="sessions.length > 1"
        @click="endOthers"
      >
        {{ say('account.endAllOthers') }}
      </ElButton>
    </section>
  </div>
</template>

<style scoped>
.account { max-width: 860px; }
section { margin-top: 24px; }
form { max-width: 420px; }
form.offer { max-width: none; display: flex; flex-wrap: wrap; gap: 24px; margin-top: 12px; }
form.offer > div { flex: 1; min-width: 260px; max-width: 420px; }
label { display: block; font-weight: 600; margin: 12px 0 4px; }
.el-button { margin-top: 12px; }
.presses { display: flex; gap: 8px; }
.codes { columns: 2; max-width: 460px; }
.wide { overflow-x: auto; }
img { image-rendering: pixelated; border: 1px solid var(--line); }
</style>
